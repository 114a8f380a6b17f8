/** Constants of the Magnus formula over water (WMO; from memory). */
const A = 17.62;
const B = 243.12;

/**
 * Temperature at which the air begins to leave water on a surface.
 *
 * @param airC temperature of the air, °C
 * @param humidity relative humidity, percent above 0, at most 100
 * @returns °C; null for a humidity that cannot be
 * @shown water condenses below
 * @source Magnus formula, e = 6.112·exp(17.62·T/(243.12 + T)) hPa over water, solved for T (WMO's constants, from memory)
 * @example
 * dewPoint(25, 50); // 13.85…
 */
export function dewPoint(airC: number, humidity: number): number | null {
  if (!(humidity > 0) || humidity > 100) return null;
  const g = Math.log(humidity / 100) + (A * airC) / (B + airC);
  return (B * g) / (A - g);
}

/** A plate that is so near above the dew point may be wet in places, °C. */
const NEAR_C = 2;

/** How a cold plate stands to the water of the air. */
export interface Condensation {
  plateC: number;
  dewC: number;
  /** "wet": at or below the dew point; "near": little above it. */
  state: 'wet' | 'near' | 'dry';
}

/**
 * Whether water may gather on a plate.
 *
 * @param roomC temperature of the room, °C; null where nobody knows
 * @param humidity relative humidity, percent; null where nobody knows
 * @returns null where the air is not known
 * @shown caution: water on the plate
 * @source the dew point; 2 °C above it common practice
 * @example
 * condensation(7, 25, 50)?.state; // 'wet'
 */
export function condensation(
  plateC: number,
  roomC: number | null,
  humidity: number | null,
): Condensation | null {
  const dewC = roomC === null || humidity === null ? null : dewPoint(roomC, humidity);
  if (dewC === null) return null;
  return { plateC, dewC, state: plateC <= dewC ? 'wet' : plateC <= dewC + NEAR_C ? 'near' : 'dry' };
}
