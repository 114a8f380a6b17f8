import type { ChoiceDoc } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { v4 as uuid } from 'uuid';
import { Flag } from '../../forms/Flag';
import { TemperatureInput } from '../../forms/TemperatureInput';
import { Choices } from '../../ui/Choices';
import { NumberInput } from '../../ui/Field';
import { Row, Stack } from '../../ui/parts';
import { Heading } from '../../ui/words';

type Probe = ChoiceDoc['probes'][number];

const HOW = [
  { value: 'percent', text: 'speed %' },
  { value: 'fps', text: 'fps' },
];

/** Takes one probe of an option: its speed, then glitches and warmth where they were noted. */
export function ChoicePad({
  option,
  full,
  onProbe,
}: {
  option: string;
  full: number | null;
  onProbe: (probe: Probe) => void;
}): ReactNode {
  const [how, setHow] = useState(full === null ? 'fps' : 'percent');
  const [value, setValue] = useState<unknown>(null);
  const [glitches, setGlitches] = useState<unknown>(null);
  const [peakC, setPeakC] = useState<unknown>(null);
  const [firstPlay, setFirstPlay] = useState(false);
  const number = typeof value === 'number' && value > 0 && value <= 1000 ? value : null;
  const whole = glitches === null || (typeof glitches === 'number' && glitches >= 0 && glitches % 1 === 0);
  const warm = peakC === null || typeof peakC === 'number';
  return (
    <Stack gap={8} role="group" aria-label={`Test of ${option}`}>
      <Heading level={3}>{`Enter result for ${option}`}</Heading>
      <Choices label="Source of the value" options={HOW} selected={how} onSelect={setHow} maxWidth={240} />
      <Row gap={8} wrap>
        <Stack style={{ flexGrow: 1, flexBasis: 110 }}>
          <NumberInput
            label={how === 'percent' ? 'Speed, %' : 'Rate, fps'}
            value={value}
            onChange={setValue}
            error={value !== null && number === null ? 'Enter a number above 0, at most 1000.' : undefined}
          />
        </Stack>
        <Stack style={{ flexGrow: 1, flexBasis: 90 }}>
          <NumberInput
            label="Glitches"
            value={glitches}
            onChange={setGlitches}
            error={whole ? undefined : 'Enter a whole number.'}
          />
        </Stack>
        <Stack style={{ flexGrow: 1, flexBasis: 110 }}>
          <TemperatureInput label="Highest temperature" of="skin" value={peakC} onChange={setPeakC} />
        </Stack>
      </Row>
      <Flag label="First play: shaders compiling, not counted" value={firstPlay} onChange={setFirstPlay} />
      <Row>
        <Button
          title="Save result"
          disabled={number === null || !whole || !warm}
          onPress={() =>
            onProbe({
              id: uuid(),
              option,
              percent: how === 'percent' ? number : null,
              fps: how === 'fps' ? number : null,
              glitches: glitches as number | null,
              peakC: peakC as number | null,
              firstPlay,
              note: '',
              at: new Date().toISOString(),
              runId: null,
            })
          }
        />
      </Row>
    </Stack>
  );
}
