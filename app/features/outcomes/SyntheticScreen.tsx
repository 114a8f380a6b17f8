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
      <BackTo href="/outcomes" title="Outcomes" />
      <Heading level={1} style={{ marginTop: -10 }}>
        Synthetic scores
      </Heading>
      <Quiet>
        What a tool makes of a chip, from cold, with the rise that it costs. Kept apart: no figure, no
        comparison and no rating of a title knows of it.
      </Quiet>
      <IfMay route={ROUTES.newSynthetic}>
        <Row>
          <Button
            title={adding ? 'Close' : 'Note a score'}
            aria-expanded={adding}
            onPress={() => setAdding(!adding)}
          />
        </Row>
      </IfMay>
      {adding ? <NewScore onDone={() => setAdding(false)} /> : null}
      <Answered query={all} loading={{ rows: 3, height: 80, label: 'Loading the scores' }}>
        {(records) =>
          records.length === 0 ? (
            <Quiet>None is noted.</Quiet>
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
      ? `${count(doc.scores.length, 'time')}: ${score(loop.first)} to ${score(loop.last)}, ${percent(loop.ratio)} left`
      : null,
    doc.coldC === null ? null : `from ${temperature(doc.coldC)}`,
    riseC === null ? null : `${difference(riseC)} warmer after it`,
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
      {question === null ? null : <Body small role="note">{`Questioned: ${question}`}</Body>}
      <RemoveButton
        title="Delete"
        gone={`The score of ${doc.device} is deleted.`}
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
      {text('Its version', version, setVersion)}
      {text('Score; of a loop one each time', scores, setScores, '4100, 3950, 3700')}
      <Input
        multiline
        label="Parts, one a line"
        aria-label="Parts"
        placeholder={'graphics 2000\nprocessor 2100'}
        value={parts}
        onChangeText={setParts}
        numberOfLines={Math.min(8, parts.split('\n').length + 1)}
        inputStyle={{ paddingVertical: 8 }}
        renderErrorMessage={false}
      />
      <Row gap={10} wrap>
        <Stack style={{ width: 150 }}>
          <TemperatureInput label="Skin before" of="skin" value={coldC} onChange={setCold} />
        </Stack>
        <Stack style={{ width: 150 }}>
          <TemperatureInput label="Skin after" of="skin" value={hotC} onChange={setHot} />
        </Stack>
        <Stack style={{ width: 150 }}>
          <TemperatureInput label="Room" of="room" value={roomC} onChange={setRoom} />
        </Stack>
      </Row>
      {text('Note', note, setNote)}
      {wrong || create.error ? (
        <Body role="alert">{wrong ?? `Not kept: ${create.error!.message}`}</Body>
      ) : null}
      <Row>
        <Button
          title="Keep the score"
          disabled={device.trim() === '' || tool.trim() === '' || scores.trim() === ''}
          loading={create.isPending}
          onPress={keep}
        />
      </Row>
    </Sheet>
  );
}
