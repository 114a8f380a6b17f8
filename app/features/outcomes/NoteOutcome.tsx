import type { Outcomes } from '@pace-check/contract';
import {
  GLITCH_KINDS,
  OUTCOME_STATUSES,
  SMOOTH_WORDS,
  type OutcomeStatus,
  type SmoothWord,
} from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { v4 as uuid } from 'uuid';
import { useDeleteOutcome, useNoteOutcomes } from '../../api/outcomes';
import { useKit } from '../../api/queries';
import { Flag } from '../../forms/Flag';
import { Chips } from '../../ui/Chips';
import { Row, Sheet, Stack } from '../../ui/parts';
import { NamePicker } from '../../ui/PickOrAdd';
import { useToast } from '../../ui/Toast';
import { Body, Quiet } from '../../ui/words';
import { today } from './today';
import { TriedOn, useTriedOn } from './TriedOn';

/** How often it stumbles, as a word to tap. */
const OFTEN: Record<SmoothWord, string> = {
  none: 'not at all',
  occasional: 'now and then',
  frequent: 'often',
  constant: 'all the time',
};
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
  const [stumbles, setStumbles] = useState<SmoothWord | null>(null);
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
            stumbles,
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
          setStumbles(null);
        },
        onError: (error) => toast({ text: `Not saved: ${error.message}` }),
      },
    );
  };
  const ready = title.trim() !== '' && on.device.trim() !== '';
  const known = [
    ...new Set([...(kit?.titles ?? []).map((one) => one.name), ...all.outcomes.map((one) => one.title)]),
  ];
  return (
    <Sheet gap={8} role="form" aria-label="Add result">
      <TriedOn facts={on} onChange={setOn} layers={layers} />
      <NamePicker label="Title" known={known} what="title" value={title} onChange={setTitle} />
      <Input
        label="Where it crashes, or what is wrong"
        aria-label="Where it crashes, or what is wrong"
        value={where}
        onChangeText={setWhere}
        maxLength={400}
        renderErrorMessage={false}
      />
      <Row gap={8} wrap>
        <Stack flex={1} style={{ minWidth: 150 }}>
          <Input
            label="Settings tested"
            aria-label="Settings tested"
            value={tried}
            onChangeText={setTried}
            maxLength={400}
            renderErrorMessage={false}
          />
        </Stack>
        <Stack flex={1} style={{ minWidth: 150 }}>
          <Input
            label="Evidence"
            aria-label="Evidence"
            value={evidence}
            onChangeText={setEvidence}
            maxLength={400}
            renderErrorMessage={false}
          />
        </Stack>
      </Row>
      <Row gap={12} wrap role="group" aria-label="Glitches">
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
      <Body head>Stutter seen (optional)</Body>
      <Chips
        label="Stutter seen"
        options={[...SMOOTH_WORDS]}
        words={(word) => OFTEN[word as SmoothWord]}
        selected={stumbles === null ? [] : [stumbles]}
        onChange={(chosen) => setStumbles((chosen.at(-1) as SmoothWord | undefined) ?? null)}
      />
      <Body head>Status (tap to save)</Body>
      <Row gap={8} wrap role="group" aria-label="Status">
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
      {ready ? null : <Quiet>Choose a device and a title.</Quiet>}
    </Sheet>
  );
}
