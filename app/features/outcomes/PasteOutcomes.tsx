import { readOutcomeTable } from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { useMemo, useState, type ReactNode } from 'react';
import { v4 as uuid } from 'uuid';
import { useNoteOutcomes } from '../../api/outcomes';
import { count } from '../../ui/figures';
import { Row, Sheet, Stack } from '../../ui/parts';
import { useToast } from '../../ui/Toast';
import { Body, Quiet } from '../../ui/words';
import { today } from './today';
import { TriedOn, useTriedOn } from './TriedOn';

const EXAMPLE = 'title\tstatus\twhere\nIron Orchard\tcrashes\tafter the mill\nNight Ferry\tfull speed';
/** Lines that are pointed at; the others are counted. */
const POINTED = 40;

/** Many outcomes at once: what is clear is noted, what is not stays here to be mended. */
export function PasteOutcomes({ layers }: { layers: string[] }): ReactNode {
  const [on, setOn] = useTriedOn();
  const [text, setText] = useState('');
  const note = useNoteOutcomes();
  const toast = useToast();
  const { rows, problems } = useMemo(() => readOutcomeTable(text), [text]);
  const lacking = rows.some((row) => row.device === '') && on.device.trim() === '';
  const take = (): void =>
    note.mutate(
      {
        outcomes: rows.map(({ title, status, where, version, tried, evidence, device }) => ({
          id: uuid(),
          title,
          device: device || on.device.trim(),
          with: on.with,
          version: version || on.version,
          status,
          where,
          tried,
          evidence,
          date: today(),
        })),
      },
      {
        onSuccess: () => {
          toast({ text: `${count(rows.length, 'result')} saved.` });
          // what is not clear stays
          setText(problems.map((one) => one.text).join('\n'));
        },
        onError: (error) => toast({ text: `Not saved: ${error.message}` }),
      },
    );
  return (
    <Sheet gap={8} role="form" aria-label="Paste results">
      <TriedOn facts={on} onChange={setOn} layers={layers} />
      <Input
        multiline
        label="Table with the columns title, status, where, version, tried, evidence, device, in any order"
        aria-label="Table of results"
        placeholder={EXAMPLE}
        value={text}
        onChangeText={setText}
        numberOfLines={8}
        inputStyle={{ paddingVertical: 8 }}
        renderErrorMessage={false}
      />
      {problems.length > 0 ? (
        <Stack role="list" aria-label="Lines to correct" gap={2}>
          {problems.slice(0, POINTED).map(({ line, cell, message }) => (
            <Body key={line} role="listitem" small>
              {`Line ${line}, ${cell}: ${message}.`}
            </Body>
          ))}
          {problems.length > POINTED ? <Quiet>{`and ${problems.length - POINTED} more lines`}</Quiet> : null}
        </Stack>
      ) : null}
      {lacking ? <Quiet>Choose a device above, or add a device column.</Quiet> : null}
      <Row>
        <Button
          title={rows.length === 0 ? 'Save' : `Save ${count(rows.length, 'result')}`}
          disabled={rows.length === 0 || lacking}
          loading={note.isPending}
          onPress={take}
        />
      </Row>
    </Sheet>
  );
}
