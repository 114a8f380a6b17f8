import { SOURCE_NAMES } from '../words/compareWords';
import { clock, hoursAndMinutes, rate, sayTemperature, type Voice } from '../words/headline';
import { escapeXml } from './escape';
import { evidenceLines } from './evidenceLines';
import { laneSvg } from './laneSvg';
import { SECTION_TITLES, type ReviewRun, type SectionKind, type VerdictState } from './model';
import { titleTable, type TitleRow } from './titleTable';

/** A review as it is written out: its figures are in its texts already. */
export interface WrittenReview {
  name: string;
  revision: number;
  /** Day on which it was published; null before. */
  published: string | null;
  verdict: { state: VerdictState; until: string };
  sections: { kind: SectionKind; text: string }[];
  runs: ReviewRun[];
  /** First lines of the comparisons that are in it. */
  comparisons: { name: string; answer: string }[];
  /** What was corrected since the revision before. */
  corrections: string[];
}

/** Heads of the table of titles, and a row of it in words. */
export function titleCells(voice: Voice): { heads: string[]; cells: (row: TitleRow) => string[] } {
  const or = <T>(value: T | null, say: (value: T) => string): string => (value === null ? '–' : say(value));
  return {
    heads: [
      'Device',
      'Title',
      'Setting',
      voice.school === 'median-and-hold' ? 'Median, fps' : 'Average, fps',
      '1 % low',
      'Stamina',
      'Plays',
      `Peak, °${voice.unit}`,
      'Watts',
      'From full',
      'Known from',
    ],
    cells: (row) => [
      row.device,
      row.title,
      row.setup ?? '–',
      row.ended === 'DNS' ? 'DNS' : or(row.lead, rate),
      or(row.low, rate),
      row.ended ?? row.word ?? '–',
      row.playable ?? '–',
      or(row.peakC, (c) => sayTemperature(c, voice.unit).replace(/\u00a0.*$/, '')),
      or(row.watts, (watts) => watts.toFixed(1)),
      or(row.hoursFromFull, hoursAndMinutes),
      `${row.source === null ? '–' : (SOURCE_NAMES[row.source] ?? row.source)}, ${row.runs} run${row.runs === 1 ? '' : 's'}`,
    ],
  };
}

/** What stands in small print under the table, and cannot be left out. */
export function smallPrint({ runs }: WrittenReview, voice: Voice): string {
  const rooms = runs.flatMap((run) => run.stated.roomC ?? []);
  const room =
    rooms.length === 0
      ? 'room unknown'
      : `room ${sayTemperature(Math.min(...rooms), voice.unit)} to ${sayTemperature(Math.max(...rooms), voice.unit)}`;
  return `${voice.school === 'median-and-hold' ? 'Median of the pace of each second' : 'Average: frames by time'}; 1 % low: quantile of the frame times; peak: the hottest reading of any spot; ${room}; ${runs.length} run${runs.length === 1 ? '' : 's'}.`;
}

const STATE_WORDS: Record<VerdictState, string> = {
  withheld: 'The verdict is withheld',
  provisional: 'This verdict is provisional',
  final: 'This verdict is final',
};
const verdictLine = ({ verdict }: WrittenReview): string =>
  `${STATE_WORDS[verdict.state]}${verdict.state !== 'final' && verdict.until !== '' ? ` until ${verdict.until}` : ''}.`;

const paragraphs = (text: string): string[] =>
  text
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter((line) => line !== '');

/** A name of anybody’s writing, kept from turning the line around it: isolated by its own direction. */
const bdi = (text: string): string => `<bdi>${escapeXml(text)}</bdi>`;

/**
 * The review as one HTML page: self-contained, without scripts, for screen and A4, day and night.
 *
 * @source W3C HTML; WCAG 2.2 AA for its colours (theme of the app)
 */
