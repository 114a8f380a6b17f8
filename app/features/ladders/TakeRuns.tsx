import type { TriedRun } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { useRouter } from 'expo-router';
import type { ReactNode } from 'react';
import { Row, Stack } from '../../ui/parts';
import { Body, Quiet } from '../../ui/words';

/** Runs that are there already, each to be taken as what was just tried. */
export function TakeRuns({
  label,
  runs,
  word,
  canTake,
  onTake,
}: {
  label: string;
  runs: TriedRun[];
  /** What the button of each says. */
  word: string;
  canTake: (run: TriedRun) => boolean;
  onTake: (run: TriedRun) => void;
}): ReactNode {
  if (runs.length === 0) return <Quiet>No suitable runs yet.</Quiet>;
  return (
    <Stack role="list" aria-label={label} gap={4}>
      {runs.map((run) => (
        <Row key={run.id} role="listitem" apart align="center" gap={8}>
          <Stack style={{ flexShrink: 1 }}>
            <Body small>{[run.name, run.setup].filter(Boolean).join(' · ')}</Body>
            <Quiet>{run.says}</Quiet>
          </Stack>
          <Button
            type="clear"
            title={word}
            aria-label={`${word} ${run.name}`}
            disabled={!canTake(run)}
            onPress={() => onTake(run)}
          />
        </Row>
      ))}
    </Stack>
  );
}

/** Ways to get a run to take: recorded at the bench, or read off afterwards, of the same device and title. */
export function GetRun({
  device,
  title,
  minutes,
}: {
  device: string;
  title: string;
  minutes: number;
}): ReactNode {
  const router = useRouter();
  const of = new URLSearchParams({ device, title }).toString();
  return (
    <Row gap={8} wrap>
      <Button
        type="outline"
        title={`Record a run of ${minutes} min`}
        aria-label={`Record a run of ${minutes} min at the bench`}
        onPress={() => router.navigate(`/bench/new?${of}&minutes=${minutes}`)}
      />
      <Button type="outline" title="Quick result" onPress={() => router.navigate(`/quick?${of}`)} />
    </Row>
  );
}
