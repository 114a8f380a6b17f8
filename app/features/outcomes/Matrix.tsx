import { ROUTES, type Outcome, type RunOutcome } from '@pace-check/contract';
import { DEMANDS, OUTCOME_STATUSES, runShare, sayBuild, sayCounted, STUMBLES } from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { Link } from 'expo-router';
import { memo, type ReactNode } from 'react';
import { Pressable } from 'react-native';
import { useDeleteOutcome } from '../../api/outcomes';
import { day } from '../../ui/figures';
import { usePalette, useWide } from '../../ui/Look';
import { IfMay } from '../../ui/Role';
import { Row, Stack } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { Select } from '../../ui/Select';
import { TARGET } from '../../ui/theme';
import { useToast } from '../../ui/Toast';
import { Body, Quiet } from '../../ui/words';
import { distinct, wasRun, type MatrixFilter, type MatrixRow, type Seen } from './matrixRows';

const asOptions = <T extends string>(values: readonly T[]): { value: T; text: T }[] =>
  values.map((value) => ({ value, text: value }));

/** Above the titles: what is shown of them, and how many of those run. */
export function MatrixHead({
  outcomes,
  rows,
  shown,
  filter,
  onChange,
}: {
  outcomes: Seen[];
  /** All titles; of them the systems and demands that can be chosen. */
  rows: MatrixRow[];
  shown: MatrixRow[];
  filter: MatrixFilter;
  onChange: (more: Partial<MatrixFilter>) => void;
}): ReactNode {
  const wide = useWide();
  const systems = distinct(rows.map((row) => row.system));
  const unders = distinct(outcomes.map(sayBuild));
  const devices = distinct(shown.flatMap((row) => row.outcomes.map((one) => one.device)));
  return (
    <Section title="Results by title">
      <Row gap={8} align="flex-end" wrap>
        <Stack flex={1} style={{ minWidth: 180 }}>
          <Input
            label="Search titles"
            aria-label="Search titles"
            value={filter.q}
            onChangeText={(q) => onChange({ q })}
            renderErrorMessage={false}
          />
        </Stack>
        <Select
          label="Status"
          options={asOptions([...OUTCOME_STATUSES, 'runs'] as const)}
          value={filter.status}
          onChange={(status) => onChange({ status })}
          none="any"
        />
        {unders.length > 1 ? (
          <Select
            label="With version"
            options={asOptions(unders)}
            value={filter.under}
            onChange={(under) => onChange({ under })}
            none="latest"
          />
        ) : null}
        {systems.length > 0 ? (
          <Select
            label="System"
            options={asOptions(systems)}
            value={filter.system}
            onChange={(system) => onChange({ system })}
            none="any"
          />
        ) : null}
        {rows.some((row) => row.demand !== null) ? (
          <Select
            label="Demand"
            options={asOptions(DEMANDS)}
            value={filter.demand}
            onChange={(demand) => onChange({ demand })}
            none="any"
          />
        ) : null}
      </Row>
      <Quiet role="status">
        {shown.length === 0
          ? 'None.'
          : `${shown.length} of ${rows.length} titles. Of these, ${sayCounted(runShare(shown.flatMap((row) => row.outcomes)))} run. Tap a title for details.`}
      </Quiet>
      {wide && shown.length > 0 ? (
        <Row gap={8} aria-hidden style={{ paddingBottom: 4 }}>
          <Quiet style={{ width: TITLE_WIDTH }}>Title</Quiet>
          {devices.map((device) => (
            <Quiet key={device} style={{ flex: 1 }}>
              {device}
            </Quiet>
          ))}
        </Row>
      ) : null}
    </Section>
  );
}

/** Room for the names of titles, px. */
const TITLE_WIDTH = 200;

