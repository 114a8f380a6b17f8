import { ROUTES, type ReviewDetail } from '@pace-check/contract';
import { IfMay } from '../../ui/Role';
import { Button, LinearProgress } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { Linking } from 'react-native';
import { v4 as uuid } from 'uuid';
import { usePublishReview, useShowReview } from '../../api/reviews';
import { Flag } from '../../forms/Flag';
import { dayAndTime } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { Row, Stack } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { useToast } from '../../ui/Toast';
import { Body, Quiet } from '../../ui/words';
import { usePack } from './usePack';

/** What was published, what has changed since, and the pack. */
export function Published({
  review,
  kept,
  revision,
}: {
  review: ReviewDetail;
  kept: boolean;
  /** That is on the screen. */
  revision: number;
}): ReactNode {
  const publish = usePublishReview(review.id);
  const show = useShowReview(review.id);
  const toast = useToast();
  const last = review.publications.at(-1);
  return (
    <Section title="Published">
      {last ? (
        <Body>{`Revision ${last.revision}, ${dayAndTime(last.publishedAt)}. Published revisions never change.`}</Body>
      ) : (
        <Body>Not published yet.</Body>
      )}
      {review.changes.length > 0 ? (
        <Stack role="list" aria-label="Changed since" gap={2}>
          <Quiet>Changes since then, to be listed as corrections in the next revision:</Quiet>
          {review.changes.map((one) => (
            <Body key={one} role="listitem" small>
              {one}
            </Body>
          ))}
        </Stack>
      ) : null}
      <IfMay route={ROUTES.publishReview}>
        <Row gap={8} wrap>
          <Button
            title={last ? `Publish revision ${last.revision + 1}` : 'Publish'}
            disabled={!kept}
            loading={publish.isPending}
            onPress={() =>
              publish.mutate(
                { id: uuid(), revision },
                {
                  onSuccess: ({ publications }) =>
                    toast({ text: `Revision ${publications.length} published.` }),
                  onError: (error) => toast({ text: `Not published: ${error.message}` }),
                },
              )
            }
          />
        </Row>
      </IfMay>
      <Pack review={review} kept={kept} />
      {last ? (
        <>
          <IfMay route={ROUTES.showReview}>
            <Flag
              label="Share published revision by link"
              value={review.shownAt !== null}
              onChange={(shown) =>
                show.mutate(shown, {
                  onError: (error) => toast({ text: `Setting not changed: ${error.message}` }),
                })
              }
            />
          </IfMay>
          {review.shownAt === null ? null : (
            <Row align="center" gap={8} wrap>
              <Body small style={{ flexShrink: 1 }}>
                {`Anyone who can reach this server can read the published revision at /r/${review.id}, and nothing else of the review.`}
              </Body>
              <Button
                type="clear"
                title="Open page"
                onPress={() => void Linking.openURL(`/r/${review.id}`)}
              />
            </Row>
          )}
        </>
      ) : null}
    </Section>
  );
}

/** The pack: all that goes out as one file, with how far it is. */
function Pack({ review, kept }: { review: ReviewDetail; kept: boolean }): ReactNode {
  const { progress, error, start, cancel } = usePack(review.id, review.doc.name);
  const [overlay, setOverlay] = useState(false);
  const { action, track } = usePalette();
  if (progress !== null) {
    const share = progress.total === 0 ? 0 : progress.done / progress.total;
    return (
      <Stack gap={6}>
        <Body small>{`Creating package: ${progress.at}`}</Body>
        <LinearProgress
          variant="determinate"
          value={share}
          color={action}
          trackColor={track}
          aria-label={`${Math.round(share * 100)} % of the package`}
        />
        <Row>
          <Button type="outline" title="Cancel export" onPress={cancel} />
        </Row>
      </Stack>
    );
  }
  return (
    <Stack gap={4}>
      {error ? <Body role="alert">{`Package not created: ${error.message}`}</Body> : null}
      {review.doc.video ? (
        <Flag label="Include overlay images" value={overlay} onChange={setOverlay} />
      ) : null}
      <Row>
        <Button
          type="outline"
          title="Export package (.zip)"
          disabled={!kept}
          onPress={() => start(overlay && review.doc.video !== null)}
        />
      </Row>
    </Stack>
  );
}
