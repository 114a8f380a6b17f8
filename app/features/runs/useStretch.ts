import { useMemo } from 'react';
import { PanResponder, type GestureResponderEvent, type GestureResponderHandlers, type PanResponderGestureState } from 'react-native';
import type { Stretch } from './Spans';

/** How far a finger goes sideways before it draws instead of scrolling. */
const STARTS_AT = 8;

/**
 * Drags a stretch of time over a chart: sideways draws, up and down scrolls.
 *
 * @param seconds of the whole chart
 * @param left where its time begins, and `width` how far it goes, in pixels of the view
 */
export function useStretch(seconds: number, left: number, width: number, onDraw: (stretch: Stretch | null) => void): GestureResponderHandlers {
  return useMemo(() => {
    const stretchOf = (event: GestureResponderEvent, { x0, moveX }: PanResponderGestureState): Stretch => {
      // on the web the responder is the element itself
      const viewX = (event.currentTarget as unknown as HTMLElement).getBoundingClientRect().left;
      const at = (pageX: number): number => Math.min(seconds, Math.max(0, ((pageX - viewX - left) / Math.max(1, width)) * seconds));
      return { fromS: Math.floor(Math.min(at(x0), at(moveX))), toS: Math.ceil(Math.max(at(x0), at(moveX))) };
    };
    return PanResponder.create({
      onMoveShouldSetPanResponder: (_event, { dx, dy }) => Math.abs(dx) > STARTS_AT && Math.abs(dx) > Math.abs(dy),
      onPanResponderMove: (event, gesture) => onDraw(stretchOf(event, gesture)),
      onPanResponderTerminationRequest: () => false,
    }).panHandlers;
  }, [seconds, left, width, onDraw]);
}
