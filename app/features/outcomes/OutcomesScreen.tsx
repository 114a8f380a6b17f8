import type { Outcome, Outcomes } from '@pace-check/contract';
import {
  CLAIM_LEVELS,
  claimShare,
  latestOutcomes,
  OUTCOME_STATUSES,
  problemList,
  runShare,
  sayCounted,
  type OutcomeStatus,
} from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { useMemo, useState, type ReactNode } from 'react';
import { FlatList, ScrollView } from 'react-native';
import { useDeleteOutcome, useOutcomes } from '../../api/outcomes';
import { BackTo } from '../../ui/BackTo';
import { day } from '../../ui/figures';
import { usePalette, useWide } from '../../ui/Look';
import { Row, Stack } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { Select } from '../../ui/Select';
import { Answered } from '../../ui/states';
import { useToast } from '../../ui/Toast';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';
import { NoteClaims } from './NoteClaims';
import { NoteOutcome } from './NoteOutcome';
import { NoteVersion } from './NoteVersion';
import { PasteOutcomes } from './PasteOutcomes';

/** How it goes with titles that give no run: noted by thumb or pasted, counted by device, held against claims and versions. */
export function OutcomesScreen(): ReactNode {
  const all = useOutcomes();
  const wide = useWide();
  return (
    <ScrollView
      keyboardShouldPersistTaps="handled"
      // room below the last line, so that a message does not lie on it
      contentContainerStyle={{
        padding: wide ? 24 : 14,
        paddingBottom: 120,
        gap: 16,
        maxWidth: 1100,
        width: '100%',
      }}
    >
      <BackTo href="/" title="Runs" />
      <Heading level={1} style={{ marginTop: -10 }}>
        Outcomes
      </Heading>
      <Answered query={all} loading={{ rows: 4, height: 70, label: 'Loading the outcomes' }}>
        {(known) => <Known all={known} />}
      </Answered>
    </ScrollView>
  );
}

const ADDING = ['one', 'table', 'claims', 'version'] as const;
const ADD_WORDS = { one: 'Note one', table: 'Paste a table', claims: 'Claims', version: 'A new version' };

function Known({ all }: { all: Outcomes }): ReactNode {
  const [adding, setAdding] = useState<(typeof ADDING)[number] | null>(null);
  const layers = useMemo(
    () => [...new Set([...all.outcomes, ...all.versions].map((one) => one.with).filter(Boolean))].sort(),
    [all],
  );
  const latest = useMemo(() => latestOutcomes(all.outcomes), [all.outcomes]);
  return (
    <>
      <Row gap={8} wrap role="group" aria-label="Add">
        {ADDING.map((way) => (
          <Button
            key={way}
            type={adding === way ? 'solid' : 'outline'}
            title={ADD_WORDS[way]}
            aria-expanded={adding === way}
            onPress={() => setAdding(adding === way ? null : way)}
          />
        ))}
      </Row>
      {adding === 'one' ? <NoteOutcome all={all} layers={layers} /> : null}
      {adding === 'table' ? <PasteOutcomes layers={layers} /> : null}
      {adding === 'claims' ? <NoteClaims claims={all.claims} layers={layers} /> : null}
      {adding === 'version' ? <NoteVersion layers={layers} /> : null}
      {all.outcomes.length === 0 ? (
        <Body>
          Nothing noted yet. An outcome says how it goes with a title that gives no run: whether it starts,
          where it crashes, what is wrong with it.
        </Body>
      ) : (
        <>
          <Counts all={all} latest={latest} />
          {layers.map((layer) => (
            <Problems key={layer} all={all} layer={layer} />
          ))}
          <Matrix latest={latest} />
        </>
      )}
    </>
  );
}

/** How many run on each device, and what came of the claims. */
function Counts({ all, latest }: { all: Outcomes; latest: Outcome[] }): ReactNode {
  const devices = [...new Set(latest.map((one) => one.device))].sort();
  const claims = CLAIM_LEVELS.flatMap((level) => {
    const share = claimShare(level, all.claims, latest);
    return share.of === 0 ? [] : [{ level, share }];
  });
  return (
    <Section title="How many run">
      <Stack role="list" aria-label="How many run" gap={4} style={{ maxWidth: 520 }}>
        {devices.map((device) => (
          <Row key={device} role="listitem" apart gap={12}>
            <Body head style={{ flexShrink: 1 }}>
              {device}
            </Body>
            <FigureText>{sayCounted(runShare(latest.filter((one) => one.device === device)))}</FigureText>
          </Row>
        ))}
        {claims.map(({ level, share }) => (
          <Row key={level} role="listitem" apart gap={12}>
            <Body style={{ flexShrink: 1 }}>{`claimed: ${level}`}</Body>
            <FigureText>{`${sayCounted(share)}, did`}</FigureText>
          </Row>
        ))}
      </Stack>
      <Quiet>
        Of what was tried; what is not offered was not. Run: starts and goes on, slow or with glitches too. In
        brackets what the share may be (95 %, Wilson).
      </Quiet>
    </Section>
  );
}

