import { createHash } from 'node:crypto';
import { packFigures, type PackProgress, type ReviewDoc } from '@pace-check/contract';
import {
  chapterCues,
  chapterList,
  chartSvg,
  laneSvg,
  longestS,
  methodsHtml,
  momentCues,
  overlayAt,
  overlayBand,
  overlayCues,
  overlaySvg,
  PICTURE_SIZES,
  reviewCharts,
  reviewHtml,
  reviewMarkdown,
  sayHours,
  sayRead,
  titleCells,
  titleTable,
  toCsvText,
  vttTime,
  webVtt,
  type Voice,
  type WrittenReview,
  type WrittenVideo,
} from '@pace-check/core';
import type pg from 'pg';
import * as z from 'zod';
import { listPictures, readPicture } from '../sql/pictures';
import type { PicturePool } from './picturePool';
import { Problem } from './problem';
import type { BundleFile, Runs } from './runs';

/** Files that are made ahead of the one that is written: as many as keep the threads busy where many pictures of an overlay are alike. Run files may be large: one at a time. */
const AHEAD = { pictures: 64, runs: 1 };
/** Pictures of an overlay at most: an hour and a half at 10 a second. */
const MOST_PICTURES = 60_000;

export interface PackOptions {
  voice: Voice;
  /** Size and rate of the overlay's pictures; null to leave them out. */
  overlay: NonNullable<ReviewDoc['video']>['overlay'] | null;
  /** Told before each file. */
  onProgress: (progress: PackProgress) => void;
  /** Aborted when nobody waits for it any more. */
  signal: AbortSignal;
}

/** A file of a pack that is yet to be made. */
interface Planned {
  name: string;
  at: string;
  make: () => Promise<Uint8Array | null>;
}

const text = (content: string): Uint8Array => Buffer.from(content);
/** A name that every file system takes; what it was stands in the file itself. */
const fileName = (name: string): string =>
  name
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 80) || 'unnamed';

/** All that goes out of a review, file by file, in an order that never changes. */
export class ReviewPacks {
  constructor(
    private readonly pool: pg.Pool,
    private readonly runs: Runs,
    private readonly pictures: PicturePool,
  ) {}

  /** Plans the files, and makes them as they are taken. @throws Problem before anything is made */
  async files(written: WrittenReview, options: PackOptions): Promise<AsyncIterable<BundleFile>> {
    const planned = [
      ...(await this.texts(written, options.voice)),
      ...videoTexts(written.video, options.voice),
      ...this.charts(written, options),
      ...(options.overlay === null || written.video === null
        ? []
        : this.overlay(written.video, options.overlay, options)),
      ...(await this.evidence(written)),
    ];
    return withManifest(planned, this.runFiles(written), written, options);
  }

  private async texts(written: WrittenReview, voice: Voice): Promise<Planned[]> {
    const fonts = await this.pictures.fontSheet();
    const rows = titleTable(written.runs, voice.school);
    const { heads, cells } = titleCells(voice);
    const scaleS = longestS(written.runs);
    const made = (name: string, content: () => string): Planned => ({
      name,
      at: 'texts and tables',
      make: () => Promise.resolve(text(content())),
    });
    const json = (value: unknown): string => `${JSON.stringify(value, null, 1)}\n`;
    return [
      made('review.html', () => reviewHtml(written, voice, fonts)),
      made('review.md', () => reviewMarkdown(written, voice)),
      made('methods.html', () => methodsHtml(written, voice, fonts)),
      made('tables/titles.csv', () => toCsvText([heads, ...rows.map(cells)])),
      made('tables/runs.csv', () => toCsvText(runRows(written))),
      ...written.runs.map((run, i) =>
        // in the order of the review; a name may hold anything
        made(`lanes/${i + 1}-${fileName(run.name)}.svg`, () =>
          laneSvg(run.lane, { width: 1600, height: 120, scaleS, says: run.name }),
        ),
      ),
      made('figures.json', () =>
        json({ review: written.name, revision: written.revision, titles: rows, runs: written.runs }),
      ),
      made('figures.schema.json', () => json(z.toJSONSchema(packFigures))),
    ];
  }

