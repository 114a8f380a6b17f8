import { useMemo } from 'react';
import { PanResponder, type GestureResponderEvent, type GestureResponderHandlers } from 'react-native';

/** A stretch of the run in seconds. */
export interface Stretch {
  fromS: number;
  toS: number;
}

/** How far a finger goes sideways before it draws instead of scrolling. */
const STARTS_AT = 8;

/** Follows one finger over a chart. The gesture counts from where the finger came down, not from where it was taken for drawing. */
class StretchDrag {
  private downX = 0;

  constructor(
    private readonly seconds: number,
    private readonly left: number,
    private readonly width: number,
    private readonly onDraw: (stretch: Stretch) => void,
  ) {}

  readonly handlers: GestureResponderHandlers = PanResponder.create({
    onMoveShouldSetPanResponder: (_event, { dx, dy, moveX }) => {
      this.downX = moveX - dx;
      return Math.abs(dx) > STARTS_AT && Math.abs(dx) > Math.abs(dy);
    },
    onPanResponderMove: (event, { moveX }) => this.draw(event, moveX),
    onPanResponderTerminationRequest: () => false,
  }).panHandlers;

  private draw(event: GestureResponderEvent, moveX: number): void {
    // on the web the responder is the element itself
    const viewX = (event.currentTarget as unknown as HTMLElement).getBoundingClientRect().left;
    const at = (pageX: number): number =>
      Math.min(
        this.seconds,
        Math.max(0, ((pageX - viewX - this.left) / Math.max(1, this.width)) * this.seconds),
      );
    const [from, to] = [at(this.downX), at(moveX)];
    this.onDraw({ fromS: Math.floor(Math.min(from, to)), toS: Math.ceil(Math.max(from, to)) });
  }
}

/**
 * Drags a stretch of time over a chart: sideways draws, up and down scrolls.
 *
 * @param seconds of the whole chart
 * @param left where its time begins, and `width` how far it goes, in pixels of the view
 */
export function useStretch(
  seconds: number,
  left: number,
  width: number,
  onDraw: (stretch: Stretch) => void,
): GestureResponderHandlers {
  return useMemo(
    () => new StretchDrag(seconds, left, width, onDraw).handlers,
    [seconds, left, width, onDraw],
  );
}
