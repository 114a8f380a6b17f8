import type { LadderDetail, LadderDoc } from '@pace-check/contract';
import {
  extremeOf,
  minutesToGo,
  probeSpeed,
  sayNext,
  searchState,
  type LadderProbe,
  type SearchState,
} from '@pace-check/core';
import { Button } from '@rneui/themed';
import { useRouter } from 'expo-router';
import { useMemo, useState, type ReactNode } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import { useDeleteLadder, useKeepLadder, useLadder } from '../../api/ladders';
import { useDocument, type Writing } from '../../api/useDocument';
import { BackTo } from '../../ui/BackTo';
import { usePalette, useWide } from '../../ui/Look';
import { NotKept } from '../../ui/NotKept';
import { Row, Sheet, Stack } from '../../ui/parts';
import { RemoveButton } from '../../ui/RemoveButton';
import { Section } from '../../ui/Section';
import { Answered } from '../../ui/states';
import { TARGET } from '../../ui/theme';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';
import { Confirm } from './Confirm';
import { NewLadder } from './NewLadder';
import { PowerSection } from './PowerSection';
import { probeOfRun } from './probeOfRun';
import { ProbePad } from './ProbePad';
import { GetRun, TakeRuns } from './TakeRuns';

/** A search: what to try next and why, what is known of each rung, and what was tried. */
export function LadderScreen({ id }: { id: string }): ReactNode {
  const ladder = useLadder(id);
  const wide = useWide();
  return (
    <ScrollView
      keyboardShouldPersistTaps="handled"
      // room below the last line, so that a message does not lie on it
      contentContainerStyle={{
        padding: wide ? 24 : 14,
        paddingBottom: 120,
        gap: 16,
        maxWidth: 980,
        width: '100%',
      }}
    >
      <BackTo href="/ladders" title="Ladders and choices" />
      <Answered query={ladder} loading={{ rows: 3, height: 120, label: 'Loading the ladder' }}>
        {(known) => <Ladder ladder={known} />}
      </Answered>
    </ScrollView>
  );
}

/** "About 21 min to go, with the run that confirms." */
function sayToGo(doc: LadderDoc, state: SearchState): string {
  const confirmed = doc.confirmed !== null;
  if (confirmed || (state.stop && state.best === 0)) return 'Nothing is left to be tried.';
  return `About ${minutesToGo(state, doc.probeMin, confirmed)} min to go, with the run that confirms.`;
}

/** Runs that are offered as probes. */
const OFFERED = 5;

