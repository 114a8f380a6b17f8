import type { Outcomes } from '@pace-check/contract';
import { GLITCH_KINDS, OUTCOME_STATUSES, type OutcomeStatus } from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { v4 as uuid } from 'uuid';
import { useDeleteOutcome, useNoteOutcomes } from '../../api/outcomes';
import { useKit } from '../../api/queries';
import { Flag } from '../../forms/Flag';
import { Row, Sheet, Stack } from '../../ui/parts';
import { NamePicker } from '../../ui/PickOrAdd';
import { useToast } from '../../ui/Toast';
import { Body, Quiet } from '../../ui/words';
import { today } from './today';
import { TriedOn, useTriedOn } from './TriedOn';

type GlitchKind = (typeof GLITCH_KINDS)[number];

/** One outcome after the other by thumb: the title, and a tap on how it goes. What it was tried on stays. */
export function NoteOutcome({ all, layers }: { all: Outcomes; layers: string[] }): ReactNode {
  const kit = useKit().data;
  const toast = useToast();
  const note = useNoteOutcomes();
  const remove = useDeleteOutcome();
  const [on, setOn] = useTriedOn();
  const [title, setTitle] = useState('');
  const [where, setWhere] = useState('');
  const [evidence, setEvidence] = useState('');
  const [tried, setTried] = useState('');
  const [glitches, setGlitches] = useState<GlitchKind[]>([]);
  const [firstPlay, setFirstPlay] = useState(false);
  const take = (status: OutcomeStatus): void => {
    const id = uuid();
    const noted = { title: title.trim(), device: on.device.trim() };
    note.mutate(
      {
        outcomes: [
          {
            id,
            ...on,
            ...noted,
            status,
            where,
            glitches: status === 'glitches' ? glitches : [],
            firstPlay,
            date: today(),
            evidence,
            tried,
          },
        ],
      },
      {
        onSuccess: () => {
          toast({
            text: `${noted.title} on ${noted.device}: ${status}.`,
            undo: () => remove.mutate({ id }),
          });
          setTitle('');
          setWhere('');
          setEvidence('');
          setTried('');
          setGlitches([]);
          setFirstPlay(false);
        },
        onError: (error) => toast({ text: `It is not noted: ${error.message}` }),
      },
    );
  };
  const ready = title.trim() !== '' && on.device.trim() !== '';
  const known = [
    ...new Set([...(kit?.titles ?? []).map((one) => one.name), ...all.outcomes.map((one) => one.title)]),
  ];
  return (
    <Sheet gap={8} role="form" aria-label="Note an outcome">
      <TriedOn facts={on} onChange={setOn} layers={layers} />
      <NamePicker label="Title" known={known} what="title" value={title} onChange={setTitle} />
      <Input
        label="Where it crashed, or what is wrong"
        aria-label="Where it crashed, or what is wrong"
        value={where}
        onChangeText={setWhere}
        maxLength={400}
        renderErrorMessage={false}
      />
      <Row gap={8} wrap>
        <Stack flex={1} style={{ minWidth: 150 }}>
          <Input
            label="What was tried"
            aria-label="What was tried"
            value={tried}
            onChangeText={setTried}
            maxLength={400}
            renderErrorMessage={false}
          />
        </Stack>
        <Stack flex={1} style={{ minWidth: 150 }}>
          <Input
            label="What shows it"
            aria-label="What shows it"
            value={evidence}
            onChangeText={setEvidence}
            maxLength={400}
            renderErrorMessage={false}
          />
        </Stack>
      </Row>
      <Row gap={12} wrap role="group" aria-label="Glitches of">
        {GLITCH_KINDS.map((kind) => (
          <Flag
            key={kind}
            label={kind}
            value={glitches.includes(kind)}
            onChange={(taken) =>
              setGlitches(taken ? [...glitches, kind] : glitches.filter((one) => one !== kind))
            }
          />
        ))}
        <Flag label="first play" value={firstPlay} onChange={setFirstPlay} />
      </Row>
      <Body head>How it goes; a tap notes it</Body>
      <Row gap={8} wrap role="group" aria-label="How it goes">
        {OUTCOME_STATUSES.map((status) => (
          <Button
            key={status}
            type="outline"
            title={status}
            disabled={!ready || note.isPending}
            onPress={() => take(status)}
          />
        ))}
      </Row>
      {ready ? null : <Quiet>A device and a title are needed.</Quiet>}
    </Sheet>
  );
}
