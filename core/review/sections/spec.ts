import { chartBlocks, type SectionOf } from '../blocks';
import { specCards } from '../charts/specCard';

/** The devices as the kit knows them. */
export const SPEC: SectionOf = {
  kind: 'spec',
  title: 'The devices',
  blocks: ({ devices, runs }) => chartBlocks(specCards(devices, runs)),
};