/** A title with how it goes on each device; open, with all that was noted. */
export const TitleRow = memo(function TitleRow({
  row,
  devices,
  open,
  onOpen,
}: {
  row: MatrixRow;
  /** Columns of a wide screen. */
  devices: readonly string[];
  open: boolean;
  onOpen: (title: string) => void;
}): ReactNode {
  const { line } = usePalette();
  const wide = useWide();
  const { title, outcomes } = row;
  return (
    <Stack style={{ borderTopWidth: 1, borderColor: line }}>
      <Pressable
        role="button"
        aria-expanded={open}
        aria-label={`${title}: ${outcomes.map((one) => `${one.device} ${one.status}`).join(', ')}`}
        onPress={() => onOpen(title)}
        style={{
          minHeight: TARGET,
          paddingVertical: 6,
          gap: wide ? 8 : 2,
          flexDirection: wide ? 'row' : 'column',
          alignItems: wide ? 'center' : 'stretch',
        }}
      >
        <Body head style={wide ? { width: TITLE_WIDTH } : null}>
          {title}
        </Body>
        {wide ? (
          devices.map((device) => (
            <Body key={device} small style={{ flex: 1 }}>
              {outcomes
                .filter((one) => one.device === device)
                .map((one) => one.status)
                .join(', ') || '–'}
            </Body>
          ))
        ) : (
          <Body small>{outcomes.map((one) => `${one.device}: ${one.status}`).join(' · ')}</Body>
        )}
      </Pressable>
      {open ? (
        <Stack gap={2} role="list" aria-label={`Details of ${title}`} style={{ paddingBottom: 8 }}>
          {outcomes.map((one) =>
            wasRun(one) ? <RunLine key={one.runId} run={one} /> : <OutcomeLine key={one.id} outcome={one} />,
          )}
        </Stack>
      ) : null}
    </Stack>
  );
});

/** What a run says; it leads to the run. */
function RunLine({ run }: { run: RunOutcome }): ReactNode {
  const { runId, device, status, name, setup, firstPlay, stumbles } = run;
  return (
    <Stack role="listitem" style={{ minHeight: TARGET, justifyContent: 'center' }}>
      <Body small>
        {`${device}: `}
        <Body head small>
          {status}
        </Body>
        {stumbles ? `, ${STUMBLES[stumbles]}` : ''}
      </Body>
      <Row gap={6} wrap>
        <Link href={`/runs/${runId}`}>
          <Quiet style={{ textDecorationLine: 'underline' }}>{`run: ${name}`}</Quiet>
        </Link>
        <Quiet>
          {[sayBuild(run) || setup, firstPlay ? 'first play' : null, day(run.date)]
            .filter(Boolean)
            .join(' · ')}
        </Quiet>
      </Row>
    </Stack>
  );
}

function OutcomeLine({ outcome }: { outcome: Outcome }): ReactNode {
  const remove = useDeleteOutcome();
  const toast = useToast();
  const { id, title, device, status, where, glitches, stumbles, scene, firstPlay, evidence, tried } = outcome;
  const failed = (error: Error): void => toast({ text: `Not done: ${error.message}` });
  return (
    <Row apart align="center" gap={8} role="listitem">
      <Stack style={{ flexShrink: 1 }}>
        <Body small>
          {`${device}: `}
          <Body head small>
            {status}
          </Body>
          {[
            where ? `, ${where}` : '',
            glitches.length > 0 ? ` (${glitches.join(', ')})` : '',
            stumbles ? `, ${STUMBLES[stumbles]}` : '',
          ].join('')}
        </Body>
        <Quiet>
          {[
            sayBuild(outcome) || null,
            scene || null,
            firstPlay ? 'first play' : null,
            tried ? `settings tested: ${tried}` : null,
            evidence || null,
            outcome.source === 'own'
              ? null
              : `reported by ${outcome.source === 'reader' ? 'a reader' : 'memory'}`,
            day(outcome.date),
          ]
            .filter(Boolean)
            .join(' · ')}
        </Quiet>
      </Stack>
      <IfMay route={ROUTES.deleteOutcome}>
        <Button
          type="clear"
          title="Remove"
          aria-label={`Remove ${title} on ${device}`}
          onPress={() =>
            remove.mutate(
              { id },
              {
                onSuccess: () =>
                  toast({
                    text: `${title} on ${device} removed.`,
                    undo: () => remove.mutate({ id, restore: true }, { onError: failed }),
                  }),
                onError: failed,
              },
            )
          }
        />
      </IfMay>
    </Row>
  );
}
