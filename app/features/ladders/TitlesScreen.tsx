import {
  ladderDoc,
  ROUTES,
  type LadderDetail,
  type LadderDoc,
  type LadderSummary,
} from '@pace-check/contract';
import { nextOfMany, sayNext, saySystemRungs, searchState, systemRungs } from '@pace-check/core';
import { Button } from '@rneui/themed';
import { Link } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { v4 as uuid, v5 as uuidOf } from 'uuid';
import { useKeepLadder, useLadder, useLadders, useNewLadders } from '../../api/ladders';
import { useKit } from '../../api/queries';
import { useDocument } from '../../api/useDocument';
import { BackTo } from '../../ui/BackTo';
import { count } from '../../ui/figures';
import { useWide } from '../../ui/Look';
import { NotKept } from '../../ui/NotKept';
import { Page } from '../../ui/Page';
import { IfMay } from '../../ui/Role';
import { Row, Sheet, Stack } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { Answered, Notice } from '../../ui/states';
import { useToast } from '../../ui/Toast';
import { Body, Heading, Quiet } from '../../ui/words';
import { newNames, OtherTitles } from './OtherTitles';
import { searchOf, withProbe } from './priorOf';
import { ProbePad } from './ProbePad';
import { linesOf } from './SearchOf';
import { forTitle, nameOf } from './several';
import { SearchBar } from './SearchPage';

/** One ladder for several titles: which to probe next, and what each holds. */
export function TitlesScreen({ id }: { id: string }): ReactNode {
  const ladders = useLadders();
  return (
    <Page>
      <BackTo href="/ladders" title="Best settings" />
      <Answered query={ladders} loading={{ rows: 3, height: 120, label: 'Loading ladders' }}>
        {(all) => {
          // as they were named: the list has the last changed first, which would move under the finger
          const own = all.filter((one) => one.together === id).sort((a, b) => a.title.localeCompare(b.title));
          return own.length === 0 ? (
            <Notice title="No such ladder">
              Its titles were deleted, or it was never started. Go back to the list and choose another.
            </Notice>
          ) : (
            <Titles own={own} together={id} />
          );
        }}
      </Answered>
    </Page>
  );
}

const WHY = {
  loaded: 'it is loaded and not decided yet',
  begun: 'it has been started and is not decided yet',
  'tells most': 'its test narrows the search most',
};

function Titles({ own, together }: { own: LadderSummary[]; together: string }): ReactNode {
  const wide = useWide();
  const [picked, setPicked] = useState<string | null>(null);
  const next = nextOfMany(
    own.map((one) => ({
      ...one.standing,
      id: one.id,
      lastAt: one.standing.lastAt === null ? null : Date.parse(one.standing.lastAt),
    })),
  );
  const chosen = own.find((one) => one.id === (picked ?? next?.one.id));
  const [first] = own as [LadderSummary, ...LadderSummary[]];
  const ended = own.filter((one) => one.ended).length;
  const half = { gap: 16, flex: wide ? 1 : undefined } as const;
  const halves = (
    <>
      <Stack {...half}>
        <Sheet marked gap={10} role="region" aria-label="Next step">
          {chosen ? (
            <NextProbe
              // begun anew for each: what was typed for another title is not meant for it
              key={chosen.id}
              id={chosen.id}
              why={chosen.id === next?.one.id ? WHY[next.why] : null}
              onNoted={() => setPicked(null)}
            />
          ) : (
            <Body head style={{ fontSize: 20, lineHeight: 26 }}>
              All titles are decided. Confirm important ones with one sustained run each.
            </Body>
          )}
        </Sheet>
        <Quiet>
          {`${ended} of ${own.length} decided, ${count(
            own.reduce((sum, one) => sum + one.probes, 0),
            'test',
          )} so far. Each title starts from the results of the others. Finish one before you start the next.`}
        </Quiet>
      </Stack>
      <Stack {...half}>
        <Section title="Results by title">
          <Stack role="list" aria-label="Results by title">
            {own.map((one) => (
              <TitleBar
                key={one.id}
                one={one}
                isNext={one.id === next?.one.id}
                chosen={one.id === chosen?.id}
                onPick={() => setPicked(one.id)}
              />
            ))}
          </Stack>
          {systemRungs(own).map((said) => (
            <Quiet key={said.system}>{saySystemRungs(said)}</Quiet>
          ))}
        </Section>
        <IfMay route={ROUTES.newLadders}>
          <MoreTitles own={own} together={together} />
        </IfMay>
      </Stack>
    </>
  );
  return (
    <>
      <Stack gap={6} style={{ marginTop: -10 }}>
        <Heading level={1}>{nameOf(own)}</Heading>
        <Quiet style={{ fontSize: 15 }}>
          {[first.axis, first.rungs.join(' / '), first.setup].filter(Boolean).join(' · ')}
        </Quiet>
      </Stack>
      {wide ? (
        <Row gap={28} align="flex-start">
          {halves}
        </Row>
      ) : (
        halves
      )}
    </>
  );
}

