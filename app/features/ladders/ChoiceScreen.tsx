import type { ChoiceDetail, ChoiceDoc, TriedRun } from '@pace-check/contract';
import {
  Archive,
  choiceState,
  sayChoice,
  sayCost,
  saySpeed,
  type ChoiceProbe,
  type ChoiceState,
} from '@pace-check/core';
import { Button } from '@rneui/themed';
import { Link, useRouter } from 'expo-router';
import { useMemo, useState, type ReactNode } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import { v4 as uuid } from 'uuid';
import { useChoice, useDeleteChoice, useKeepChoice } from '../../api/choices';
import { useDocument, type Writing } from '../../api/useDocument';
import { BackTo } from '../../ui/BackTo';
import { count } from '../../ui/figures';
import { usePalette, useWide } from '../../ui/Look';
import { NotKept } from '../../ui/NotKept';
import { Row, Sheet, Stack } from '../../ui/parts';
import { RemoveButton } from '../../ui/RemoveButton';
import { Section } from '../../ui/Section';
import { Answered } from '../../ui/states';
import { TARGET } from '../../ui/theme';
import { useVoice } from '../../ui/Voice';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';
import { ChoicePad } from './ChoicePad';
import { GetRun, TakeRuns } from './TakeRuns';

/** Options without an order beside each other: what to take, what is open, what a wrong choice costs. */
export function ChoiceScreen({ id }: { id: string }): ReactNode {
  const choice = useChoice(id);
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
      <Answered query={choice} loading={{ rows: 3, height: 120, label: 'Loading the choice' }}>
        {(known) => <ChoicePage choice={known} />}
      </Answered>
    </ScrollView>
  );
}

/** Runs that are offered as probes. */
const OFFERED = 5;

