/** Scales in which people think of temperatures. */
export type TemperatureUnit = 'C' | 'F';

/**
 * @source °F = 1.8 °C + 32, exact
 * @example
 * toFahrenheit(43); // 109.4
 */
export const toFahrenheit = (celsius: number): number => 1.8 * celsius + 32;

/**
 * @source °C = (°F − 32) / 1.8, exact
 * @example
 * toCelsius(212); // 100
 */
export const toCelsius = (fahrenheit: number): number => (fahrenheit - 32) / 1.8;
