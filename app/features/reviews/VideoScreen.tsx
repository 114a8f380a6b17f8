import {
  ROUTES,
  OVERLAY_RATES,
  OVERLAY_SIZES,
  type ReviewDetail,
  type ReviewVideo,
  type ReviewVideoDetail,
} from '@pace-check/contract';
import { chapterList, overlayBand, readTimeline, type Clip } from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { Image, View } from 'react-native';
import { useReview, useReviewVideo } from '../../api/reviews';
import { BackTo } from '../../ui/BackTo';
import { Choices } from '../../ui/Choices';
import { NumberInput } from '../../ui/Field';
import { keptWord, NotKept } from '../../ui/NotKept';
import { Page } from '../../ui/Page';
import { IfMay, useMay } from '../../ui/Role';
import { Row, Stack } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { Select } from '../../ui/Select';
import { Slide } from '../../ui/Slide';
import { Answered } from '../../ui/states';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';
import { ClipForm } from './ClipForm';
import { useWriting } from './useWriting';
import { sayTime } from './videoWords';

/** The video of a review: which clip shows which run, what is cut, and what comes of it. */
export function VideoScreen({ id }: { id: string }): ReactNode {
  const review = useReview(id);
  return (
    <Page>
      <BackTo href={`/reviews/${id}`} title="The review" />
      <Answered query={review} loading={{ rows: 3, height: 120, label: 'Loading video' }}>
        {(known) => <Video review={known} />}
      </Answered>
    </Page>
  );
}

const NOTHING: ReviewVideo = {
  clips: [],
  cuts: '',
  fps: null,
  overlay: { width: 1280, height: 720, perSecond: 1 },
};

function Video({ review }: { review: ReviewDetail }): ReactNode {
  const writing = useWriting(review);
  const may = useMay(ROUTES.changeReview);
  const video = writing.doc.video ?? NOTHING;
  const set = (more: Partial<ReviewVideo>): void =>
    writing.change((before) => ({ ...before, video: { ...(before.video ?? NOTHING), ...more } }));
  const gives = useReviewVideo(review.id, review.revision).data;
  return (
    <>
      <Stack gap={6} style={{ marginTop: -10 }}>
        <Heading level={1}>Video</Heading>
        <Quiet style={{ fontSize: 15 }}>
          {[writing.doc.name, keptWord(writing, may)].filter(Boolean).join(' · ')}
        </Quiet>
      </Stack>
      <NotKept writing={writing} />
      <IfMay route={ROUTES.changeReview}>
        <Clips review={review} video={video} onClips={(clips) => set({ clips })} />
        <Cuts review={review} video={video} set={set} />
      </IfMay>
      {gives && gives.lengthS > 0 ? (
        <>
          <IfMay route={ROUTES.changeReview}>
            <Overlay review={review} video={video} set={set} lengthS={gives.lengthS} />
          </IfMay>
          <Gives gives={gives} />
        </>
      ) : null}
    </>
  );
}

/** Clips with their runs; each may be changed. */
function Clips({
  review,
  video,
  onClips,
}: {
  review: ReviewDetail;
  video: ReviewVideo;
  onClips: (clips: Clip[]) => void;
}): ReactNode {
  // place of the one that is open; one past the last is new
  const [open, setOpen] = useState<number | null>(null);
  const { clips, fps } = video;
  const names = new Map(review.evidence.map((run) => [run.id, run.name]));
  return (
    <Section title="Clips">
      <Stack role="list" aria-label="Clips" gap={8}>
        {clips.map((clip, i) =>
          open === i ? null : (
            <Row key={clip.name} role="listitem" apart align="center" gap={8} wrap>
              <Stack style={{ flexShrink: 1 }}>
                <Body head>{clip.name}</Body>
                <Quiet>{`${names.get(clip.runId) ?? 'a run that is not part of this review'} · ${sayStart(clip)}`}</Quiet>
              </Stack>
              <Row>
                <Button
                  type="clear"
                  title="Change"
                  aria-label={`Edit clip ${clip.name}`}
                  onPress={() => setOpen(i)}
                />
                <Button
                  type="clear"
                  title="Remove"
                  aria-label={`Remove clip ${clip.name}`}
                  onPress={() => onClips(clips.filter((_, k) => k !== i))}
                />
              </Row>
            </Row>
          ),
        )}
      </Stack>
      {open === null ? (
        <Row>
          <Button
            type={clips.length === 0 ? 'solid' : 'outline'}
            title="Add clip"
            onPress={() => setOpen(clips.length)}
          />
        </Row>
      ) : (
        <ClipForm
          key={open}
          clip={clips[open] ?? null}
          runs={review.evidence}
          taken={clips.filter((_, i) => i !== open).map((clip) => clip.name)}
          fps={fps}
          onClip={(clip) => onClips([...clips.slice(0, open), clip, ...clips.slice(open + 1)])}
          onDone={() => setOpen(null)}
        />
      )}
    </Section>
  );
}

/** Where a clip begins on its run's clock. */
function sayStart({ syncs: [sync] }: Clip): string {
  if (!sync) return 'not synchronised yet';
  const startS = sync.runS - sync.clipS;
  return startS >= 0
    ? `starts at ${sayTime(startS)} of the run`
    : `starts ${sayTime(-startS)} before the run`;
}

const EXAMPLE = 'deck 0:05 - 5:00 deck 12:30 - 20:00 x2 # one segment per line: clip, start, end, speed';