function ChoicePage({ choice }: { choice: ChoiceDetail }): ReactNode {
  const writing = useDocument(choice, useKeepChoice(choice.id));
  const { doc, change } = writing;
  const wide = useWide();
  const state = useMemo(
    () => choiceState(doc, new Archive([{ key: '', spread: { average: choice.spread } }])),
    [doc, choice.spread],
  );
  const [picked, setPicked] = useState<string | null>(null);
  const option = picked ?? state.next ?? state.take?.option ?? doc.options[0]!;
  const take = (probe: ChoiceDoc['probes'][number]): void => {
    setPicked(null);
    change((before) => ({ ...before, probes: [...before.probes, probe] }));
  };
  const left = (
    <Stack gap={16} flex={wide ? 1 : undefined}>
      <Sheet marked gap={10} role="region" aria-label="Where it stands">
        <Body head style={{ fontSize: 20, lineHeight: 26 }}>
          {sayChoice(state)}
        </Body>
        <Quiet>{`For ${doc.title} on ${doc.device} alone${doc.scene === '' ? '' : `, always at the same scene: ${doc.scene}`}. Another title is a choice of its own.`}</Quiet>
        <ChoicePad
          // begun anew for each option: what was typed for another is not meant for it
          key={`${option} ${doc.probes.length}`}
          option={option}
          full={doc.full}
          onProbe={take}
        />
      </Sheet>
      <Section title={`A run with ${option}`}>
        <TakeRuns
          label="Runs that may be probes"
          runs={choice.runs
            .filter((run) => !doc.probes.some((probe) => probe.runId === run.id))
            .slice(0, OFFERED)}
          word={`It was ${option}:`}
          canTake={(run) => run.speed !== null || run.fps !== null}
          onTake={(run) => take(probeOfRun(run, option))}
        />
        <GetRun device={doc.device} title={doc.title} minutes={PROBE_MIN} />
      </Section>
    </Stack>
  );
  const right = (
    <Stack gap={16} flex={wide ? 1 : undefined}>
      <Options state={state} option={option} onPick={setPicked} />
      <Probes doc={doc} change={change} />
      {choice.elsewhere.length > 0 ? <Elsewhere choice={choice} /> : null}
    </Stack>
  );
  return (
    <>
      <Stack gap={6} style={{ marginTop: -10 }}>
        <Heading level={1}>{`${doc.title} on ${doc.device}: which ${doc.axis}?`}</Heading>
        <Quiet style={{ fontSize: 15 }}>
          {[
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
      <Remove id={choice.id} name={`${doc.title} on ${doc.device}`} />
    </>
  );
}

/** A probe of an option takes so long, min. */
const PROBE_MIN = 3;

const probeOfRun = (run: TriedRun, option: string): ChoiceDoc['probes'][number] => ({
  id: uuid(),
  option,
  percent: run.speed === null ? null : Math.round(run.speed * 1000) / 10,
  fps: run.speed === null ? run.fps : null,
  glitches: run.glitches,
  peakC: run.peakC,
  firstPlay: run.firstPlay,
  note: `as in ${run.name}`,
  at: new Date().toISOString(),
  runId: run.id,
});

/** The options beside each other; a tap chooses which is tried. */
function Options({
  state,
  option,
  onPick,
}: {
  state: ChoiceState;
  option: string;
  onPick: (option: string) => void;
}): ReactNode {
  const { line, action, track, pace, ink } = usePalette();
  const { temperature } = useVoice();
  const fastest = Math.max(...state.options.map((one) => one.speed ?? 0));
  return (
    <Section title="Beside each other">
      <Stack role="list" aria-label="Options">
        {state.options.map((one) => {
          const { name, probes, speed, glitches, peakC } = one;
          const chosen = state.take?.option === name;
          const facts = [
            chosen ? 'take this' : null,
            state.take === null && state.unbeaten.includes(name) && speed !== null ? 'none beats it' : null,
            probes === 0 ? 'not tried' : `${probes} probe${probes === 1 ? '' : 's'}`,
            glitches === null
              ? null
              : `${count(Math.round(glitches * 10) / 10, 'glitch', 'glitches')} a probe`,
            peakC === null ? null : temperature(peakC),
            sayCost(one),
          ].filter(Boolean);
          const says = speed === null ? '–' : saySpeed(speed, state.shares);
          return (
            <Pressable
              key={name}
              role="listitem"
              aria-label={`${name}: ${speed === null ? 'no speed yet' : says}, ${facts.join(', ')}`}
              onPress={() => onPick(name)}
              style={{
                minHeight: TARGET,
                paddingVertical: 6,
                paddingHorizontal: 8,
                borderLeftWidth: 3,
                borderColor: name === option ? action : line,
                gap: 4,
              }}
            >
              <Row apart align="baseline" gap={8}>
                <FigureText size={18} style={{ flexShrink: 1 }}>
                  {name}
                </FigureText>
                <FigureText size={18}>{says}</FigureText>
              </Row>
              <View style={{ height: 8, backgroundColor: track }}>
                <View
                  style={{
                    height: 8,
                    width: `${fastest > 0 && speed !== null ? (speed / fastest) * 100 : 0}%`,
                    backgroundColor: chosen ? ink : pace,
                  }}
                />
              </View>
              <Quiet>{facts.join(' · ')}</Quiet>
            </Pressable>
          );
        })}
      </Stack>
      <Quiet>
        Each pair is compared as two sides of a comparison are, one probe as one run: what is not clear stays
        open.
      </Quiet>
    </Section>
  );
}

/** What was tried, the latest first; each can be taken back. */
function Probes({ doc, change }: Pick<Writing<ChoiceDoc>, 'doc' | 'change'>): ReactNode {
  const { temperature } = useVoice();
  const say = (probe: ChoiceProbe & { note: string }): string =>
    [
      `${probe.option}: ${probe.percent !== null ? `${probe.percent} % of full speed` : `${probe.fps} fps`}`,
      probe.glitches === null ? null : `${probe.glitches} glitch${probe.glitches === 1 ? '' : 'es'}`,
      probe.peakC === null ? null : temperature(probe.peakC),
      probe.firstPlay ? 'first play, not counted' : null,
      probe.note || null,
    ]
      .filter(Boolean)
      .join(' · ');
  return (
    <Section title="Probes">
      {doc.probes.length === 0 ? <Quiet>None yet.</Quiet> : null}
      <Stack role="list" aria-label="Probes" gap={2}>
        {[...doc.probes].reverse().map((probe) => (
          <Row key={probe.id} role="listitem" apart align="center" gap={8}>
            <Body small style={{ flexShrink: 1 }}>
              {say(probe)}
            </Body>
            <Button
              type="clear"
              title="Take back"
              aria-label={`Take back ${say(probe)}`}
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

/** The same question for others: the answers differ, and none stands for all. */
function Elsewhere({ choice }: { choice: ChoiceDetail }): ReactNode {
  return (
    <Section title="The same question elsewhere">
      {choice.elsewhere.map(({ id, says }) => (
        <Link key={id} href={`/choices/${id}`} asChild>
          <Pressable style={{ minHeight: TARGET, justifyContent: 'center' }}>
            <Body small>{says}</Body>
          </Pressable>
        </Link>
      ))}
    </Section>
  );
}

function Remove({ id, name }: { id: string; name: string }): ReactNode {
  const router = useRouter();
  return (
    <RemoveButton
      title="Delete the choice"
      gone={`The choice “${name}” is deleted.`}
      removal={useDeleteChoice()}
      id={id}
      onGone={() => router.navigate('/ladders')}
    />
  );
}