/** A title, how far up it holds, and how sure that is. */
function TitleBar({
  one,
  isNext,
  chosen,
  onPick,
}: {
  one: LadderSummary;
  isNext: boolean;
  chosen: boolean;
  onPick: () => void;
}): ReactNode {
  const { title, rungs, best, sure, ended, probes, standing, confirmed } = one;
  const at = best === null ? 0 : 1 + rungs.indexOf(best);
  const next = standing.next === null ? null : rungs[standing.next - 1]!;
  return (
    <SearchBar
      name={title}
      figure={probes === 0 ? '–' : ended ? (best ?? 'none') : `${best ?? 'none'}?`}
      tags={[
        isNext ? `next: ${next}` : '',
        probes === 0 ? 'not started' : `${Math.round(sure * 100)} % sure, ${count(probes, 'test')}`,
        confirmed ? 'confirmed' : '',
      ].filter(Boolean)}
      share={probes === 0 ? 0 : at / rungs.length}
      chosen={chosen}
      found={ended}
      onPick={onPick}
    />
  );
}

function NextProbe({
  id,
  why,
  onNoted,
}: {
  id: string;
  /** Why it comes next; null where somebody chose it. */
  why: string | null;
  onNoted: () => void;
}): ReactNode {
  const ladder = useLadder(id);
  return (
    <Answered query={ladder} loading={{ rows: 1, height: 160, label: 'Loading ladder' }}>
      {(known) => <Probe ladder={known} why={why} onNoted={onNoted} />}
    </Answered>
  );
}

function Probe({
  ladder,
  why,
  onNoted,
}: {
  ladder: LadderDetail;
  why: string | null;
  onNoted: () => void;
}): ReactNode {
  const writing = useDocument<LadderDoc>(ladder, useKeepLadder(ladder.id));
  const { doc, change } = writing;
  const search = searchOf(doc, ladder.borrowed);
  const state = searchState(search);
  const rung = doc.rungs[(state.next ?? Math.max(1, state.best)) - 1]!.name;
  return (
    <>
      <Body head style={{ fontSize: 20, lineHeight: 26 }}>
        {state.stop ? `${doc.title} is decided` : `${doc.title} at ${rung}`}
      </Body>
      <Quiet>
        {[why === null ? null : `${why[0]!.toUpperCase()}${why.slice(1)}.`, sayNext(search, state)]
          .filter(Boolean)
          .join(' ')}
      </Quiet>
      <NotKept writing={writing} />
      <IfMay route={ROUTES.changeLadder}>
        <ProbePad
          key={`${rung} ${doc.probes.length}`}
          rung={rung}
          full={doc.full}
          withPower={doc.axis === 'power limit'}
          onProbe={(probe) => {
            change((before) => withProbe(before, probe, ladder.borrowed));
            onNoted();
          }}
        />
      </IfMay>
      <Link href={`/ladders/${ladder.id}`}>
        <Body small style={{ textDecorationLine: 'underline' }}>
          {`Details of ${doc.title}`}
        </Body>
      </Link>
    </>
  );
}

/** Titles that come later begin from what is known by then. */
function MoreTitles({ own, together }: { own: LadderSummary[]; together: string }): ReactNode {
  const [first] = own as [LadderSummary, ...LadderSummary[]];
  const template = useLadder(first.id).data;
  const titles = useKit().data?.titles;
  const create = useNewLadders();
  const toast = useToast();
  const [text, setText] = useState('');
  const [batch, setBatch] = useState(() => uuid());
  const names = newNames(
    linesOf(text),
    own.map((one) => one.title),
  );
  const add = (): void => {
    if (!template) return;
    const docs = names.map((title) => forTitle(template.doc, title, titles));
    const wrong = docs.map((doc) => ladderDoc.safeParse(doc)).find((read) => !read.success);
    if (wrong?.error) {
      toast({ text: `Not added: ${wrong.error.issues[0]!.message}. Correct the name and add it again.` });
      return;
    }
    create.mutate(
      {
        ladders: docs.map((doc) => ({
          // sent twice they are made once
          id: uuidOf(doc.title.toLowerCase(), batch),
          doc: { ...doc, together },
        })),
      },
      {
        onSuccess: () => {
          setText('');
          setBatch(uuid());
        },
        onError: (error) => toast({ text: `Not added: ${error.message}` }),
      },
    );
  };
  return (
    <Section title="More titles">
      <OtherTitles
        taken={own.map((one) => one.title)}
        system={first.system ?? undefined}
        value={text}
        onChange={setText}
      />
      <Row>
        <Button
          type="outline"
          title={names.length < 2 ? 'Add it' : `Add ${names.length} titles`}
          disabled={names.length === 0 || !template}
          loading={create.isPending}
          onPress={add}
        />
      </Row>
    </Section>
  );
}
