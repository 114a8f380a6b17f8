import type { RunDetail } from '@pace-check/contract';
import { clock, CONDITION_SPANS, readTime, type EntryLine } from '@pace-check/core';
import { Button } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { useAddEntries } from '../../api/queries';
import { CoolerAt, coolerLine, type CoolerFacts } from '../../forms/CoolerAt';
import { KitName } from '../../forms/KitName';
import { Choices } from '../../ui/Choices';
import { Row, Stack } from '../../ui/parts';
import { Select } from '../../ui/Select';
import { Body, Quiet } from '../../ui/words';
import { RunTime } from './RunTime';
import type { Stretch } from './useStretch';

const WAYS = [
  { value: 'switch', text: 'something turned on or off' },
  { value: 'title', text: 'another title' },
];
const SWITCHES = [...CONDITION_SPANS, 'charging'].map((kind) => ({ value: kind, text: kind }));

/** Afterwards: what was switched from when to when, or from when on another title was played. */
export function NoteSwitch({
  run,
  drawn = null,
}: {
  run: RunDetail;
  /** What was dragged over on a chart. */
  drawn?: Stretch | null;
}): ReactNode {
  const add = useAddEntries(run.id);
  const [open, setOpen] = useState(drawn !== null);
  const [way, setWay] = useState('switch');
  const [kind, setKind] = useState('cooler');
  const [cooler, setCooler] = useState<CoolerFacts>({});
  const [title, setTitle] = useState('');
  const [from, setFrom] = useState(drawn ? clock(drawn.fromS) : '');
  const [to, setTo] = useState(drawn ? clock(drawn.toS) : '');
  const [fromS, toS] = [readTime(from), readTime(to)];
  const line: EntryLine | null =
    fromS === null
      ? null
      : way === 'title'
        ? title.trim() === ''
          ? null
          : { type: 'title', atMs: fromS * 1000, title: title.trim() }
        : toS === null || toS <= fromS
          ? null
          : {
              type: 'span',
              fromMs: fromS * 1000,
              toMs: toS * 1000,
              kind,
              ...(kind === 'cooler' ? coolerLine(cooler) : {}),
            };
  const backwards = way === 'switch' && fromS !== null && toS !== null && toS <= fromS;
  return (
    <Stack gap={6}>
      <Row>
        <Button
          type="clear"
          title={open ? 'Close' : 'Add a change during the run'}
          aria-label={open ? 'Close' : 'Add a change during the run'}
          aria-expanded={open}
          onPress={() => setOpen(!open)}
        />
      </Row>
      {open ? (
        <Stack gap={8} role="form" aria-label="What was turned on">
          <Choices label="Type of change" options={WAYS} selected={way} onSelect={setWay} maxWidth={300} />
          {way === 'title' ? (
            <KitName label="Title from this time on" what="title" value={title} onChange={setTitle} />
          ) : (
            <Select
              label="Condition that was on"
              options={SWITCHES}
              value={kind}
              onChange={(chosen) => setKind(chosen ?? 'cooler')}
            />
          )}
          {way === 'switch' && kind === 'cooler' ? (
            <CoolerAt device={run.device ?? ''} roomC={run.roomC} value={cooler} onChange={setCooler} />
          ) : null}
          <Row gap={10} align="flex-end" wrap>
            <RunTime label="On at" value={from} onChange={setFrom} />
            {way === 'switch' ? <RunTime label="Off at" value={to} onChange={setTo} /> : null}
            <Button
              title="Add change"
              disabled={line === null}
              loading={add.isPending}
              onPress={() =>
                line &&
                add.mutate([line], { onSuccess: () => [setFrom, setTo, setTitle].forEach((set) => set('')) })
              }
            />
          </Row>
          {backwards ? <Quiet role="alert">The end must be later than the start.</Quiet> : null}
          {add.error ? <Body role="alert">{`Not added: ${add.error.message}`}</Body> : null}
        </Stack>
      ) : null}
    </Stack>
  );
}
