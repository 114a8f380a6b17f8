import { SECTIONS } from '@pace-check/core';
import { Button } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { Row } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { SortableList } from '../../ui/SortableList';
import { Body, Quiet } from '../../ui/words';
import { type Writing } from './useWriting';

/** The order of the sections: dragged, or moved a place at a time. */
export function Order({ doc, change }: Pick<Writing, 'doc' | 'change'>): ReactNode {
  const [open, setOpen] = useState(false);
  const move = (from: number, by: -1 | 1): void =>
    change((before) => {
      const sections = [...before.sections];
      const [taken] = sections.splice(from, 1);
      sections.splice(from + by, 0, taken!);
      return { ...before, sections };
    });
  return (
    <Section
      title="Order of sections"
      aside={
        <Button
          type="clear"
          title={open ? 'Close' : 'Change'}
          aria-label={open ? 'Close the order of sections' : 'Change the order of sections'}
          onPress={() => setOpen(!open)}
        />
      }
    >
      {open ? (
        <SortableList
          items={doc.sections}
          idOf={(section) => section.kind}
          nameOf={({ kind }) => SECTIONS[kind].title}
          label="Sections"
          what="section"
          onOrder={(sections) => change((before) => ({ ...before, sections }))}
        >
          {({ kind, hidden }, i) => (
            <Row align="center" apart style={{ minHeight: 44 }}>
              <Body style={{ flexShrink: 1 }}>{`${SECTIONS[kind].title}${hidden ? ' (left out)' : ''}`}</Body>
              <Row>
                {([-1, 1] as const).map((by) => (
                  <Button
                    key={by}
                    type="clear"
                    title={by < 0 ? 'Up' : 'Down'}
                    aria-label={`Move ${SECTIONS[kind].title} ${by < 0 ? 'up' : 'down'}`}
                    disabled={doc.sections[i + by] === undefined}
                    onPress={() => move(i, by)}
                  />
                ))}
              </Row>
            </Row>
          )}
        </SortableList>
      ) : (
        <Quiet>
          {doc.sections
            .filter((section) => !section.hidden)
            .map(({ kind }) => SECTIONS[kind].title)
            .join(' · ')}
        </Quiet>
      )}
    </Section>
  );
}
