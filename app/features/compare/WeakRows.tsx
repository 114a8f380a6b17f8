import { ROUTES, type ComparisonDetail, type WeakMeasure, type WeakValue } from '@pace-check/contract';
import {
  MEASURE_WORDS,
  RUN_MEASURES,
  sayMeasure,
  WEAK_SOURCES,
  type RunMeasure,
  type TemperatureUnit,
  type WeakSource,
} from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { v4 as uuid } from 'uuid';
import { ApiFailure } from '../../api/client';
import { useAddWeakValue, useDeleteWeakValue } from '../../api/compare';
import { useKit } from '../../api/queries';
import { day } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { Row, Sheet, Stack } from '../../ui/parts';
import { NamePicker } from '../../ui/PickOrAdd';
import { IfMay } from '../../ui/Role';
import { Section } from '../../ui/Section';
import { Select } from '../../ui/Select';
import { useToast } from '../../ui/Toast';
import { useVoice } from '../../ui/Voice';
import { Body, FigureText, Quiet } from '../../ui/words';

/** Values that nobody measured here: beside the runs, never among them. */
export function WeakRows({ comparison }: { comparison: ComparisonDetail }): ReactNode {
  const [adding, setAdding] = useState(false);
  const titles = [...new Set(comparison.side.flatMap((side) => side.runs.map((run) => run.title)))];
  return (
    <Section
      title="Values not measured here"
      aside={
        <IfMay route={ROUTES.addWeakValue}>
          <Button
            type="clear"
            title={adding ? 'Close' : 'Add'}
            aria-label={adding ? 'Close' : 'Add a value not measured here'}
            onPress={() => setAdding(!adding)}
          />
        </IfMay>
      }
    >
      {comparison.weak.length === 0 && !adding ? (
        <Quiet>
          For a value from an earlier article, from memory or from someone else. It is shown separately and
          never averaged or rated.
        </Quiet>
      ) : null}
      {comparison.weak.map((value) => (
        <WeakRow key={value.id} value={value} />
      ))}
      {adding ? <AddWeak titles={titles} onDone={() => setAdding(false)} /> : null}
    </Section>
  );
}

function WeakRow({ value }: { value: WeakValue }): ReactNode {
  const { unit } = useVoice();
  const { quiet } = usePalette();
  const remove = useDeleteWeakValue();
  const toast = useToast();
  return (
    <Stack
      style={{
        borderWidth: 1,
        borderStyle: 'dashed',
        borderColor: quiet,
        borderRadius: 6,
        paddingLeft: 10,
        paddingTop: 8,
      }}
    >
      <Row apart align="baseline" gap={10} style={{ paddingRight: 12 }}>
        <Body style={{ flexShrink: 1 }}>
          {[value.device, value.title, value.setup].filter(Boolean).join(' · ')}
        </Body>
        <FigureText size={19} style={{ flexShrink: 0 }}>
          {sayWeak(value, unit)}
        </FigureText>
      </Row>
      <Row apart align="center" gap={10}>
        <Quiet style={{ flexShrink: 1 }}>
          {[value.source, value.who, value.dated ? day(value.dated) : 'date unknown']
            .filter(Boolean)
            .join(', ')}
        </Quiet>
        <IfMay route={ROUTES.deleteWeakValue}>
          <Button
            type="clear"
            title="Remove"
            aria-label={`Remove ${value.title} on ${value.device}`}
            loading={remove.isPending}
            onPress={() =>
              remove.mutate(value.id, {
                onError: (error) => toast({ text: `Not removed: ${error.message}` }),
              })
            }
          />
        </IfMay>
      </Row>
    </Stack>
  );
}

function sayWeak({ measure, value, low, high }: WeakValue, unit: TemperatureUnit): string {
  if (measure === 'not offered' || value === null) return 'not available';
  const one = sayMeasure(measure, value, unit);
  const ends = low !== null || high !== null ? ` (${low ?? 'any'} to ${high ?? 'any'})` : '';
  return `~${one}${ends}`;
}