function Ladder({ ladder }: { ladder: LadderDetail }): ReactNode {
  const writing = useDocument(ladder, useKeepLadder(ladder.id));
  const { doc, change } = writing;
  const wide = useWide();
  const search = useMemo(() => ({ ...doc, prior: doc.prior?.weights ?? null }), [doc]);
  const state = useMemo(() => searchState(search), [search]);
  const [picked, setPicked] = useState<string | null>(null);
  const [going, setGoing] = useState(false);
  const rung = picked ?? doc.rungs[(state.next ?? Math.max(1, state.best)) - 1]!.name;
  const take = (probe: LadderDoc['probes'][number]): void => {
    setPicked(null);
    change((before) => ({ ...before, probes: [...before.probes, probe] }));
  };
  const left = (
    <Stack gap={16} flex={wide ? 1 : undefined}>
      <Sheet marked gap={10} role="region" aria-label="What to do next">
        <Body head style={{ fontSize: 20, lineHeight: 26 }}>
          {sayNext(search, state)}
        </Body>
        <Quiet>{sayToGo(doc, state)}</Quiet>
        <ProbePad
          // begun anew for each rung: what was typed for another is not meant for it
          key={`${rung} ${doc.probes.length}`}
          rung={rung}
          full={doc.full}
          withPower={doc.axis === 'power limit'}
          onProbe={take}
        />
      </Sheet>
      {state.stop ? null : (
        <Section title={`A run at ${rung}`}>
          <Quiet>A run is a probe as well: the last ones of this device and title.</Quiet>
          <TakeRuns
            label="Runs that may be probes"
            runs={ladder.runs
              .filter((run) => !doc.probes.some((probe) => probe.runId === run.id))
              .slice(0, OFFERED)}
            word={`It was ${rung}:`}
            canTake={(run) =>
              run.speed !== null || run.holds !== null || (run.fps !== null && doc.full !== null)
            }
            onTake={(run) => take(probeOfRun(run, rung))}
          />
          <GetRun device={doc.device} title={doc.title} minutes={Math.ceil(doc.probeMin)} />
        </Section>
      )}
      {state.stop ? <Confirm ladder={ladder} doc={doc} change={change} state={state} onProbe={take} /> : null}
    </Stack>
  );
  const right = (
    <Stack gap={16} flex={wide ? 1 : undefined}>
      <Rungs doc={doc} state={state} rung={rung} onPick={setPicked} />
      {doc.axis === 'power limit' ? <PowerSection doc={doc} /> : null}
      <Probes doc={doc} change={change} />
      <Prior ladder={ladder} doc={doc} change={change} />
    </Stack>
  );
  return (
    <>
      <Stack gap={6} style={{ marginTop: -10 }}>
        <Heading level={1}>{`${doc.title} on ${doc.device}`}</Heading>
        <Quiet style={{ fontSize: 15 }}>
          {[
            doc.axis,
            doc.scene || null,
            doc.setup || null,
            writing.kept ? 'all is kept' : writing.error ? null : 'keeping…',
          ]
            .filter(Boolean)
            .join(' · ')}
        </Quiet>
      </Stack>
      <NotKept writing={writing} />
      {wide ? (
        <Row gap={28} align="flex-start">
          {left}
          {right}
        </Row>
      ) : (
        <>
          {left}
          {right}
        </>
      )}
      <Section
        title="Another axis"
        aside={
          <Button
            type="clear"
            title={going ? 'Close' : 'Go on'}
            aria-label={going ? 'Close the other axis' : 'Go on with another axis'}
            onPress={() => setGoing(!going)}
          />
        }
      >
        <Quiet>
          What was found here is set, and the next thing is raised: first the resolution, then the filter,
          then upscaling.
        </Quiet>
        {going ? (
          <NewLadder
            from={{
              ...doc,
              setup: [doc.setup, state.best === 0 ? '' : `${doc.axis} ${doc.rungs[state.best - 1]!.name}`]
                .filter(Boolean)
                .join(', '),
            }}
          />
        ) : null}
      </Section>
      <Remove id={ladder.id} name={`${doc.title} on ${doc.device}`} />
    </>
  );
}

/** How likely each rung is the highest that holds, as bars; a tap chooses what is probed. */
function Rungs({
  doc,
  state,
  rung,
  onPick,
}: {
  doc: LadderDoc;
  state: SearchState;
  rung: string;
  onPick: (rung: string) => void;
}): ReactNode {
  const { track, pace, ink, line, action } = usePalette();
  const percent = (share: number): string => `${Math.round(share * 100)} %`;
  const rows = [
    { name: 'none', p: state.posterior[0]!, i: -1 },
    ...doc.rungs.map(({ name }, i) => ({ name, p: state.posterior[i + 1]!, i })),
  ];
  return (
    <Section title={`The ${extremeOf(doc.axis)} that holds is`}>
      <Stack role="list" aria-label="Rungs">
        {rows.map(({ name, p, i }) => {
          const seen = i < 0 ? null : state.seen[i]!;
          const tags = [
            i < 0 ? null : i + 1 === state.next ? 'next' : null,
            i >= 0 && state.wasted[i] ? 'wasted: beyond the screen’s pixels' : null,
            state.stop && i + 1 === state.best ? 'found' : null,
            doc.confirmed?.rung === name ? 'confirmed' : null,
            seen === null || seen === undefined ? null : `seen at ${percent(seen)}`,
          ].filter(Boolean);
          return (
            <Pressable
              key={name}
              role="listitem"
              aria-label={`${name}: ${percent(p)}${tags.length > 0 ? `, ${tags.join(', ')}` : ''}`}
              disabled={i < 0}
              onPress={() => onPick(name)}
              style={{
                minHeight: TARGET,
                paddingVertical: 4,
                paddingHorizontal: 8,
                borderLeftWidth: 3,
                borderColor: name === rung && i >= 0 ? action : line,
                gap: 4,
                justifyContent: 'center',
              }}
            >
              <Row apart align="baseline" gap={8}>
                <Row align="baseline" gap={8} style={{ flexShrink: 1 }}>
                  <FigureText size={18}>{name}</FigureText>
                  <Quiet style={{ flexShrink: 1 }}>{tags.join(', ')}</Quiet>
                </Row>
                <FigureText>{percent(p)}</FigureText>
              </Row>
              <View style={{ height: 8, backgroundColor: track }}>
                <View
                  style={{
                    height: 8,
                    width: `${p * 100}%`,
                    backgroundColor: state.stop && i + 1 === state.best ? ink : pace,
                  }}
                />
              </View>
            </Pressable>
          );
        })}
      </Stack>
    </Section>
  );
}

