const KELVIN = 273.15;

/**
 * What an infrared reading would have been with the surface's real emissivity.
 *
 * The sensor saw W = ε_set·R⁴ + (1 − ε_set)·B⁴ (kelvin); the surface sends
 * ε·T⁴ + (1 − ε)·B⁴ of the same.
 *
 * @param readingC what the thermometer showed, °C
 * @param setEmissivity what it was set to, in (0, 1]
 * @param emissivity of the surface, in (0, 1]
 * @param surroundingsC temperature that the surface mirrors, °C
 * @returns °C, or null where the surroundings alone send more than was seen
 * @throws RangeError when an emissivity lies outside (0, 1]
 * @shown (command line and imports: infrared with another emissivity)
 * @source Stefan–Boltzmann law for a grey surface, any heat-transfer textbook
 * @example
 * correctEmissivity(40, 0.95, 0.95, 20)?.toFixed(6); // '40.000000'
 */
export function correctEmissivity(
  readingC: number,
  setEmissivity: number,
  emissivity: number,
  surroundingsC: number,
): number | null {
  for (const value of [setEmissivity, emissivity])
    if (!(value > 0 && value <= 1))
      throw new RangeError(`emissivity must be above 0 and at most 1, not ${value}`);
  const around = (surroundingsC + KELVIN) ** 4;
  const seen = setEmissivity * (readingC + KELVIN) ** 4 + (1 - setEmissivity) * around;
  const fourth = (seen - (1 - emissivity) * around) / emissivity;
  return fourth > 0 ? fourth ** 0.25 - KELVIN : null;
}
