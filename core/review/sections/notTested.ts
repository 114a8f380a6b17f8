import { linesBlock, type SectionOf } from '../blocks';
import type { ReviewRequest } from '../model';

/** What was asked for and not tested, and what the devices would not take; why stands in the words. */
export const NOT_TESTED: SectionOf = {
  kind: 'not-tested',
  title: 'Not tested',
  blocks: ({ requests, refusals, runs }) =>
    linesBlock([
      ...requests.filter((one) => !one.answered && !isTested(one, runs)).map((one) => `${sayRequest(one)}.`),
      ...refusals.map(
        ({ device, title, setup, says }) =>
          `${device} does not run ${[setup, title].filter(Boolean).join(' in ')}${says === '' ? '' : `: ${says}`}.`,
      ),
    ]),
};

const isTested = (
  { title, device }: ReviewRequest,
  runs: readonly { stated: { title: string | null; device: string | null } }[],
): boolean =>
  runs.some(({ stated }) => stated.title === title && (device === null || stated.device === device));

/** A wish in words, for instance "Skiff 120 on Velm 5: asked for 3 times". */
export const sayRequest = ({ title, device, asked }: ReviewRequest): string =>
  `${title}${device === null ? '' : ` on ${device}`}: asked for ${asked === 1 ? 'once' : `${asked} times`}`;
