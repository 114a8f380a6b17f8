import type { LadderDoc } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { v4 as uuid } from 'uuid';
import { Flag } from '../../forms/Flag';
import { Choices } from '../../ui/Choices';
import { NumberInput } from '../../ui/Field';
import { Row, Stack } from '../../ui/parts';
import { Heading } from '../../ui/words';

/** No handheld takes more. */
const MOST_W = 500;
type Probe = LadderDoc['probes'][number];

const HOW = [
  { value: 'percent', text: 'speed %' },
  { value: 'fps', text: 'fps' },
  { value: 'word', text: 'in words' },
];

/** Takes one probe: an emulator's percent, a rate, or only whether it holds. */
export function ProbePad({
  rung,
  full,
  withPower,
  onProbe,
}: {
  rung: string;
  full: number | null;
  /** What the device took is asked for too. */
  withPower: boolean;
  onProbe: (probe: Probe) => void;
}): ReactNode {
  const [how, setHow] = useState('percent');
  const [value, setValue] = useState<unknown>(null);
  const [firstPlay, setFirstPlay] = useState(false);
  const [watts, setWatts] = useState<unknown>(null);
  const note = (seen: Partial<Pick<Probe, 'percent' | 'fps' | 'holds'>>): void =>
    onProbe({
      id: uuid(),
      rung,
      percent: null,
      fps: null,
      holds: null,
      ...seen,
      firstPlay,
      watts: withPower && typeof watts === 'number' && watts > 0 && watts <= MOST_W ? watts : null,
      note: '',
      at: new Date().toISOString(),
      runId: null,
    });
  const number = typeof value === 'number' && value >= 0 && value <= 1000 ? value : null;
  return (
    <Stack gap={8} role="group" aria-label={`Test of ${rung}`}>
      <Heading level={3}>{`Enter result for ${rung}`}</Heading>
      <Choices label="Source of the value" options={HOW} selected={how} onSelect={setHow} maxWidth={360} />
      {withPower ? (
        <Stack style={{ width: 180 }}>
          <NumberInput
            label="Device power, W"
            value={watts}
            onChange={setWatts}
            error={
              watts === null || (typeof watts === 'number' && watts > 0 && watts <= MOST_W)
                ? undefined
                : `Enter a number above 0, at most ${MOST_W} W.`
            }
          />
        </Stack>
      ) : null}
      {how === 'word' ? (
        <Row gap={8}>
          <Button title="Holds" onPress={() => note({ holds: true })} />
          <Button type="outline" title="Does not hold" onPress={() => note({ holds: false })} />
        </Row>
      ) : (
        <Row gap={8} align="center" wrap>
          <Stack style={{ width: 180 }}>
            <NumberInput
              label={how === 'percent' ? 'Speed, %' : 'Rate, fps'}
              value={value}
              onChange={setValue}
              error={
                how === 'fps' && full === null
                  ? 'Full speed is unknown, so this value decides nothing yet.'
                  : value !== null && number === null
                    ? 'Enter a number from 0 to 1000.'
                    : undefined
              }
            />
          </Stack>
          <Button
            title="Save result"
            disabled={number === null}
            onPress={() => note(how === 'percent' ? { percent: number } : { fps: number })}
          />
        </Row>
      )}
      <Flag label="First play: shaders compiling, not counted" value={firstPlay} onChange={setFirstPlay} />
    </Stack>
  );
}
