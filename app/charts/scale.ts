import { scaleLinear, type ScaleLinear } from 'd3-scale';
import { line } from 'd3-shape';

/** From values to their place, px. */
export type Scale = ScaleLinear<number, number>;

/** A scale from one span of values onto one of places; a span of nothing is taken for one of a unit. */
export const scale = ([from, to]: [number, number], places: [number, number]): Scale =>
  scaleLinear()
    .domain([from, to === from ? from + 1 : to])
    .range(places);

/** The path through points, as SVG writes it; it breaks where there is none. Nothing where there are fewer than two. */
export function pathOf(points: ([x: number, y: number] | null)[]): string {
  return (
    line<[number, number] | null>()
      .defined((point) => point !== null)
      .x((point) => point![0])
      .y((point) => point![1])
      .digits(1)(points) ?? ''
  );
}
