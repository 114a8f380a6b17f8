import { ROUTES, type ReviewDetail, type ReviewDoc, type ReviewSection } from '@pace-check/contract';
import { IfMay, useMay } from '../../ui/Role';
import {
  clock,
  liveFigures,
  PICTURE_SIZES,
  readTimeline,
  SECTION_KINDS,
  SECTIONS,
  VERDICT_STATES,
  type Block,
  type ReviewGap,
  type SectionKind,
} from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { Link, useRouter } from 'expo-router';
import { useCallback, useMemo, useState, type ReactNode } from 'react';
import { Linking } from 'react-native';
import { useComparisons } from '../../api/compare';
import { useDeleteReview, useReview } from '../../api/reviews';
import { Flag } from '../../forms/Flag';
import { BackTo } from '../../ui/BackTo';
import { Choices } from '../../ui/Choices';
import { count } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { keptWord, NotKept } from '../../ui/NotKept';
import { Page } from '../../ui/Page';
import { Row, Stack } from '../../ui/parts';
import { RemoveButton } from '../../ui/RemoveButton';
import { Section } from '../../ui/Section';
import { Answered } from '../../ui/states';
import { Body, Heading, Quiet } from '../../ui/words';
import { evidenceOf } from './evidenceOf';
import { Sections } from './Sections';
import { useWriting, type Writing } from './useWriting';
import { Order } from './Order';
import { Published } from './Published';

/** A review: what is missing, what is written over the evidence, and what goes out. */
export function ReviewScreen({ id }: { id: string }): ReactNode {
  const review = useReview(id);
  return (
    <Page>
      <BackTo href="/reviews" title="Reviews" />
      <Answered query={review} loading={{ rows: 4, height: 120, label: 'Loading review' }}>
        {(known) => <ReviewPage review={known} />}
      </Answered>
    </Page>
  );
}

function ReviewPage({ review }: { review: ReviewDetail }): ReactNode {
  const writing = useWriting(review);
  const { doc, change } = writing;
  const may = useMay(ROUTES.changeReview);
  const voice = useMemo(() => ({ school: doc.school, unit: doc.unit }), [doc.school, doc.unit]);
  const figures = useMemo(() => liveFigures(review.evidence, voice), [review.evidence, voice]);
  const { verdict, handling } = doc;
  // what the sections say does not change with a key
  const blocks = useMemo(() => {
    const evidence = evidenceOf(review, { verdict, handling });
    return Object.fromEntries(
      SECTION_KINDS.map((kind) => [kind, SECTIONS[kind].blocks(evidence, voice)]),
    ) as Record<SectionKind, Block[]>;
  }, [review, verdict, handling, voice]);
  const { id, revision } = review;
  // drawn anew with each revision that the server has
  const address = useCallback(
    (chart: string): string =>
      `/api/reviews/${id}/chart?${new URLSearchParams({ of: chart, revision: String(revision) })}`,
    [id, revision],
  );
  const onSection = useCallback(
    (next: ReviewSection): void =>
      change((before) => ({
        ...before,
        sections: before.sections.map((one) => (one.kind === next.kind ? next : one)),
      })),
    [change],
  );
  return (
    <>
      <Stack gap={6} style={{ marginTop: -10 }}>
        <Heading level={1}>{doc.name}</Heading>
        <Quiet style={{ fontSize: 15 }}>
          {[
            doc.template,
            count(review.evidence.length, 'run'),
            review.gone > 0 ? `${review.gone} deleted` : null,
            keptWord(writing, may),
          ]
            .filter(Boolean)
            .join(' · ')}
        </Quiet>
      </Stack>
      <NotKept writing={writing} />
      <IfMay route={ROUTES.changeReview}>
        <Gaps gaps={review.gaps} />
      </IfMay>
      <Published review={review} kept={writing.kept} revision={writing.revision} />
      <Video review={review} doc={doc} />
      <Verdict doc={doc} change={change} />
      <IfMay route={ROUTES.changeReview}>
        <Order doc={doc} change={change} />
      </IfMay>
      <Sections
        doc={doc}
        change={change}
        blocks={blocks}
        figures={figures}
        address={address}
        onSection={onSection}
      />
      <Pictures id={review.id} blocks={blocks} sections={doc.sections} />
      <InIt review={review} doc={doc} change={change} />
      <Remove review={review} />
    </>
  );
}

