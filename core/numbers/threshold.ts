/**
 * Comparisons against a threshold for computed figures.
 *
 * A figure that rounding has moved by less than `TOLERANCE` counts as equal to
 * the threshold: `atLeast` and `atMost` hold, `below` and `above` do not.
 * Source: docs/method.md, "Thresholds".
 */
export const TOLERANCE = 1e-9;

/** `value ≥ threshold`, equality within {@link TOLERANCE}. */
export const atLeast = (value: number, threshold: number): boolean => value >= threshold - TOLERANCE;

/** `value ≤ threshold`, equality within {@link TOLERANCE}. */
export const atMost = (value: number, threshold: number): boolean => value <= threshold + TOLERANCE;

/** `value < threshold`, equality within {@link TOLERANCE} does not count. */
export const below = (value: number, threshold: number): boolean => value < threshold - TOLERANCE;

/** `value > threshold`, equality within {@link TOLERANCE} does not count. */
export const above = (value: number, threshold: number): boolean => value > threshold + TOLERANCE;
