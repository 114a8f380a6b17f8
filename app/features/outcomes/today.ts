/** This day by the reader's calendar, for instance "2026-05-03". */
export function today(): string {
  const now = new Date();
  const two = (value: number): string => String(value).padStart(2, '0');
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
}