/** The way to its video, and what it holds. */
function Video({ review, doc }: { review: ReviewDetail; doc: ReviewDoc }): ReactNode {
  const lengths = new Map(review.evidence.map((run) => [run.id, run.figures.seconds]));
  const read = doc.video && readTimeline(doc.video, lengths);
  const may = useMay(ROUTES.changeReview);
  return (
    <Section
      title="Video"
      aside={
        <IfMay route={ROUTES.changeReview}>
          <Link href={`/reviews/${review.id}/video`} aria-label="Clips, cuts and overlay" style={LINK}>
            <Body head style={{ textDecorationLine: 'underline' }}>
              Clips, cuts and overlay
            </Body>
          </Link>
        </IfMay>
      }
    >
      <Quiet>
        {read === null || doc.video?.clips.length === 0
          ? may
            ? 'Enter which clip shows which run. Chapters, moments and the overlay are made from that.'
            : 'None yet.'
          : `${count(doc.video!.clips.length, 'clip')}, ${clock(read.lengthS)} of video${read.problems.length > 0 ? `; ${count(read.problems.length, 'problem')} to fix` : ''}`}
      </Quiet>
    </Section>
  );
}

const LINK = { minHeight: 44, paddingVertical: 11 } as const;
const SIZES = PICTURE_SIZES.map(({ name, width, height }) => ({
  value: name,
  text: `${width}×${height}`,
  spoken: `${name}, ${width} by ${height}`,
}));

/** Every picture of it, to be saved by itself. */
function Pictures({
  id,
  blocks,
  sections,
}: {
  id: string;
  blocks: Record<SectionKind, Block[]>;
  sections: ReviewSection[];
}): ReactNode {
  const [size, setSize] = useState('wide');
  // what is left out has no picture either
  const charts = sections.flatMap(({ kind, hidden }) =>
    hidden ? [] : blocks[kind].flatMap((block) => (block.is === 'chart' ? [block.chart] : [])),
  );
  const save = (of: string, as: string): void =>
    void Linking.openURL(`/api/reviews/${id}/chart?${new URLSearchParams({ of, size, as })}`);
  return (
    <Section title="Pictures for video and posts">
      <Choices label="Size" options={SIZES} selected={size} onSelect={setSize} maxWidth={420} />
      <Stack role="list" aria-label="Pictures">
        {charts.map(({ file, title }) => (
          <Row key={file} role="listitem" apart align="center">
            <Body small style={{ flexShrink: 1 }}>
              {title}
            </Body>
            <Row>
              {['png', 'svg'].map((as) => (
                <Button
                  key={as}
                  type="clear"
                  title={as.toUpperCase()}
                  aria-label={`${title} as ${as.toUpperCase()}`}
                  onPress={() => save(file, as)}
                />
              ))}
            </Row>
          </Row>
        ))}
      </Stack>
    </Section>
  );
}

const MENDED_AT: Partial<Record<ReviewGap['code'], '/cards' | '/compare' | '/bench' | '/'>> = {
  requests: '/cards',
  'no-comparison': '/compare',
  'no-heavy': '/bench',
  'no-emulated': '/bench',
  'no-runs': '/',
};

