/** A time as it is typed and read back, to the hundredth. */
export function sayTime(seconds: number): string {
  const hundredths = Math.round(seconds * 100);
  const minutes = Math.floor(hundredths / 6000);
  const rest = (hundredths % 6000) / 100;
  const hours = Math.floor(minutes / 60);
  const two = (value: number): string => `${value < 10 ? '0' : ''}${value}`;
  return hours > 0 ? `${hours}:${two(minutes % 60)}:${two(rest)}` : `${minutes}:${two(rest)}`;
}
