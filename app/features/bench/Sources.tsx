import {
  MISBEHAVIOURS,
  STAND_INS,
  type BenchSource,
  type Misbehaviour,
  type NewStandIn,
  type Recording,
  type SourceWithKey,
} from '@pace-check/contract';
import { Button, Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { useAddSource, useAddStandIn, useRevokeSource } from '../../api/bench';
import { Chips } from '../../ui/Chips';
import { Choices } from '../../ui/Choices';
import { NumberInput } from '../../ui/Field';
import { count } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';
import { useNow } from '../../outbox';
import { ShellText } from './ShellText';
import { Row, Sheet, Stack } from '../../ui/parts';

/** A source that said nothing for so long is silent, s. */
const SILENT_S = 5;
const SCENARIOS = ['fades', 'holds', 'buckles', 'sawtooth', 'crashes'];
const MISCHIEF: Record<Misbehaviour, string> = {
  'drop-out': 'connection drops',
  jump: 'clock jumps',
  doubles: 'sends duplicates',
  nonsense: 'sends invalid readings',
  crash: 'title crashes',
  dim: 'screen dims',
};

/** Who sends what: loggers, meters, stand-ins, and how to add one. */
export function Sources({ recording }: { recording: Recording }): ReactNode {
  const [adding, setAdding] = useState<'source' | 'stand-in' | 'text' | null>(null);
  const open = recording.status !== 'ended';
  return (
    <Stack gap={10}>
      {recording.sources.length === 0 ? (
        <Quiet>No logger connected: enter all readings by hand.</Quiet>
      ) : null}
      <Stack role="list" aria-label="Loggers" gap={6}>
        {recording.sources.map((source) => (
          <SourceRow key={source.id} source={source} recording={recording} />
        ))}
      </Stack>
      {open ? (
        <Row gap={8} wrap>
          <Button
            type="outline"
            title="Add simulated device"
            onPress={() => setAdding(adding === 'stand-in' ? null : 'stand-in')}
          />
          <Button
            type="outline"
            title="Add logger"
            onPress={() => setAdding(adding === 'source' ? null : 'source')}
          />
          {recording.status === 'running' ? (
            <Button
              type="outline"
              title="Paste shell text"
              onPress={() => setAdding(adding === 'text' ? null : 'text')}
            />
          ) : null}
        </Row>
      ) : null}
      {adding === 'stand-in' ? <StandIn recording={recording} onDone={() => setAdding(null)} /> : null}
      {adding === 'source' ? <NewSource recording={recording} /> : null}
      {adding === 'text' ? <ShellText recording={recording} onDone={() => setAdding(null)} /> : null}
    </Stack>
  );
}

function SourceRow({ source, recording }: { source: BenchSource; recording: Recording }): ReactNode {
  const now = useNow(1000);
  const { action } = usePalette();
  const revoke = useRevokeSource(recording.runId);
  const [why, setWhy] = useState(false);
  const { name, revoked, ended, frames, lines, refused, refusals, held, heardAt } = source;
  const ageS = heardAt === null ? null : Math.max(0, (now - heardAt) / 1000);
  const state = revoked
    ? 'key revoked'
    : ended !== null
      ? `ended, ${ended}`
      : ageS === null
        ? 'waiting'
        : recording.status === 'running' && ageS > SILENT_S
          ? `no data for ${Math.round(ageS)} s`
          : recording.status === 'ended'
            ? 'sent'
            : 'sending';
  return (
    <Sheet role="listitem" style={{ paddingHorizontal: 12, paddingVertical: 6 }}>
      <Row gap={8} align="center" apart>
        <Stack flex={1}>
          <Heading level={3}>{name}</Heading>
          <Quiet style={state.startsWith('silent') ? { color: action } : undefined}>
            {[
              state,
              frames > 0 ? count(frames, 'frame') : null,
              count(lines, 'line'),
              held > 0 ? `${held} waiting for an earlier batch` : null,
            ]
              .filter(Boolean)
              .join(' · ')}
          </Quiet>
        </Stack>
        {revoked ? null : (
          <Button
            type="clear"
            title="Revoke key"
            aria-label={`Revoke the key of ${name}`}
            loading={revoke.isPending}
            onPress={() => revoke.mutate(source.id)}
          />
        )}
      </Row>
      {refused > 0 ? (
        <Button
          type="clear"
          title={`${count(refused, 'line')} rejected: ${why ? 'hide' : 'why'}`}
          buttonStyle={{ paddingHorizontal: 0, justifyContent: 'flex-start' }}
          onPress={() => setWhy(!why)}
        />
      ) : null}
      {why
        ? refusals.map(({ batch, line: number, reason }, i) => (
            <Quiet key={i}>{`Batch ${batch}, line ${number}: ${reason}.`}</Quiet>
          ))
        : null}
      {revoke.error ? <Quiet role="alert">{revoke.error.message}</Quiet> : null}
    </Sheet>
  );
}

function StandIn({ recording, onDone }: { recording: Recording; onDone: () => void }): ReactNode {
  const add = useAddStandIn(recording.runId);
  const [kind, setKind] = useState<NewStandIn['kind']>('handset');
  const [scenario, setScenario] = useState(SCENARIOS[0]!);
  const [minutes, setMinutes] = useState<unknown>(recording.plan.minutes);
  const [misbehave, setMisbehave] = useState<Misbehaviour[]>([]);
  const length =
    minutes === null
      ? null
      : typeof minutes === 'number' && minutes > 0 && minutes <= 1440
        ? minutes
        : undefined;
  return (
    <Stack role="group" aria-label="Add simulated device" gap={8}>
      <Quiet>{`A simulated device for practice. It sends data ${recording.speed === 1 ? 'in real time' : `at ${recording.speed} × speed`}.`}</Quiet>
      <Choices
        label="Simulated device"
        options={STAND_INS.map((value) => ({
          value,
          text: value === 'thermometer' ? 'therm.' : value,
          spoken: value,
        }))}
        selected={kind}
        onSelect={setKind}
      />
      <Choices
        label="Behaviour of the run"
        options={SCENARIOS.map((value) => ({ value, text: value }))}
        selected={scenario}
        onSelect={setScenario}
      />
      <NumberInput
        label="Minutes"
        placeholder="default length"
        value={minutes}
        onChange={setMinutes}
        error={length === undefined ? 'Enter a number above 0, at most 1440' : undefined}
      />
      <Quiet>Faults to simulate</Quiet>
      <Chips
        label="Faults to simulate"
        options={[...MISBEHAVIOURS]}
        selected={misbehave}
        words={(one) => MISCHIEF[one as Misbehaviour]}
        onChange={(next) => setMisbehave(next as Misbehaviour[])}
      />
      {add.error ? <Body role="alert">{`Not connected: ${add.error.message}`}</Body> : null}
      <Row>
        <Button
          title="Connect"
          disabled={length === undefined}
          loading={add.isPending}
          onPress={() =>
            length !== undefined &&
            add.mutate({ kind, scenario, minutes: length, seed: 7, misbehave }, { onSuccess: onDone })
          }
        />
      </Row>
    </Stack>
  );
}

function NewSource({ recording }: { recording: Recording }): ReactNode {
  const add = useAddSource(recording.runId);
  const [name, setName] = useState('');
  return (
    <Stack role="group" aria-label="Add logger" gap={8}>
      <Input
        label="Name"
        aria-label="Name"
        placeholder="logger on the phone"
        value={name}
        onChangeText={setName}
        renderErrorMessage={false}
      />
      {add.error ? <Body role="alert">{`Not added: ${add.error.message}`}</Body> : null}
      <Row>
        <Button
          title="Create key"
          disabled={name.trim() === ''}
          loading={add.isPending}
          onPress={() => add.mutate({ name: name.trim(), kind: 'other' })}
        />
      </Row>
      {add.data ? <ShowKey source={add.data} /> : null}
    </Stack>
  );
}

/** The key, and a command that works as it is pasted. */
function ShowKey({ source }: { source: SourceWithKey }): ReactNode {
  const { track } = usePalette();
  const command = `curl --data-binary '{"type":"skin","atMs":1000,"spot":"back middle","c":31.5,"by":"infrared"}' -H 'Authorization: Bearer ${source.key}' '${window.location.origin}/api/live?seq=0'`;
  return (
    <Stack gap={6}>
      <Body>
        This key is shown only once. Anyone who has it can send data to this run until you revoke it.
      </Body>
      <FigureText selectable aria-label="Key">
        {source.key}
      </FigureText>
      <Quiet>Test it with:</Quiet>
      <Stack padding={10} style={{ backgroundColor: track, borderRadius: 6 }}>
        <Quiet selectable style={{ fontFamily: 'monospace' }}>
          {command}
        </Quiet>
      </Stack>
    </Stack>
  );
}