/** What is still missing, each with the way to mend it. */
function Gaps({ gaps }: { gaps: ReviewGap[] }): ReactNode {
  const { line } = usePalette();
  return (
    <Section title="To do before publishing">
      {gaps.length === 0 ? <Body>Nothing missing.</Body> : null}
      <Stack role="list" aria-label="To do before publishing" gap={6}>
        {gaps.map(({ code, says, runId }) => {
          const href = runId === null ? MENDED_AT[code] : (`/runs/${runId}` as const);
          return (
            <Row
              key={code}
              role="listitem"
              gap={10}
              apart
              align="center"
              style={{ borderLeftWidth: 3, borderColor: line, paddingLeft: 10, minHeight: 44 }}
            >
              <Body style={{ flexShrink: 1 }}>{says}</Body>
              {href ? (
                <Link href={href} aria-label={`Fix: ${says}`}>
                  <Body head style={{ textDecorationLine: 'underline' }}>
                    Fix
                  </Body>
                </Link>
              ) : null}
            </Row>
          );
        })}
      </Stack>
    </Section>
  );
}

/** How final the verdict is. */
function Verdict({ doc, change }: Pick<Writing, 'doc' | 'change'>): ReactNode {
  const { state, until } = doc.verdict;
  const may = useMay(ROUTES.changeReview);
  const set = (verdict: ReviewDoc['verdict']): void => change((before) => ({ ...before, verdict }));
  if (!may)
    return (
      <Section title="Status of the verdict">
        <Body>
          {[state, state === 'final' || until === '' ? null : `until ${until}`].filter(Boolean).join(' ')}
        </Body>
      </Section>
    );
  return (
    <Section title="Status of the verdict">
      <Choices
        label="Status of the verdict"
        options={VERDICT_STATES.map((value) => ({ value, text: value }))}
        selected={state}
        onSelect={(value) => set({ state: value, until })}
        maxWidth={420}
      />
      {state === 'final' ? null : (
        <Input
          label="Provisional until (optional)"
          aria-label="Provisional until"
          placeholder="the title’s update, the retail firmware"
          value={until}
          onChangeText={(text) => set({ state, until: text })}
          maxLength={200}
          renderErrorMessage={false}
        />
      )}
    </Section>
  );
}

/** Runs and comparisons that it stands on. */
function InIt({
  review,
  doc,
  change,
}: { review: ReviewDetail } & Pick<Writing, 'doc' | 'change'>): ReactNode {
  const [open, setOpen] = useState(false);
  const comparisons = useComparisons();
  const toggle = (list: 'runs' | 'comparisons', id: string, taken: boolean): void =>
    change((before) => ({
      ...before,
      [list]: taken ? [...before[list], id] : before[list].filter((one) => one !== id),
    }));
  return (
    <Section
      title="Runs and comparisons"
      aside={
        <IfMay route={ROUTES.changeReview}>
          <Button
            type="clear"
            title={open ? 'Close' : 'Change'}
            aria-label={open ? 'Close runs and comparisons' : 'Change runs and comparisons'}
            onPress={() => setOpen(!open)}
          />
        </IfMay>
      }
    >
      <Quiet>{`${count(doc.runs.length, 'run')}, ${count(doc.comparisons.length, 'comparison')}`}</Quiet>
      {open ? (
        <>
          <Stack role="group" aria-label="Runs in this review">
            {review.evidence.map((run) => (
              <Flag
                key={run.id}
                label={[run.name, run.stated.setup].filter(Boolean).join(' · ')}
                value={doc.runs.includes(run.id)}
                onChange={(taken) => toggle('runs', run.id, taken)}
              />
            ))}
          </Stack>
          <Stack role="group" aria-label="Comparisons in this review">
            {(comparisons.data ?? []).map(({ id, name }) => (
              <Flag
                key={id}
                label={name}
                value={doc.comparisons.includes(id)}
                onChange={(taken) => toggle('comparisons', id, taken)}
              />
            ))}
          </Stack>
        </>
      ) : null}
    </Section>
  );
}

function Remove({ review }: { review: ReviewDetail }): ReactNode {
  const router = useRouter();
  return (
    <RemoveButton
      title="Delete review"
      gone={`“${review.doc.name}” deleted.`}
      removal={useDeleteReview()}
      id={review.id}
      onGone={() => router.navigate('/reviews')}
    />
  );
}
