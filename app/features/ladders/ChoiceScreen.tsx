import { ROUTES, type ChoiceDetail, type ChoiceDoc, type TriedRun } from '@pace-check/contract';
import {
  Archive,
  choiceState,
  sayChoice,
  sayCost,
  saySpeed,
  type ChoiceProbe,
  type ChoiceState,
} from '@pace-check/core';
import { Link } from 'expo-router';
import { useMemo, useState, type ReactNode } from 'react';
import { Pressable } from 'react-native';
import { v4 as uuid } from 'uuid';
import { useChoice, useDeleteChoice, useKeepChoice } from '../../api/choices';
import { useDocument } from '../../api/useDocument';
import { BackTo } from '../../ui/BackTo';
import { count } from '../../ui/figures';
import { Page } from '../../ui/Page';
import { IfMay } from '../../ui/Role';
import { Sheet, Stack } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { Answered } from '../../ui/states';
import { TARGET } from '../../ui/theme';
import { useVoice } from '../../ui/Voice';
import { Body, Quiet } from '../../ui/words';
import { ChoicePad } from './ChoicePad';
import { ProbeList, RemoveSearch, SearchBar, SearchPage } from './SearchPage';
import { GetRun, TakeRuns } from './TakeRuns';

/** Options without an order beside each other: what to take, what is open, what a wrong choice costs. */
export function ChoiceScreen({ id }: { id: string }): ReactNode {
  const choice = useChoice(id);
  return (
    <Page>
      <BackTo href="/ladders" title="Best settings" />
      <Answered query={choice} loading={{ rows: 3, height: 120, label: 'Loading option search' }}>
        {(known) => <ChoicePage choice={known} />}
      </Answered>
    </Page>
  );
}

/** Runs that are offered as probes. */
const OFFERED = 5;

function ChoicePage({ choice }: { choice: ChoiceDetail }): ReactNode {
  const writing = useDocument<ChoiceDoc>(choice, useKeepChoice(choice.id));
  const { doc, change } = writing;
  const { temperature } = useVoice();
  const removal = useDeleteChoice();
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
    <>
      <Sheet marked gap={10} role="region" aria-label="Result so far">
        <Body head style={{ fontSize: 20, lineHeight: 26 }}>
          {sayChoice(state)}
        </Body>
        <Quiet>{`Valid for ${doc.title} on ${doc.device} only${doc.scene === '' ? '' : `, always at the same scene: ${doc.scene}`}. Start a new option search for another title.`}</Quiet>
        <IfMay route={ROUTES.changeChoice}>
          <ChoicePad
            // begun anew for each option: what was typed for another is not meant for it
            key={`${option} ${doc.probes.length}`}
            option={option}
            full={doc.full}
            onProbe={take}
          />
        </IfMay>
      </Sheet>
      <IfMay route={ROUTES.changeChoice}>
        <Section title={`Run with ${option}`}>
          <TakeRuns
            label="Runs that can be used"
            runs={choice.runs
              .filter((run) => !doc.probes.some((probe) => probe.runId === run.id))
              .slice(0, OFFERED)}
            word={`Option used: ${option}`}
            canTake={(run) => run.speed !== null || run.fps !== null}
            onTake={(run) => take(probeOfRun(run, option))}
          />
          <GetRun device={doc.device} title={doc.title} minutes={PROBE_MIN} />
        </Section>
      </IfMay>
    </>
  );
  const right = (
    <>
      <Options state={state} option={option} onPick={setPicked} />
      <ProbeList
        probes={doc.probes}
        say={(probe) => sayProbe(probe, temperature)}
        onTakeBack={(id) =>
          change((before) => ({ ...before, probes: before.probes.filter((one) => one.id !== id) }))
        }
      />
      {choice.elsewhere.length > 0 ? <Elsewhere choice={choice} /> : null}
    </>
  );
  return (
    <>
      <SearchPage
        title={`${doc.title} on ${doc.device}: which ${doc.axis}?`}
        facts={[doc.scene, doc.setup]}
        writing={writing}
        left={left}
        right={right}
      />
      <RemoveSearch what="choice" id={choice.id} name={`${doc.title} on ${doc.device}`} removal={removal} />
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
  const { temperature } = useVoice();
  const fastest = Math.max(...state.options.map((one) => one.speed ?? 0));
  return (
    <Section title="Side by side">
      <Stack role="list" aria-label="Options">
        {state.options.map((one) => {
          const { name, probes, speed, glitches, peakC } = one;
          const found = state.take?.option === name;
          return (
            <SearchBar
              key={name}
              name={name}
              figure={speed === null ? 'no speed entered' : saySpeed(speed, state.shares)}
              tags={[
                found ? 'recommended' : '',
                state.take === null && state.unbeaten.includes(name) ? 'best so far' : '',
                probes === 0 ? 'not tested' : count(probes, 'test'),
                glitches === null
                  ? ''
                  : `${count(Math.round(glitches * 10) / 10, 'glitch', 'glitches')} per test`,
                peakC === null ? '' : temperature(peakC),
                sayCost(one) ?? '',
              ].filter(Boolean)}
              share={fastest > 0 && speed !== null ? speed / fastest : 0}
              chosen={name === option}
              found={found}
              onPick={() => onPick(name)}
            />
          );
        })}
      </Stack>
      <Quiet>
        Options are compared in pairs, with each test counted as one run. Unclear differences stay open.
      </Quiet>
    </Section>
  );
}

function sayProbe(probe: ChoiceProbe & { note: string }, temperature: (celsius: number) => string): string {
  return [
    `${probe.option}: ${probe.percent !== null ? `${probe.percent} % of full speed` : `${probe.fps} fps`}`,
    probe.glitches === null ? null : count(probe.glitches, 'glitch', 'glitches'),
    probe.peakC === null ? null : temperature(probe.peakC),
    probe.firstPlay ? 'first play, not counted' : null,
    probe.note || null,
  ]
    .filter(Boolean)
    .join(' · ');
}

/** The same question for others: the answers differ, and none stands for all. */
function Elsewhere({ choice }: { choice: ChoiceDetail }): ReactNode {
  return (
    <Section title="Same question, other titles or devices">
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
