/** Where heat goes in a handset: from the die to the skin, from the skin to the room. */
export interface Body {
  /** Heat that warms the die by 1 K, J. */
  dieJoulesPerK: number;
  skinJoulesPerK: number;
  /** K per W between die and skin. */
  dieToSkin: number;
  /** K per W between skin and room. */
  skinToRoom: number;
  /** Places on the skin: how much of the rise over the room each takes. */
  spots: Record<string, number>;
}

/** Two thermal nodes, stepped by the explicit Euler method (steps of a second or less). */
export class Heat {
  dieC: number;
  skinC: number;

  constructor(
    private readonly body: Body,
    private readonly roomC: number,
    startSkinC: number,
  ) {
    this.dieC = startSkinC;
    this.skinC = startSkinC;
  }

  /** @param dieW power in the die; @param restW power that enters at the skin (screen, board, battery) */
  step(dieW: number, restW: number, seconds: number): void {
    const { body } = this;
    const inward = (this.dieC - this.skinC) / body.dieToSkin;
    const outward = (this.skinC - this.roomC) / body.skinToRoom;
    this.dieC += ((dieW - inward) * seconds) / body.dieJoulesPerK;
    this.skinC += ((inward + restW - outward) * seconds) / body.skinJoulesPerK;
  }

  spotC(spot: string): number {
    return this.roomC + (this.skinC - this.roomC) * (this.body.spots[spot] ?? 1);
  }
}
