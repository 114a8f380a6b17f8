/** How many stored runs are judged by it from now on. */
export const followText = (runs: number): string =>
  runs === 0 ? '' : runs === 1 ? '; 1 run follows it' : `; ${runs} runs follow it`;