const MEASURES: { value: WeakMeasure; text: string }[] = [
  ...RUN_MEASURES.map((value) => ({ value, text: MEASURE_WORDS[value] })),
  { value: 'not offered', text: 'not available on this device' },
];
const UNITS: Record<RunMeasure, string> = {
  average: 'fps',
  median: 'fps',
  closing: 'fps',
  onePercentLow: 'fps',
  watts: 'W',
  hoursFromFull: 'hours',
  peakRise: '°C above room',
  peak: '°C',
};

/** A number as it is typed; null for none, NaN for something else. */
const typedNumber = (text: string): number | null =>
  text.trim() === '' ? null : Number(text.trim().replace(',', '.'));

function AddWeak({ titles, onDone }: { titles: string[]; onDone: () => void }): ReactNode {
  const kit = useKit();
  const add = useAddWeakValue();
  const [id, setId] = useState(() => uuid());
  const [typed, setTyped] = useState({
    device: '',
    title: titles[0] ?? '',
    value: '',
    low: '',
    high: '',
    who: '',
    dated: '',
  });
  const [measure, setMeasure] = useState<WeakMeasure>('average');
  const [source, setSource] = useState<WeakSource>('memory');
  const set =
    (field: keyof typeof typed) =>
    (text: string): void =>
      setTyped({ ...typed, [field]: text });
  const failed =
    add.error instanceof ApiFailure ? `${add.error.message} ${add.error.problem.remedy}` : add.error?.message;
  const offered = measure !== 'not offered';
  const number = (text: string): number | null => (offered ? typedNumber(text) : null);
  return (
    <Sheet gap={8}>
      <NamePicker
        label="Device"
        what="device"
        known={kit.data?.devices.map((device) => device.name) ?? []}
        value={typed.device}
        onChange={set('device')}
      />
      <NamePicker label="Title" what="title" known={titles} value={typed.title} onChange={set('title')} />
      <Row gap={10} wrap>
        <Select
          label="Measure"
          value={measure}
          options={MEASURES}
          onChange={(value) => value && setMeasure(value)}
        />
        <Select
          label="From"
          value={source}
          options={WEAK_SOURCES.map((value) => ({ value, text: value }))}
          onChange={(value) => value && setSource(value)}
        />
      </Row>
      {offered ? (
        <Row gap={8}>
          {(['value', 'low', 'high'] as const).map((field) => (
            <Stack key={field} flex={1}>
              <Input
                label={field === 'value' ? UNITS[measure] : field === 'low' ? 'at least' : 'at most'}
                aria-label={
                  field === 'value' ? `Value, ${UNITS[measure]}` : field === 'low' ? 'At least' : 'At most'
                }
                value={typed[field]}
                onChangeText={set(field)}
                inputMode="decimal"
                renderErrorMessage={false}
              />
            </Stack>
          ))}
        </Row>
      ) : null}
      <Input
        label="Article or person"
        aria-label="Article or person"
        value={typed.who}
        onChangeText={set('who')}
        renderErrorMessage={false}
      />
      <Input
        label="Date, such as 2026-03-01"
        aria-label="Date, such as 2026-03-01"
        value={typed.dated}
        onChangeText={set('dated')}
        renderErrorMessage={false}
      />
      {failed ? (
        <Body role="alert" small>
          {failed}
        </Body>
      ) : null}
      <Row>
        <Button
          title="Save value"
          loading={add.isPending}
          disabled={
            typed.device.trim() === '' ||
            typed.title.trim() === '' ||
            (offered && number(typed.value) === null)
          }
          onPress={() =>
            add.mutate(
              {
                id,
                device: typed.device.trim(),
                title: typed.title.trim(),
                measure,
                value: number(typed.value),
                low: number(typed.low),
                high: number(typed.high),
                source,
                who: typed.who.trim(),
                dated: typed.dated.trim() === '' ? null : typed.dated.trim(),
              },
              {
                onSuccess: () => {
                  setId(uuid());
                  onDone();
                },
              },
            )
          }
        />
      </Row>
    </Sheet>
  );
}