/** Titles that did not always run at full speed, and how they go under the newest version. */
function Problems({ all, layer }: { all: Outcomes; layer: string }): ReactNode {
  const versions = all.versions.filter((one) => one.with === layer).map((one) => one.version);
  const rows = problemList(all.outcomes, layer, versions);
  const again = rows.filter((row) => row.progress === 'unverified');
  if (rows.length === 0) return null;
  return (
    <Section title={versions.length > 0 ? `${layer} ${versions.at(-1)}` : layer}>
      {again.length > 0 ? (
        <Stack role="list" aria-label={`To test again with ${layer} ${versions.at(-1)}`} gap={2}>
          <Quiet>{`To test again with ${versions.at(-1)}:`}</Quiet>
          {again.map(({ title, device, seen }) => (
            <Body key={`${title} ${device}`} role="listitem" small>
              {`${title} on ${device}: ${seen.at(-1)!.status} with ${seen.at(-1)!.version || 'an unknown version'}`}
            </Body>
          ))}
        </Stack>
      ) : null}
      <Stack role="list" aria-label={`Problems of ${layer}`} gap={2}>
        {rows
          .filter((row) => row.progress !== 'unverified')
          .map(({ title, device, progress, seen }) => (
            <Body key={`${title} ${device}`} role="listitem" small>
              <Body head small>{`${progress}  `}</Body>
              {`${title} on ${device}: ${seen.map(({ version, status }) => `${status}${version ? ` (${version})` : ''}`).join(', then ')}`}
            </Body>
          ))}
      </Stack>
    </Section>
  );
}

const STATUS_OPTIONS = OUTCOME_STATUSES.map((value) => ({ value, text: value }));

/** Every title with its latest outcome on each device. */
function Matrix({ latest }: { latest: Outcome[] }): ReactNode {
  const [q, setQ] = useState('');
  const [status, setStatus] = useState<OutcomeStatus | null>(null);
  const wide = useWide();
  const { line } = usePalette();
  const words = q.toLowerCase().split(/\s+/).filter(Boolean);
  const titles = useMemo(() => {
    const byTitle = new Map<string, Outcome[]>();
    for (const one of latest) byTitle.set(one.title, [...(byTitle.get(one.title) ?? []), one]);
    return [...byTitle].sort(([a], [b]) => a.localeCompare(b));
  }, [latest]);
  const shown = titles.filter(
    ([title, all]) =>
      words.every((word) =>
        `${title} ${all.map((one) => one.with).join(' ')}`.toLowerCase().includes(word),
      ) &&
      (status === null || all.some((one) => one.status === status)),
  );
  return (
    <Section title="Title by title">
      <Row gap={8} align="flex-end" wrap>
        <Stack flex={1} style={{ minWidth: 180 }}>
          <Input
            label="Find a title"
            aria-label="Find a title"
            value={q}
            onChangeText={setQ}
            renderErrorMessage={false}
          />
        </Stack>
        <Select label="Status" options={STATUS_OPTIONS} value={status} onChange={setStatus} none="any" />
      </Row>
      <FlatList
        role="list"
        aria-label="Outcomes"
        data={shown}
        scrollEnabled={false}
        initialNumToRender={40}
        keyExtractor={([title]) => title}
        renderItem={({ item: [title, all] }) => (
          <Stack
            role="listitem"
            gap={2}
            style={{
              borderTopWidth: 1,
              borderColor: line,
              paddingVertical: 8,
              flexDirection: wide ? 'row' : 'column',
            }}
          >
            <Body head style={{ width: wide ? 220 : undefined }}>
              {title}
            </Body>
            <Stack flex={wide ? 1 : undefined} gap={2}>
              {all.map((one) => (
                <OutcomeLine key={one.id} outcome={one} />
              ))}
            </Stack>
          </Stack>
        )}
      />
      {shown.length === 0 ? <Quiet>None.</Quiet> : null}
    </Section>
  );
}

function OutcomeLine({ outcome }: { outcome: Outcome }): ReactNode {
  const remove = useDeleteOutcome();
  const toast = useToast();
  const { id, title, device, status, where, glitches, scene, version, firstPlay, evidence, tried } = outcome;
  const failed = (error: Error): void => toast({ text: `It could not be done: ${error.message}` });
  return (
    <Row apart align="center" gap={8}>
      <Stack style={{ flexShrink: 1 }}>
        <Body small>
          {`${device}: `}
          <Body head small>
            {status}
          </Body>
          {[where ? `, ${where}` : '', glitches.length > 0 ? ` (${glitches.join(', ')})` : ''].join('')}
        </Body>
        <Quiet>
          {[
            [outcome.with, version].filter(Boolean).join(' ') || null,
            scene || null,
            firstPlay ? 'first play' : null,
            tried ? `tried: ${tried}` : null,
            evidence || null,
            outcome.source === 'own' ? null : `by ${outcome.source === 'reader' ? 'a reader' : 'memory'}`,
            day(outcome.date),
          ]
            .filter(Boolean)
            .join(' · ')}
        </Quiet>
      </Stack>
      <Button
        type="clear"
        title="Take out"
        aria-label={`Take out ${title} on ${device}`}
        onPress={() =>
          remove.mutate(
            { id },
            {
              onSuccess: () =>
                toast({
                  text: `${title} on ${device} is taken out.`,
                  undo: () => remove.mutate({ id, restore: true }, { onError: failed }),
                }),
              onError: failed,
            },
          )
        }
      />
    </Row>
  );
}
