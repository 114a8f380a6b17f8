import { ROUTES, syntheticDoc, type SyntheticRecord } from '@pace-check/contract';
import { Button, Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { v4 as uuid } from 'uuid';
import { useDeleteSynthetic, useNewSynthetic, useSynthetic } from '../../api/synthetic';
import { KitName } from '../../forms/KitName';
import { TemperatureInput } from '../../forms/TemperatureInput';
import { BackTo } from '../../ui/BackTo';
import { count, day, percent } from '../../ui/figures';
import { Page } from '../../ui/Page';
import { Row, Sheet, Stack } from '../../ui/parts';
import { RemoveButton } from '../../ui/RemoveButton';
import { IfMay } from '../../ui/Role';
import { Answered } from '../../ui/states';
import { useVoice } from '../../ui/Voice';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';
import { today } from './today';
import { readParts, readScores } from './synthetic';

/** Scores of synthetic benchmarks: kept apart from runs, and in no rating. */
export function SyntheticScreen(): ReactNode {
  const all = useSynthetic();
  const [adding, setAdding] = useState(false);
  return (
    <Page>
      <BackTo href="/outcomes" title="Compatibility" />
      <Heading level={1} style={{ marginTop: -10 }}>
        Synthetic scores
      </Heading>
      <Quiet>
        Scores of benchmark tools, run from a cool start, with the temperature rise. They do not count in any
        figure, comparison or rating.
      </Quiet>
      <IfMay route={ROUTES.newSynthetic}>
        <Row>
          <Button
            title={adding ? 'Close' : 'Add score'}
            aria-expanded={adding}
            onPress={() => setAdding(!adding)}
          />
        </Row>
      </IfMay>
      {adding ? <NewScore onDone={() => setAdding(false)} /> : null}
      <Answered query={all} loading={{ rows: 3, height: 80, label: 'Loading scores' }}>
        {(records) =>
          records.length === 0 ? (
            <Quiet>No scores yet.</Quiet>
          ) : (
            <Stack role="list" aria-label="Synthetic scores" gap={10}>
              {records.map((record) => (
                <Record key={record.id} record={record} />
              ))}
            </Stack>
          )
        }
      </Answered>
    </Page>
  );
}

const score = (value: number): string => value.toLocaleString('en-GB');

function Record({ record: { id, doc, loop, riseC, question } }: { record: SyntheticRecord }): ReactNode {
  const { temperature, difference } = useVoice();
  const remove = useDeleteSynthetic();
  const tool = [doc.tool, doc.version].filter(Boolean).join(' ');
  const facts = [
    doc.parts.length > 0 ? doc.parts.map((part) => `${part.name} ${score(part.score)}`).join(', ') : null,
    loop
      ? `${count(doc.scores.length, 'pass', 'passes')}: ${score(loop.first)} to ${score(loop.last)}, ${percent(loop.ratio)} left`
      : null,
    doc.coldC === null ? null : `from ${temperature(doc.coldC)}`,
    riseC === null ? null : `${difference(riseC)} warmer afterwards`,
    doc.roomC === null ? null : `room ${temperature(doc.roomC)}`,
    doc.date === null ? null : day(doc.date),
    doc.note === '' ? null : doc.note,
  ].filter((one) => one !== null);
  return (
    <Sheet role="listitem" gap={4}>
      <Row apart align="baseline" gap={10}>
        <Body head style={{ flexShrink: 1 }}>{`${doc.device}, ${tool}`}</Body>
        <FigureText size={24}>{score(doc.scores[0]!)}</FigureText>
      </Row>
      <Quiet>{facts.join(' · ')}</Quiet>
      {question === null ? null : <Body small role="note">{`Doubtful: ${question}`}</Body>}
      <RemoveButton
        title="Delete"
        gone={`Score of ${doc.device} deleted.`}
        removal={remove}
        id={id}
        onGone={() => undefined}
      />
    </Sheet>
  );
}

function NewScore({ onDone }: { onDone: () => void }): ReactNode {
  const create = useNewSynthetic();
  const [device, setDevice] = useState('');
  const [tool, setTool] = useState('');
  const [version, setVersion] = useState('');
  const [scores, setScores] = useState('');
  const [parts, setParts] = useState('');
  const [coldC, setCold] = useState<unknown>(null);
  const [hotC, setHot] = useState<unknown>(null);
  const [roomC, setRoom] = useState<unknown>(null);
  const [note, setNote] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const keep = (): void => {
    const read = syntheticDoc.safeParse({
      device: device.trim(),
      tool: tool.trim(),
      version: version.trim(),
      scores: readScores(scores),
      parts: readParts(parts),
      coldC,
      hotC,
      roomC,
      date: today(),
      note: note.trim(),
    });
    if (!read.success) {
      const issue = read.error.issues[0]!;
      setWrong(`${String(issue.path[0] ?? 'It')}: ${issue.message}.`);
      return;
    }
    setWrong(null);
    create.mutate({ id: uuid(), doc: read.data }, { onSuccess: onDone });
  };
  const text = (
    label: string,
    value: string,
    onChange: (now: string) => void,
    placeholder = '',
  ): ReactNode => (
    <Input
      label={label}
      aria-label={label}
      value={value}
      onChangeText={onChange}
      placeholder={placeholder}
      renderErrorMessage={false}
    />
  );
  return (
    <Sheet gap={8} role="form" aria-label="New score">
      <KitName what="device" value={device} onChange={setDevice} />
      {text('Tool', tool, setTool)}
      {text('Tool version', version, setVersion)}
      {text('Score (for a loop, one per pass)', scores, setScores, '4100, 3950, 3700')}
      <Input
        multiline
        label="Sub-scores, one per line"
        aria-label="Sub-scores"
        placeholder={'graphics 2000\nprocessor 2100'}
        value={parts}
        onChangeText={setParts}
        numberOfLines={Math.min(8, parts.split('\n').length + 1)}
        inputStyle={{ paddingVertical: 8 }}
        renderErrorMessage={false}
      />
      <Row gap={10} wrap>
        <Stack style={{ width: 150 }}>
          <TemperatureInput label="Skin temperature before" of="skin" value={coldC} onChange={setCold} />
        </Stack>
        <Stack style={{ width: 150 }}>
          <TemperatureInput label="Skin temperature after" of="skin" value={hotC} onChange={setHot} />
        </Stack>
        <Stack style={{ width: 150 }}>
          <TemperatureInput label="Room temperature" of="room" value={roomC} onChange={setRoom} />
        </Stack>
      </Row>
      {text('Note', note, setNote)}
      {wrong || create.error ? (
        <Body role="alert">{wrong ?? `Not saved: ${create.error!.message}`}</Body>
      ) : null}
      <Row>
        <Button
          title="Save score"
          disabled={device.trim() === '' || tool.trim() === '' || scores.trim() === ''}
          loading={create.isPending}
          onPress={keep}
        />
      </Row>
    </Sheet>
  );
}
