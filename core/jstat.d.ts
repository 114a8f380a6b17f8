/** The part of jstat that the tests ask for a second opinion; the package has no types of its own. */
declare module 'jstat' {
  export const studentt: {
    inv: (p: number, degreesOfFreedom: number) => number;
    cdf: (x: number, degreesOfFreedom: number) => number;
  };
  export const beta: { inv: (p: number, alpha: number, beta: number) => number };
}