/** What was tried, the latest first; each can be taken back. */
function Probes({ doc, change }: Pick<Writing<LadderDoc>, 'doc' | 'change'>): ReactNode {
  return (
    <Section title="Probes">
      {doc.probes.length === 0 ? <Quiet>None yet.</Quiet> : null}
      <Stack role="list" aria-label="Probes" gap={2}>
        {[...doc.probes].reverse().map((probe) => (
          <Row key={probe.id} role="listitem" apart align="center" gap={8}>
            <Body small style={{ flexShrink: 1 }}>
              {sayProbe(probe, doc.full)}
            </Body>
            <Button
              type="clear"
              title="Take back"
              aria-label={`Take back ${sayProbe(probe, doc.full)}`}
              onPress={() =>
                change((before) => ({
                  ...before,
                  probes: before.probes.filter((one) => one.id !== probe.id),
                }))
              }
            />
          </Row>
        ))}
      </Stack>
    </Section>
  );
}

function sayProbe(probe: LadderProbe, full: number | null): string {
  const speed = probeSpeed(probe, full);
  const what =
    probe.percent !== null
      ? `${probe.percent} % of full speed`
      : probe.fps !== null
        ? `${probe.fps} fps${speed === null ? ', full speed not known' : ` (${Math.round(speed * 100)} %)`}`
        : probe.holds
          ? 'holds'
          : 'does not hold';
  return [
    `${probe.rung}: ${what}`,
    probe.watts === null ? null : `${probe.watts} W`,
    probe.firstPlay ? 'first play, not counted' : null,
    probe.note || null,
  ]
    .filter(Boolean)
    .join(' · ');
}

/** What a sibling's search says beforehand: shown, and taken out again. */
function Prior({
  ladder,
  doc,
  change,
}: { ladder: LadderDetail } & Pick<Writing<LadderDoc>, 'doc' | 'change'>): ReactNode {
  if (doc.prior === null && ladder.siblings.length === 0) return null;
  return (
    <Section title="Known beforehand">
      {doc.prior ? (
        <Row apart align="center" gap={8}>
          <Body small style={{ flexShrink: 1 }}>{`From ${doc.prior.says}, smoothed.`}</Body>
          <Button
            type="clear"
            title="Take out"
            aria-label="Take out what is known beforehand"
            onPress={() => change((before) => ({ ...before, prior: null }))}
          />
        </Row>
      ) : (
        ladder.siblings.map(({ id, says, weights }) => (
          <Row key={id} apart align="center" gap={8}>
            <Body small style={{ flexShrink: 1 }}>
              {says}
            </Body>
            <Button
              type="clear"
              title="Begin with it"
              aria-label={`Begin with ${says}`}
              onPress={() => change((before) => ({ ...before, prior: { from: id, says, weights } }))}
            />
          </Row>
        ))
      )}
    </Section>
  );
}

function Remove({ id, name }: { id: string; name: string }): ReactNode {
  const router = useRouter();
  return (
    <RemoveButton
      title="Delete the ladder"
      gone={`The ladder “${name}” is deleted.`}
      removal={useDeleteLadder()}
      id={id}
      onGone={() => router.navigate('/ladders')}
    />
  );
}
