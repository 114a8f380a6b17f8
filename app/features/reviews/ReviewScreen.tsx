import type { ReviewDetail, ReviewDoc } from '@pace-check/contract';
import { liveFigures, VERDICT_STATES, type ReviewGap } from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { Link, useRouter } from 'expo-router';
import { useMemo, useState, type ReactNode } from 'react';
import { Linking, ScrollView } from 'react-native';
import { useComparisons } from '../../api/compare';
import { useDeleteReview, usePublishReview, useReview } from '../../api/reviews';
import { Flag } from '../../forms/Flag';
import { BackTo } from '../../ui/BackTo';
import { Choices } from '../../ui/Choices';
import { count, dayAndTime } from '../../ui/figures';
import { usePalette, useWide } from '../../ui/Look';
import { Row, Sheet, Stack } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { Answered } from '../../ui/states';
import { useToast } from '../../ui/Toast';
import { Body, Heading, Quiet } from '../../ui/words';
import { SectionSheet } from './SectionSheet';
import { useWriting, type Writing } from './useWriting';

/** A review: what is missing, what is written over the evidence, and what goes out. */
export function ReviewScreen({ id }: { id: string }): ReactNode {
  const review = useReview(id);
  const wide = useWide();
  return (
    <ScrollView
      keyboardShouldPersistTaps="handled"
      contentContainerStyle={{ padding: wide ? 24 : 14, gap: 16, maxWidth: 980, width: '100%' }}
    >
      <BackTo href="/reviews" title="Reviews" />
      <Answered query={review} loading={{ rows: 4, height: 120, label: 'Loading the review' }}>
        {(known) => <ReviewPage review={known} />}
      </Answered>
    </ScrollView>
  );
}

function ReviewPage({ review }: { review: ReviewDetail }): ReactNode {
  const writing = useWriting(review);
  const { doc, change } = writing;
  const voice = useMemo(() => ({ school: doc.school, unit: doc.unit }), [doc.school, doc.unit]);
  const figures = useMemo(() => liveFigures(review.evidence, voice), [review.evidence, voice]);
  const move = (from: number, by: -1 | 1): void =>
    change((before) => {
      const sections = [...before.sections];
      const [taken] = sections.splice(from, 1);
      sections.splice(from + by, 0, taken!);
      return { ...before, sections };
    });
  return (
    <>
      <Stack gap={6} style={{ marginTop: -10 }}>
        <Heading level={1}>{doc.name}</Heading>
        <Quiet style={{ fontSize: 15 }}>
          {[
            doc.template,
            count(review.evidence.length, 'run'),
            review.gone > 0 ? `${review.gone} deleted` : null,
            writing.kept ? 'all is kept' : writing.error ? null : 'keeping…',
          ]
            .filter(Boolean)
            .join(' · ')}
        </Quiet>
      </Stack>
      <NotKept writing={writing} />
      <Gaps gaps={review.gaps} />
      <Published review={review} kept={writing.kept} />
      <Verdict doc={doc} change={change} />
      {doc.sections.map((section, i) => (
        <SectionSheet
          key={section.kind}
          section={section}
          review={review}
          voice={voice}
          figures={figures}
          first={i === 0}
          last={i === doc.sections.length - 1}
          onMove={(by) => move(i, by)}
          onChange={(next) =>
            change((before) => ({
              ...before,
              sections: before.sections.map((one) => (one.kind === next.kind ? next : one)),
            }))
          }
        />
      ))}
      <InIt review={review} doc={doc} change={change} />
      <Remove review={review} />
    </>
  );
}

