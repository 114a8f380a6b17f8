import { IfMay } from '../../ui/Role';
import { NO_FILTER, ROUTES, type ReviewSummary } from '@pace-check/contract';
import { REVIEW_TEMPLATES, type ReviewTemplate } from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { Link, useRouter } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { Pressable, ScrollView } from 'react-native';
import { v4 as uuid } from 'uuid';
import { ask } from '../../api/client';
import { useKit } from '../../api/queries';
import { useNewReview, useReviews } from '../../api/reviews';
import { Flag } from '../../forms/Flag';
import { count, day } from '../../ui/figures';
import { usePalette, useWide } from '../../ui/Look';
import { Row, Sheet, Stack } from '../../ui/parts';
import { PlaceHead } from '../../ui/PlaceHead';
import { Select } from '../../ui/Select';
import { Answered, Notice } from '../../ui/states';
import { Body, Heading, Quiet } from '../../ui/words';

/** All reviews, and a new one. */
export function ReviewsScreen(): ReactNode {
  const wide = useWide();
  const reviews = useReviews();
  const [making, setMaking] = useState(false);
  return (
    <ScrollView contentContainerStyle={{ padding: wide ? 24 : 14, gap: 14, maxWidth: 820, width: '100%' }}>
      <PlaceHead title="Reviews">
        <IfMay route={ROUTES.newReview}>
          <Button
            title={making ? 'Close' : 'New review'}
            type={making ? 'clear' : 'solid'}
            onPress={() => setMaking(!making)}
          />
        </IfMay>
      </PlaceHead>
      {making ? <NewReview /> : null}
      <Answered query={reviews} loading={{ rows: 3, height: 70, label: 'Loading reviews' }}>
        {(all) =>
          all.length === 0 && !making ? (
            <Notice
              title="No reviews yet"
              action={<Button title="New review" onPress={() => setMaking(true)} />}
            >
              A review collects the runs of one or more devices, shows what is missing, and creates the page,
              tables and files you publish.
            </Notice>
          ) : (
            <Stack gap={8} role="list" aria-label="Reviews">
              {all.map((review) => (
                <Stack key={review.id} role="listitem">
                  <ReviewCard review={review} />
                </Stack>
              ))}
            </Stack>
          )
        }
      </Answered>
    </ScrollView>
  );
}

function ReviewCard({ review }: { review: ReviewSummary }): ReactNode {
  const { sheet, line } = usePalette();
  return (
    <Link href={`/reviews/${review.id}`} asChild>
      <Pressable
        style={{
          backgroundColor: sheet,
          borderWidth: 1,
          borderColor: line,
          borderRadius: 8,
          padding: 12,
          gap: 2,
        }}
      >
        <Heading level={2} style={{ fontSize: 19 }}>
          {review.name}
        </Heading>
        <Quiet>
          {[
            review.template,
            count(review.runs, 'run'),
            review.published === null ? 'not published' : `revision ${review.published} published`,
            day(review.changedAt),
          ].join(' · ')}
        </Quiet>
      </Pressable>
    </Link>
  );
}

/** Runs that a review is made of at first, by device. */
const MOST_OF_A_DEVICE = 100;

/** What it is called, what it is written for, and whose runs are in it. */
function NewReview(): ReactNode {
  const kit = useKit();
  const router = useRouter();
  const create = useNewReview();
  const [id] = useState(() => uuid());
  const [name, setName] = useState('');
  const [template, setTemplate] = useState<ReviewTemplate>('full review');
  const [devices, setDevices] = useState<string[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const known = (kit.data?.devices ?? []).filter((device) => device.runs > 0);
  const make = async (): Promise<void> => {
    setProblem(null);
    try {
      const runs: string[] = [];
      for (const device of devices)
        for (const run of await ask(ROUTES.runs, {
          query: { ...NO_FILTER, device, limit: MOST_OF_A_DEVICE },
        }))
          if (!run.recording) runs.push(run.id);
      await create.mutateAsync({ id, name: name.trim(), template, runs });
      router.navigate(`/reviews/${id}`);
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <Sheet gap={8}>
      <Input
        label="Name"
        aria-label="Name"
        value={name}
        onChangeText={setName}
        maxLength={120}
        renderErrorMessage={false}
      />
      <Select
        label="Type of review"
        value={template}
        options={REVIEW_TEMPLATES.map((value) => ({ value, text: value }))}
        onChange={(value) => value && setTemplate(value)}
      />
      <Stack role="group" aria-label="Devices to include">
        <Quiet>All runs of these devices are included. You can leave out single runs later.</Quiet>
        {known.map((device) => (
          <Flag
            key={device.id}
            label={`${device.name} (${count(device.runs, 'run')})`}
            value={devices.includes(device.name)}
            onChange={(taken) =>
              setDevices(taken ? [...devices, device.name] : devices.filter((one) => one !== device.name))
            }
          />
        ))}
        {kit.data && known.length === 0 ? (
          <Body>No device has a run yet. Record or import one first.</Body>
        ) : null}
      </Stack>
      {problem ? (
        <Body role="alert" small>
          {problem}
        </Body>
      ) : null}
      <Row>
        <Button
          title="Create review"
          loading={create.isPending}
          disabled={name.trim() === '' || devices.length === 0}
          onPress={() => void make()}
        />
      </Row>
    </Sheet>
  );
}