export function reviewHtml(review: WrittenReview, voice: Voice): string {
  const { heads, cells } = titleCells(voice);
  const rows = titleTable(review.runs, voice.school);
  const sections = review.sections.map(({ kind, text }) => {
    const body = [
      ...(kind === 'verdict' ? [`<p><strong>${escapeXml(verdictLine(review))}</strong></p>`] : []),
      ...paragraphs(evidenceLines(kind, review.runs, voice)).map((line) => `<p>${bdi(line)}</p>`),
      ...paragraphs(text).map((line) => `<p>${bdi(line)}</p>`),
      ...(kind === 'comparisons'
        ? review.comparisons.map(({ name, answer }) => `<p><strong>${bdi(name)}</strong> ${bdi(answer)}</p>`)
        : []),
      ...(kind === 'titles' && rows.length > 0
        ? [
            `<div class="wide" tabindex="0" role="region" aria-label="Table of titles"><table><caption>${escapeXml(smallPrint(review, voice))}</caption><thead><tr>${heads.map((head) => `<th scope="col">${escapeXml(head)}</th>`).join('')}</tr></thead><tbody>${rows
              .map(
                (row) =>
                  `<tr>${cells(row)
                    .map((cell) => `<td>${bdi(cell)}</td>`)
                    .join('')}</tr>`,
              )
              .join('')}</tbody></table></div>`,
          ]
        : []),
      ...(kind === 'titles' ? lanes(review, voice) : []),
    ];
    return body.length === 0
      ? ''
      : `<section><h2>${escapeXml(SECTION_TITLES[kind])}</h2>${body.join('')}</section>`;
  });
  const corrections =
    review.corrections.length === 0
      ? ''
      : `<section><h2>Corrections</h2><ul>${review.corrections.map((line) => `<li>${bdi(line)}</li>`).join('')}</ul></section>`;
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escapeXml(review.name)}</title>
<style>${STYLE}</style>
</head>
<body>
<main>
<h1>${bdi(review.name)}</h1>
<p class="quiet">${escapeXml(review.published === null ? 'Not published yet' : `Published ${review.published}, revision ${review.revision}`)}</p>
${sections.join('\n')}
${corrections}
</main>
</body>
</html>
`;
}

const LANE = { width: 720, height: 54 };

/** Every run's lane on one clock, with what it rests on under it. */
const lanes = ({ runs }: WrittenReview, voice: Voice): string[] => {
  const scaleS = longestS(runs);
  return runs
    .filter((run) => run.lane.cells.length > 0)
    .map(
      (run, i) =>
        `<figure>${laneSvg(run.lane, { ...LANE, scaleS, says: run.name, id: `hatch-${i}` })}<figcaption>${bdi(laneCaption(run, voice))}</figcaption></figure>`,
    );
};

/** Seconds of the longest lane: what the full width of all stands for. */
export const longestS = (runs: readonly ReviewRun[]): number =>
  runs.reduce((longest, run) => Math.max(longest, run.lane.seconds), 60);

/** What stands under a lane, and cannot be left out. */
function laneCaption({ name, stated, figures, lane }: ReviewRun, voice: Voice): string {
  const of = lane.measures === 'target' ? `share of ${rate(lane.target!)} fps held` : 'share held';
  const room = stated.roomC === null ? 'room unknown' : `room ${sayTemperature(stated.roomC, voice.unit)}`;
  return [
    name,
    stated.setup,
    of,
    clock(lane.seconds),
    room,
    figures.source === null ? null : (SOURCE_NAMES[figures.source] ?? figures.source),
  ]
    .filter(Boolean)
    .join(' · ');
}

const STYLE = `
:root{color-scheme:light dark;--paper:#e9edef;--ink:#182025;--quiet:#4b5961;--line:#c3ccd1;--action:#a8430f}
@media (prefers-color-scheme:dark){:root{--paper:#10171b;--ink:#e8edef;--quiet:#a7b4bb;--line:#35434b;--action:#f09058}}
body{margin:0;background:var(--paper);color:var(--ink);font:17px/1.5 system-ui,sans-serif}
main{max-width:60rem;margin:0 auto;padding:1.5rem}
h1,h2{line-height:1.2}
h2{border-top:1px solid var(--line);padding-top:.8rem}
figure{margin:1rem 0}figure svg{max-width:100%;height:auto}
.quiet,caption,figcaption{color:var(--quiet);font-size:.9rem}
.wide{overflow-x:auto}
table{border-collapse:collapse;width:100%;font-variant-numeric:tabular-nums}
caption{caption-side:bottom;text-align:left;padding-top:.4rem}
th,td{text-align:left;padding:.3rem .5rem;border-bottom:1px solid var(--line);vertical-align:top}
@media print{@page{size:A4;margin:16mm}:root{--paper:#fff;--ink:#000;--quiet:#333;--line:#999}body{font-size:10pt}section{break-inside:avoid}.wide{overflow:visible}}
`.trim();

/** What Markdown would take for more than text. */
const plain = (text: string): string => text.replace(/\0/g, '\ufffd').replace(/([\\`*_[\]<>|#~])/g, '\\$1');

/** The review as Markdown, with a table as most readers of it know one. */
export function reviewMarkdown(review: WrittenReview, voice: Voice): string {
  const { heads, cells } = titleCells(voice);
  const rows = titleTable(review.runs, voice.school);
  const line = (all: string[]): string =>
    `| ${all.map((cell) => plain(cell).replace(/\s+/g, ' ')).join(' | ')} |`;
  const parts = review.sections.flatMap(({ kind, text }) => {
    const body = [
      ...(kind === 'verdict' ? [`**${plain(verdictLine(review))}**`] : []),
      ...paragraphs(evidenceLines(kind, review.runs, voice)).map(plain),
      ...paragraphs(text).map(plain),
      ...(kind === 'comparisons'
        ? review.comparisons.map(({ name, answer }) => `**${plain(name)}** ${plain(answer)}`)
        : []),
      ...(kind === 'titles' && rows.length > 0
        ? [
            [
              line(heads),
              `|${heads.map(() => ' --- |').join('')}`,
              ...rows.map((row) => line(cells(row))),
            ].join('\n'),
            plain(smallPrint(review, voice)),
          ]
        : []),
    ];
    return body.length === 0 ? [] : [`## ${SECTION_TITLES[kind]}`, ...body];
  });
  return `${[
    `# ${plain(review.name)}`,
    review.published === null
      ? 'Not published yet'
      : `Published ${review.published}, revision ${review.revision}`,
    ...parts,
    ...(review.corrections.length === 0
      ? []
      : ['## Corrections', review.corrections.map((one) => `- ${plain(one)}`).join('\n')]),
  ].join('\n\n')}\n`;
}
