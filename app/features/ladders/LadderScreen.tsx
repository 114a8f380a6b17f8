import { ROUTES, type LadderDetail, type LadderDoc } from '@pace-check/contract';
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
import { Link } from 'expo-router';
import { useMemo, useState, type ReactNode } from 'react';
import { useDeleteLadder, useKeepLadder, useLadder } from '../../api/ladders';
import { useDocument, type Writing } from '../../api/useDocument';
import { BackTo } from '../../ui/BackTo';
import { Page } from '../../ui/Page';
import { IfMay, useMay } from '../../ui/Role';
import { Row, Sheet, Stack } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { Answered } from '../../ui/states';
import { Body, Quiet } from '../../ui/words';
import { Confirm } from './Confirm';
import { NewLadder } from './NewLadder';
import { PowerSection } from './PowerSection';
import { nothingKnown, priorOf, searchOf, withProbe } from './priorOf';
import { probeOfRun } from './probeOfRun';
import { ProbePad } from './ProbePad';
import { ProbeList, RemoveSearch, SearchBar, SearchPage } from './SearchPage';
import { GetRun, TakeRuns } from './TakeRuns';

/** A search: what to try next and why, what is known of each rung, and what was tried. */
export function LadderScreen({ id }: { id: string }): ReactNode {
  const ladder = useLadder(id);
  return (
    <Page>
      <BackTo href="/ladders" title="Best settings" />
      <Answered query={ladder} loading={{ rows: 3, height: 120, label: 'Loading ladder' }}>
        {(known) => <Ladder ladder={known} />}
      </Answered>
    </Page>
  );
}

/** "About 21 min to go, with the run that confirms." */
function sayToGo(doc: LadderDoc, state: SearchState): string {
  const confirmed = doc.confirmed !== null;
  if (confirmed || (state.stop && state.best === 0)) return 'No settings left to test.';
  return `About ${minutesToGo(state, doc.probeMin, confirmed)} min left, including the confirming run.`;
}

/** Runs that are offered as probes. */
const OFFERED = 5;

