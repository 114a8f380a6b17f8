import { chartBlocks, linesBlock, type SectionOf } from '../blocks';
import { powerChart } from '../charts/powerChart';

/** The lowest power limit that holds, and what each limit gives. */
export const POWER: SectionOf = {
  kind: 'power',
  title: 'Power limits',
  blocks: ({ power }) =>
    power.length === 0
      ? []
      : [
          ...linesBlock(
            power.map(({ title, device, lowest, rows }) => {
              if (lowest === null) return null;
              const hours = rows.find((row) => row.rung === lowest)?.hours ?? null;
              return `${title} on ${device}: ${lowest} is the lowest limit that holds full speed${hours === null ? '' : `, ${hours.toFixed(1)} h from a full battery`}.`;
            }),
          ),
          ...chartBlocks([powerChart(power)]),
          {
            is: 'table',
            label: 'Power limits',
            heads: ['Title', 'Device', 'Limit', 'Speed', 'Power used', 'Energy per frame', 'From full'],
            rows: power.flatMap(({ title, device, rows }) =>
              rows
                .filter((row) => row.speed !== null || row.watts !== null)
                .map((row) => [
                  title,
                  device,
                  row.mark === null ? row.rung : `${row.rung}, ${row.mark}`,
                  row.speed === null ? '–' : `${Math.round(row.speed * 100)}\u00a0%`,
                  row.watts === null ? '–' : `${row.watts.toFixed(1)}\u00a0W`,
                  row.perFrameMj === null ? '–' : `${Math.round(row.perFrameMj)}\u00a0mJ`,
                  row.hours === null ? '–' : `${row.hours.toFixed(1)}\u00a0h`,
                ]),
            ),
            small: POWER_SMALL,
          },
        ],
};

const POWER_SMALL =
  'Device power in each short test. A power limit covers the chip only; the screen adds to it. Energy per frame: watts divided by frames per second. Hours from full: battery capacity divided by watts.';
