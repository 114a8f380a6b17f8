import { readTimeCode, type Clip, type ReviewRun } from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { Row, Sheet, Stack } from '../../ui/parts';
import { Select } from '../../ui/Select';
import { Heading, Quiet } from '../../ui/words';
import { Footage } from './Footage';
import { sayTime } from './videoWords';

/** A clip: what it is called, which run it shows, and a moment that is in both. */
export function ClipForm({
  clip,
  runs,
  taken,
  fps,
  onClip,
  onDone,
}: {
  /** The one that is changed; null for a new one. */
  clip: Clip | null;
  runs: ReviewRun[];
  /** Names of the other clips. */
  taken: string[];
  fps: number | null;
  onClip: (clip: Clip) => void;
  onDone: () => void;
}): ReactNode {
  const [sync] = clip?.syncs ?? [];
  const [name, setName] = useState(clip?.name ?? '');
  const [runId, setRunId] = useState(clip?.runId ?? runs[0]?.id ?? null);
  const [length, setLength] = useState(typeof clip?.lengthS === 'number' ? sayTime(clip.lengthS) : '');
  const [clipTime, setClipTime] = useState(sync ? sayTime(sync.clipS) : '');
  const [runTime, setRunTime] = useState(sync ? sayTime(sync.runS) : '');
  const [tried, setTried] = useState(false);
  const clipS = readTimeCode(clipTime, fps);
  const runS = readTimeCode(runTime, null);
  const lengthS = length.trim() === '' ? null : readTimeCode(length, fps);
  const problems = {
    name:
      name.trim() === ''
        ? 'Enter a name.'
        : taken.includes(name.trim())
          ? 'Another clip has this name.'
          : undefined,
    length: length.trim() !== '' && lengthS === null ? NO_TIME : undefined,
    clip: clipS === null ? NO_TIME : undefined,
    run: runS === null ? NO_TIME : undefined,
  };
  const save = (): void => {
    setTried(true);
    if (runId === null || clipS === null || runS === null || Object.values(problems).some(Boolean)) return;
    onClip({ name: name.trim(), runId, lengthS, syncs: [{ clipS, runS }, ...(clip?.syncs.slice(1) ?? [])] });
    onDone();
  };
  const told = (problem: string | undefined): string | undefined => (tried ? problem : undefined);
  return (
    <Sheet gap={6} role="form" aria-label={clip ? `Clip ${clip.name}` : 'New clip'}>
      <Heading level={3}>{clip ? clip.name : 'New clip'}</Heading>
      <Input
        label="Name used in the cut list"
        aria-label="Name of the clip"
        placeholder="deck"
        value={name}
        onChangeText={setName}
        maxLength={60}
        errorMessage={told(problems.name)}
      />
      <Select
        label="Run shown in the clip"
        options={runs.map((run) => ({ value: run.id, text: run.name }))}
        value={runId}
        onChange={setRunId}
      />
      <Footage
        onTime={(seconds) => setClipTime(sayTime(seconds))}
        onLength={(seconds) => {
          if (Number.isFinite(seconds)) setLength(sayTime(seconds));
        }}
      />
      <Quiet>Choose one moment visible in both: a flash, a clap, or the digits of a counter.</Quiet>
      <Row gap={8} wrap>
        <Stack flex={1} style={{ minWidth: 150 }}>
          <Input
            label="Time in the clip"
            aria-label="Time in the clip"
            placeholder="0:05.2"
            value={clipTime}
            onChangeText={setClipTime}
            errorMessage={told(problems.clip)}
          />
        </Stack>
        <Stack flex={1} style={{ minWidth: 150 }}>
          <Input
            label="Time on the run’s clock"
            aria-label="The run’s clock says"
            placeholder="0:00"
            value={runTime}
            onChangeText={setRunTime}
            errorMessage={told(problems.run)}
          />
        </Stack>
        <Stack flex={1} style={{ minWidth: 150 }}>
          <Input
            label="Length, if known"
            aria-label="Length of the clip"
            placeholder="32:10"
            value={length}
            onChangeText={setLength}
            errorMessage={told(problems.length)}
          />
        </Stack>
      </Row>
      <Row gap={8}>
        <Button title="Save clip" onPress={save} />
        <Button type="clear" title="Cancel" onPress={onDone} />
      </Row>
    </Sheet>
  );
}

const NO_TIME = 'Enter a time such as 1:02.5 or 62.5.';
