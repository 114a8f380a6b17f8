import type { ReviewDoc, ReviewSection } from '@pace-check/contract';
import { SECTIONS, type Block, type LiveFigure, type SectionKind } from '@pace-check/core';
import { Button } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { count } from '../../ui/figures';
import { Sheet } from '../../ui/parts';
import { Quiet } from '../../ui/words';
import { Handling } from './Handling';
import { SectionSheet } from './SectionSheet';
import type { Writing } from './useWriting';

/** What the reviewer writes has nothing by itself, and is never folded. */
const ALWAYS: readonly SectionKind[] = ['verdict', 'handling'];

interface Props {
  doc: ReviewDoc;
  change: Writing['change'];
  blocks: Record<SectionKind, Block[]>;
  figures: LiveFigure[];
  address: (chart: string) => string;
  onSection: (section: ReviewSection) => void;
}

/** The sections of a review in their order; those that had nothing when the page was opened are folded away below. */
export function Sections({ doc, change, blocks, figures, address, onSection }: Props): ReactNode {
  // as it was at the start: nothing goes from under a hand while it is written
  const [folded] = useState(() =>
    doc.sections
      .filter(({ kind, text }) => !ALWAYS.includes(kind) && text.trim() === '' && blocks[kind].length === 0)
      .map(({ kind }) => kind),
  );
  const [open, setOpen] = useState(false);
  const isFolded = ({ kind, text }: ReviewSection): boolean =>
    folded.includes(kind) && text === '' && blocks[kind].length === 0;
  const away = doc.sections.filter(isFolded);
  const sheet = (section: ReviewSection): ReactNode => (
    <SectionSheet
      key={section.kind}
      section={section}
      // its lines stand where they are changed
      blocks={section.kind === 'handling' ? NO_BLOCKS : blocks[section.kind]}
      figures={figures}
      address={address}
      onChange={onSection}
    >
      {section.kind === 'handling' ? (
        <Handling
          lines={doc.handling}
          onLines={(handling) => change((before) => ({ ...before, handling }))}
        />
      ) : null}
    </SectionSheet>
  );
  return (
    <>
      {doc.sections.filter((section) => open || !isFolded(section)).map(sheet)}
      {away.length > 0 ? (
        <Sheet gap={4}>
          <Button
            type="clear"
            title={open ? 'Hide empty sections' : `${count(away.length, 'empty section')}: show`}
            aria-expanded={open}
            onPress={() => setOpen(!open)}
            containerStyle={{ alignSelf: 'flex-start' }}
            buttonStyle={{ paddingHorizontal: 0 }}
          />
          {open ? null : <Quiet>{away.map(({ kind }) => SECTIONS[kind].title).join(' · ')}</Quiet>}
        </Sheet>
      ) : null}
    </>
  );
}

const NO_BLOCKS: Block[] = [];