function Ladder({ ladder }: { ladder: LadderDetail }): ReactNode {
  const writing = useDocument<LadderDoc>(ladder, useKeepLadder(ladder.id));
  const { doc, change } = writing;
  const search = useMemo(() => searchOf(doc, ladder.borrowed), [doc, ladder.borrowed]);
  const state = useMemo(() => searchState(search), [search]);
  const [picked, setPicked] = useState<string | null>(null);
  const [going, setGoing] = useState(false);
  const may = useMay(ROUTES.changeLadder);
  const removal = useDeleteLadder();
  const rung = picked ?? doc.rungs[(state.next ?? Math.max(1, state.best)) - 1]!.name;
  const take = (probe: LadderDoc['probes'][number]): void => {
    setPicked(null);
    change((before) => withProbe(before, probe, ladder.borrowed));
  };
  const left = (
    <>
      <Sheet marked gap={10} role="region" aria-label="Next step">
        <Body head style={{ fontSize: 20, lineHeight: 26 }}>
          {sayNext(search, state)}
        </Body>
        <Quiet>{sayToGo(doc, state)}</Quiet>
        <IfMay route={ROUTES.changeLadder}>
          <ProbePad
            // begun anew for each rung: what was typed for another is not meant for it
            key={`${rung} ${doc.probes.length}`}
            rung={rung}
            full={doc.full}
            withPower={doc.axis === 'power limit'}
            onProbe={take}
          />
        </IfMay>
      </Sheet>
      {state.stop || !may ? null : (
        <Section title={`Run at ${rung}`}>
          <Quiet>You can use a recent run of this device and title as a test.</Quiet>
          <TakeRuns
            label="Runs that can be used"
            runs={ladder.runs
              .filter((run) => !doc.probes.some((probe) => probe.runId === run.id))
              .slice(0, OFFERED)}
            word={`Setting used: ${rung}`}
            canTake={(run) =>
              run.speed !== null || run.holds !== null || (run.fps !== null && doc.full !== null)
            }
            onTake={(run) => take(probeOfRun(run, rung))}
          />
          <GetRun device={doc.device} title={doc.title} minutes={Math.ceil(doc.probeMin)} />
        </Section>
      )}
      {state.stop ? <Confirm ladder={ladder} doc={doc} change={change} state={state} onProbe={take} /> : null}
    </>
  );
  const right = (
    <>
      <Rungs doc={doc} state={state} rung={rung} onPick={setPicked} />
      {doc.axis === 'power limit' ? <PowerSection doc={doc} /> : null}
      <ProbeList
        probes={doc.probes}
        say={(probe) => sayProbe(probe, doc.full)}
        onTakeBack={(id) =>
          change((before) => ({ ...before, probes: before.probes.filter((one) => one.id !== id) }))
        }
      />
      <Prior ladder={ladder} doc={doc} change={change} />
    </>
  );
  return (
    <>
      {doc.together === null ? null : (
        <Link href={`/ladders/titles/${doc.together}`}>
          <Body style={{ textDecorationLine: 'underline' }}>All titles of this ladder</Body>
        </Link>
      )}
      <SearchPage
        title={`${doc.title} on ${doc.device}`}
        facts={[doc.axis, doc.scene, doc.setup]}
        writing={writing}
        left={left}
        right={right}
      />
      <IfMay route={ROUTES.newLadder}>
        <Section
          title="Another setting to raise"
          aside={
            <Button
              type="clear"
              title={going ? 'Close' : 'Continue'}
              aria-label={going ? 'Close the other setting' : 'Continue with another setting'}
              onPress={() => setGoing(!going)}
            />
          }
        >
          <Quiet>
            The setting found here stays fixed while you raise the next one: first resolution, then filter,
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
      </IfMay>
      <RemoveSearch what="ladder" id={ladder.id} name={`${doc.title} on ${doc.device}`} removal={removal} />
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
  const percent = (share: number): string => `${Math.round(share * 100)} %`;
  return (
    <Section title={`${extremeOf(doc.axis) === 'highest' ? 'Highest' : 'Lowest'} ${doc.axis} that holds`}>
      <Stack role="list" aria-label="Settings in this ladder">
        <SearchBar
          name="none"
          figure={percent(state.posterior[0]!)}
          tags={[]}
          share={state.posterior[0]!}
          chosen={false}
          found={false}
        />
        {doc.rungs.map(({ name }, i) => {
          const p = state.posterior[i + 1]!;
          const seen = state.seen[i];
          const found = state.stop && i + 1 === state.best;
          return (
            <SearchBar
              key={name}
              name={name}
              figure={percent(p)}
              tags={[
                i + 1 === state.next ? 'next' : '',
                state.wasted[i] ? 'no benefit: more pixels than the screen has' : '',
                found ? 'found' : '',
                doc.confirmed?.rung === name ? 'confirmed' : '',
                seen === null || seen === undefined ? '' : `measured ${percent(seen)}`,
              ].filter(Boolean)}
              share={p}
              chosen={name === rung}
              found={found}
              onPick={() => onPick(name)}
            />
          );
        })}
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
        ? `${probe.fps} fps${speed === null ? ', full speed unknown' : ` (${Math.round(speed * 100)} %)`}`
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
  const prior = priorOf(doc, ladder.borrowed);
  if (prior === null && ladder.siblings.length === 0) return null;
  return (
    <Section title="Earlier results">
      {prior ? (
        <Row apart align="center" gap={8}>
          <Body small style={{ flexShrink: 1 }}>{`From ${prior.says}, smoothed.`}</Body>
          <IfMay route={ROUTES.changeLadder}>
            <Button
              type="clear"
              title="Remove"
              aria-label="Remove earlier results"
              onPress={() =>
                change((before) => ({
                  ...before,
                  prior: before.prior === null ? nothingKnown(before) : null,
                }))
              }
            />
          </IfMay>
        </Row>
      ) : (
        ladder.siblings.map(({ id, says, weights }) => (
          <Row key={id} apart align="center" gap={8}>
            <Body small style={{ flexShrink: 1 }}>
              {says}
            </Body>
            <IfMay route={ROUTES.changeLadder}>
              <Button
                type="clear"
                title="Use as starting point"
                aria-label={`Use ${says} as starting point`}
                onPress={() => change((before) => ({ ...before, prior: { from: id, says, weights } }))}
              />
            </IfMay>
          </Row>
        ))
      )}
    </Section>
  );
}