/** The cut list as it is typed or pasted, and what is wrong with it. */
function Cuts({
  review,
  video,
  set,
}: {
  review: ReviewDetail;
  video: ReviewVideo;
  set: (more: Partial<ReviewVideo>) => void;
}): ReactNode {
  const lengths = new Map(review.evidence.map((run) => [run.id, run.figures.seconds]));
  const { problems, lengthS, placed } = readTimeline(video, lengths);
  return (
    <Section title="Cut list">
      <Input
        multiline
        label="Cut list, one segment per line"
        aria-label="Cut list"
        placeholder={EXAMPLE}
        value={video.cuts}
        onChangeText={(cuts) => set({ cuts })}
        maxLength={40_000}
        inputStyle={{ paddingVertical: 8 }}
        numberOfLines={Math.min(16, Math.max(4, video.cuts.split('\n').length + 1))}
        renderErrorMessage={false}
      />
      <Stack style={{ maxWidth: 260 }}>
        <NumberInput
          label="Frame rate of the time codes (only if they count frames)"
          placeholder="none"
          value={video.fps}
          onChange={(fps) => set({ fps: typeof fps === 'number' && fps >= 1 && fps <= 240 ? fps : null })}
        />
      </Stack>
      {problems.length === 0 ? null : (
        <Stack role="list" aria-label="Problems to fix" gap={4}>
          {problems.map(({ place, message, remedy }, i) => (
            <Body key={`${place} ${i}`} role="listitem" small>
              {`${place}: ${message}. ${remedy}`}
            </Body>
          ))}
        </Stack>
      )}
      <Quiet>
        {placed.length === 0
          ? 'No segments yet.'
          : `${placed.length} ${placed.length === 1 ? 'segment' : 'segments'}, ${sayTime(lengthS)} of video.`}
      </Quiet>
    </Section>
  );
}

const SIZES = OVERLAY_SIZES.map(({ width, height }) => ({
  value: `${width}×${height}`,
  text: `${width}×${height}`,
  spoken: `${width} by ${height}`,
}));
const RATES = OVERLAY_RATES.map((rate) => ({
  value: String(rate),
  text: rate === 1 ? 'one per second' : `${rate} per second`,
}));

/** The overlay's size and rate, and how it looks at any second. */
function Overlay({
  review,
  video,
  set,
  lengthS,
}: {
  review: ReviewDetail;
  video: ReviewVideo;
  set: (more: Partial<ReviewVideo>) => void;
  lengthS: number;
}): ReactNode {
  const [atS, setAtS] = useState(Math.floor(lengthS / 2));
  const { overlay } = video;
  const at = Math.min(atS, Math.floor(lengthS));
  const band = overlayBand(overlay);
  const percent = (part: number, of: number): `${number}%` => `${(part / of) * 100}%`;
  const query = new URLSearchParams({ at: String(at), revision: String(review.revision) });
  return (
    <Section title="Overlay">
      <Choices
        label="Size of the overlay"
        options={SIZES}
        selected={`${overlay.width}×${overlay.height}`}
        onSelect={(chosen) => {
          const [width, height] = chosen.split('×').map(Number) as [number, number];
          set({ overlay: { ...overlay, width, height } });
        }}
        maxWidth={520}
      />
      <Select
        label="Pictures"
        options={RATES}
        value={String(overlay.perSecond)}
        onChange={(rate) => set({ overlay: { ...overlay, perSecond: Number(rate ?? 1) } })}
      />
      <View
        style={{
          width: '100%',
          maxWidth: overlay.width >= overlay.height ? 560 : 260,
          aspectRatio: overlay.width / overlay.height,
          backgroundColor: FOOTAGE,
          borderRadius: 4,
        }}
      >
        <Image
          source={{ uri: `/api/reviews/${review.id}/overlay?${query}` }}
          accessibilityLabel={`Overlay at ${sayTime(at)}`}
          style={{
            position: 'absolute',
            left: percent(band.x, overlay.width),
            top: percent(band.y, overlay.height),
            width: percent(band.width, overlay.width),
            height: percent(band.height, overlay.height),
          }}
        />
      </View>
      <Slide
        label="Position in the video"
        value={at}
        most={Math.max(1, Math.floor(lengthS))}
        says={sayTime(at)}
        onChange={setAtS}
      />
      <Quiet>The package contains the overlay as a text track and, if selected, as transparent images.</Quiet>
    </Section>
  );
}

/** What stands for footage behind the overlay. */
const FOOTAGE = '#5b6a72';

/** Chapters and moments, as they go into the pack. */
function Gives({ gives }: { gives: ReviewVideoDetail }): ReactNode {
  return (
    <>
      <Section title="Chapters">
        <FigureText selectable accessibilityLabel="Chapters as text">
          {chapterList(gives.chapters).trim()}
        </FigureText>
      </Section>
      <Section title="Moments">
        {gives.moments.length === 0 ? <Body small>No moments in this part of the video.</Body> : null}
        <Stack role="list" aria-label="Moments" gap={4}>
          {gives.moments.map(({ videoS, says, runId }, i) => (
            <Row key={`${runId} ${videoS} ${i}`} role="listitem" gap={12}>
              <FigureText style={{ width: 70 }}>{sayTime(videoS)}</FigureText>
              <Body small style={{ flexShrink: 1 }}>
                {says}
              </Body>
            </Row>
          ))}
        </Stack>
      </Section>
    </>
  );
}