/** What was typed could not be kept: it stays here, and may be sent again. */
function NotKept({ writing }: { writing: Writing }): ReactNode {
  if (!writing.error || writing.kept) return null;
  return (
    <Sheet marked gap={8} role="alert">
      <Body>{`What you wrote is not kept yet: ${writing.error.message}`}</Body>
      <Row>
        <Button title="Try again" onPress={writing.retry} />
      </Row>
    </Sheet>
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
    <Section title="What is missing">
      {gaps.length === 0 ? <Body>Nothing.</Body> : null}
      <Stack role="list" aria-label="What is missing" gap={6}>
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
                <Link href={href} aria-label={`Mend: ${says}`}>
                  <Body head style={{ textDecorationLine: 'underline' }}>
                    Mend
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

/** What was published, what has changed since, and the pack. */
function Published({ review, kept }: { review: ReviewDetail; kept: boolean }): ReactNode {
  const publish = usePublishReview(review.id);
  const toast = useToast();
  const last = review.publications.at(-1);
  return (
    <Section title="Published">
      {last ? (
        <Body>{`Revision ${last.revision}, ${dayAndTime(last.publishedAt)}. It stays as it is.`}</Body>
      ) : (
        <Body>Nothing yet.</Body>
      )}
      {review.changes.length > 0 ? (
        <Stack role="list" aria-label="Changed since" gap={2}>
          <Quiet>Changed since, and noted as corrections in the next revision:</Quiet>
          {review.changes.map((one) => (
            <Body key={one} role="listitem" small>
              {one}
            </Body>
          ))}
        </Stack>
      ) : null}
      <Row gap={8} wrap>
        <Button
          title={last ? `Publish revision ${last.revision + 1}` : 'Publish'}
          disabled={!kept}
          loading={publish.isPending}
          onPress={() =>
            publish.mutate(undefined, {
              onSuccess: ({ publications }) =>
                toast({ text: `Revision ${publications.length} is published and frozen.` }),
              onError: (error) => toast({ text: `It is not published: ${error.message}` }),
            })
          }
        />
        <Button
          type="outline"
          title="Save the pack"
          disabled={!kept}
          onPress={() => void Linking.openURL(`/api/reviews/${review.id}/pack`)}
        />
      </Row>
    </Section>
  );
}

/** How final the verdict is. */
function Verdict({ doc, change }: Pick<Writing, 'doc' | 'change'>): ReactNode {
  const { state, until } = doc.verdict;
  const set = (verdict: ReviewDoc['verdict']): void => change((before) => ({ ...before, verdict }));
  return (
    <Section title="The verdict is">
      <Choices
        label="The verdict is"
        options={VERDICT_STATES.map((value) => ({ value, text: value }))}
        selected={state}
        onSelect={(value) => set({ state: value, until })}
        maxWidth={420}
      />
      {state === 'final' ? null : (
        <Input
          label="until"
          aria-label="Until what"
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
      title="What it stands on"
      aside={
        <Button
          type="clear"
          title={open ? 'Close' : 'Change'}
          aria-label={open ? 'Close what it stands on' : 'Change what it stands on'}
          onPress={() => setOpen(!open)}
        />
      }
    >
      <Quiet>{`${count(doc.runs.length, 'run')}, ${count(doc.comparisons.length, 'comparison')}`}</Quiet>
      {open ? (
        <>
          <Stack role="group" aria-label="Runs in it">
            {review.evidence.map((run) => (
              <Flag
                key={run.id}
                label={[run.name, run.stated.setup].filter(Boolean).join(' · ')}
                value={doc.runs.includes(run.id)}
                onChange={(taken) => toggle('runs', run.id, taken)}
              />
            ))}
          </Stack>
          <Stack role="group" aria-label="Comparisons in it">
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
  const toast = useToast();
  const remove = useDeleteReview();
  const failed = (error: Error): void => toast({ text: `It could not be done: ${error.message}` });
  return (
    <Row>
      <Button
        type="clear"
        title="Delete the review"
        loading={remove.isPending}
        onPress={() =>
          remove.mutate(
            { id: review.id },
            {
              onSuccess: () => {
                router.navigate('/reviews');
                toast({
                  text: `“${review.doc.name}” is deleted.`,
                  undo: () => remove.mutate({ id: review.id, restore: true }, { onError: failed }),
                });
              },
              onError: failed,
            },
          )
        }
      />
    </Row>
  );
}