  /** Each picture in every size, as SVG with its fonts inside and as PNG. */
  private charts(written: WrittenReview, { voice }: PackOptions): Planned[] {
    return reviewCharts(written, voice).flatMap((chart) =>
      PICTURE_SIZES.flatMap((size): Planned[] => [
        {
          name: `charts/${size.name}/${chart.file}.svg`,
          at: 'pictures',
          make: async () => text(chartSvg(chart, size, await this.pictures.fontSheet())),
        },
        {
          name: `charts/${size.name}/${chart.file}.png`,
          at: 'pictures',
          make: () => this.pictures.png(chartSvg(chart, size), null),
        },
      ]).concat({
        name: `charts/${chart.file}.svg`,
        at: 'pictures',
        make: async () => text(chartSvg(chart, null, await this.pictures.fontSheet())),
      }),
    );
  }

  /** The overlay as one transparent picture after the other; what does not change is drawn once. */
  private overlay(
    video: WrittenVideo,
    { width, height, perSecond }: NonNullable<PackOptions['overlay']>,
    { voice }: PackOptions,
  ): Planned[] {
    const count = Math.ceil(video.lengthS * perSecond);
    if (count > MOST_PICTURES)
      throw new Problem(422, {
        code: 'too-many',
        field: 'overlay',
        message: `The overlay needs ${count.toLocaleString('en')} images; the limit is ${MOST_PICTURES.toLocaleString('en')}.`,
        remedy: 'Use fewer images per second, or a shorter video.',
      });
    const band = overlayBand({ width, height });
    let last: { svg: string; drawn: Promise<Uint8Array> } | null = null;
    return Array.from({ length: count }, (_, i) => ({
      name: `video/overlay/${String(i).padStart(6, '0')}.png`,
      at: `overlay, ${vttTime(i / perSecond)}`,
      make: () => {
        const svg = overlaySvg(overlayAt(video, i / perSecond), band, voice);
        if (last?.svg !== svg)
          last = { svg, drawn: this.pictures.png(svg, { x: band.x, y: band.y, width, height }) };
        return last.drawn;
      },
    }));
  }

  /** Pictures that show what was read, of the runs that are there. */
  private async evidence(written: WrittenReview): Promise<Planned[]> {
    const planned: Planned[] = [];
    const notes: (string | number)[][] = [['file', 'run', 'note']];
    for (const [i, run] of written.runs.entries())
      for (const [k, picture] of (await listPictures(this.pool, run.id)).entries()) {
        const name = `evidence/${i + 1}-${fileName(run.name)}-${k + 1}.jpg`;
        notes.push([name, run.name, picture.note]);
        planned.push({
          name,
          at: 'evidence',
          make: () => readPicture(this.pool, run.id, picture.id, 'jpeg'),
        });
      }
    return planned.length === 0
      ? []
      : [
          ...planned,
          { name: 'evidence/notes.csv', at: 'evidence', make: () => Promise.resolve(text(toCsvText(notes))) },
        ];
  }

  private runFiles(written: WrittenReview): Planned[] {
    return written.runs.map(({ id, name }, i) => ({
      name: `runs/${i + 1}-${fileName(name)}.pace.ndjson`,
      at: 'run files',
      make: async () => {
        const found = await this.runs.export(id).catch((error: unknown) => {
          // one that was deleted since stays in the tables
          if (error instanceof Problem && error.status === 404) return null;
          throw error;
        });
        if (!found) return null;
        const lines: string[] = [];
        for (const line of found.lines) lines.push(JSON.stringify(line));
        return text(`${lines.join('\n')}\n`);
      },
    }));
  }
}

/** Makes files in their order, and at last what tells their checksums. */
async function* withManifest(
  pictures: readonly Planned[],
  runs: readonly Planned[],
  { name: review, revision }: WrittenReview,
  { signal, onProgress }: PackOptions,
): AsyncGenerator<BundleFile> {
  const sums: { file: string; sha256: string }[] = [];
  const total = pictures.length + runs.length + 1;
  let done = 0;
  for (const [planned, ahead] of [
    [pictures, AHEAD.pictures],
    [runs, AHEAD.runs],
  ] as const)
    for await (const { name, at, bytes } of inOrder(planned, ahead)) {
      if (signal.aborted) return;
      onProgress({ done: done++, total, at });
      if (bytes === null) continue;
      sums.push({ file: name, sha256: createHash('sha256').update(bytes).digest('hex') });
      yield { name, bytes: [bytes] };
    }
  onProgress({ done, total, at: 'manifest' });
  yield {
    name: 'manifest.json',
    bytes: [
      text(
        `${JSON.stringify({ review, revision, runFiles: 'current state when the package is created', files: sums }, null, 1)}\n`,
      ),
    ],
  };
}

