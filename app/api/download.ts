/** Gives the browser a file to save, under a name. */
export function saveFile(content: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(content);
  link.download = name;
  link.click();
  // the browser has taken it by the next minute
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}