/** Chapters, moments and text tracks of a video. */
function videoTexts(video: WrittenVideo | null, voice: Voice): Planned[] {
  if (video === null) return [];
  const made = (name: string, content: () => string): Planned => ({
    name: `video/${name}`,
    at: 'video',
    make: () => Promise.resolve(text(content())),
  });
  const names = new Map(video.runs.map((run) => [run.runId, run.name]));
  return [
    made('chapters.txt', () => chapterList(video.chapters)),
    made('chapters.vtt', () => webVtt(chapterCues(video.chapters, video.lengthS), null)),
    made('moments.vtt', () => webVtt(momentCues(video), 'Events in the runs')),
    made('overlay.vtt', () => webVtt(overlayCues(video, voice), 'Pace, split, warmth and battery')),
    made('moments.csv', () =>
      toCsvText([
        ['video', 'run', 'on the run’s clock, s', 'what'],
        ...video.moments.map(({ videoS, runId, atS, says }) => [
          vttTime(videoS),
          names.get(runId) ?? '',
          Math.round(atS * 1000) / 1000,
          says,
        ]),
      ]),
    ),
    ...(video.leftOut.length === 0 ? [] : [made('left-out.txt', () => `${video.leftOut.join('\n')}\n`)]),
  ];
}

/** A row for each run: what a table program may want to add up. */
function runRows({ runs }: WrittenReview): (string | number | null)[][] {
  const of = (value: { value: number } | null): number | null =>
    value && Math.round(value.value * 1000) / 1000;
  return [
    [
      'run',
      'device',
      'title',
      'setup',
      'started',
      'seconds',
      'source',
      'as read, fps',
      'average fps',
      'median fps',
      '1 % low fps',
      'closing fps',
      'stamina',
      'playable',
      'peak °C',
      'rise °C',
      'watts',
      'hours from full',
      'room °C',
      'confidence in pace',
      'confidence in warmth',
      'confidence in drain',
      'caveats',
    ],
    ...runs.map(({ name, startedAt, stated, figures, confidences, caveats }) => [
      name,
      stated.device,
      stated.title,
      stated.setup,
      startedAt,
      Math.round(figures.seconds * 1000) / 1000,
      figures.source,
      figures.said ? sayRead(figures.said) : null,
      figures.said ? null : of(figures.values.average),
      of(figures.values.median),
      of(figures.values.onePercentLow),
      figures.said ? null : of(figures.values.closing),
      figures.word,
      figures.playable,
      figures.peakC,
      of(figures.values.peakRise),
      of(figures.values.watts),
      figures.hours
        ? sayHours(figures.hours)
        : figures.hours === null
          ? null
          : of(figures.values.hoursFromFull),
      stated.roomC,
      confidences.pace,
      confidences.warmth,
      confidences.drain,
      caveats.join(' '),
    ]),
  ];
}

/** Makes files some ahead of the one that is taken, and hands them out in their order: as many as `ahead` are in memory. */
async function* inOrder(
  planned: readonly Planned[],
  ahead: number,
): AsyncGenerator<{ name: string; at: string; bytes: Uint8Array | null }> {
  const made: Promise<Uint8Array | null>[] = [];
  for (let i = 0; i < planned.length; i++) {
    for (let next = made.length; next < Math.min(planned.length, i + ahead); next++) {
      const making = planned[next]!.make();
      // one that fails is told when its turn comes, or not at all where nobody waits any more
      making.catch(() => undefined);
      made.push(making);
    }
    const { name, at } = planned[i]!;
    yield { name, at, bytes: await made[i]! };
    // let go of what was handed out
    delete made[i];
  }
}
