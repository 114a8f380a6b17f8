import { SOURCE_NAMES } from '../words/compareWords';
import { clock, rate, sayTemperature, type Voice } from '../words/headline';
import type { Block } from './blocks';
import { chartSvg } from './charts/chart';
import { escapeXml } from './escape';
import { MOST_LANES } from './charts/lanesChart';
import { laneSvg } from './laneSvg';
import type { ReviewEvidence, ReviewRun, SectionKind } from './model';
import { SECTIONS } from './sections';
import type { WrittenVideo } from './video/written';

/** A review as it is written out: its figures are in its texts already. */
export interface WrittenReview extends ReviewEvidence {
  name: string;
  revision: number;
  /** How its figures are said; null in one that was published before this was kept. */
  voice: Voice | null;
  /** Day on which it was published; null before. */
  published: string | null;
  sections: { kind: SectionKind; text: string }[];
  /** What was corrected since the revision before. */
  corrections: string[];
  /** What its video shows of the runs; null where there is none. */
  video: WrittenVideo | null;
}

/** Lines of a text, without those that are empty. */
const paragraphs = (text: string): string[] =>
  text
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter((line) => line !== '');

const publishedLine = ({ published, revision }: WrittenReview): string =>
  published === null ? 'Not published yet' : `Published ${published}, revision ${revision}`;

/** A name of anybody’s writing, kept from turning the line around it: isolated by its own direction. */
const bdi = (text: string): string => `<bdi>${escapeXml(text)}</bdi>`;

/**
 * The review as one HTML page: self-contained, without scripts, for screen and A4, day and night.
 *
 * @param fonts style sheet with the fonts that its pictures are lettered in; empty for the reader's own
 * @source W3C HTML; WCAG 2.2 AA for its colours (theme of the app)
 */
export function reviewHtml(review: WrittenReview, voice: Voice, fonts = ''): string {
  const sections = review.sections.map(({ kind, text }) => {
    const { title, blocks } = SECTIONS[kind];
    const body = [
      ...blocks(review, voice).map(blockHtml),
      ...(kind === 'lanes' ? lanes(review, voice) : []),
      ...paragraphs(text).map((line) => `<p>${bdi(line)}</p>`),
    ];
    return body.length === 0 ? '' : `<section><h2>${escapeXml(title)}</h2>${body.join('')}</section>`;
  });
  const corrections =
    review.corrections.length === 0
      ? ''
      : `<section><h2>Corrections</h2><ul>${review.corrections.map((line) => `<li>${bdi(line)}</li>`).join('')}</ul></section>`;
  const name = review.name.trim() || 'A review';
  return pageHtml(
    name,
    `<h1>${bdi(name)}</h1><p class="quiet">${escapeXml(publishedLine(review))}</p>\n${sections.filter(Boolean).join('\n')}\n${corrections}`,
    fonts,
  );
}

/**
 * A page of its own, without scripts.
 *
 * @param body markup that is escaped already
 */
export const pageHtml = (title: string, body: string, fonts: string): string => `<!DOCTYPE html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escapeXml(title)}</title>
<style>${fonts}${STYLE}</style>
</head>
<body>
<main>
${body}
</main>
</body>
</html>
`;

function blockHtml(block: Block): string {
  switch (block.is) {
    case 'lead':
      return `<p><strong>${bdi(block.line)}</strong></p>`;
    case 'lines':
      return block.lines.map((line) => `<p>${bdi(line)}</p>`).join('');
    case 'named':
      return block.rows.map(({ name, text }) => `<p><strong>${bdi(name)}</strong> ${bdi(text)}</p>`).join('');
    case 'table':
      return `<section class="wide" tabindex="0" aria-label="${escapeXml(`Table: ${block.label}`)}"><table><thead><tr>${block.heads.map((head) => `<th scope="col">${escapeXml(head)}</th>`).join('')}</tr></thead><tbody>${block.rows
        .map((row) => `<tr>${row.map((cell) => `<td>${bdi(cell)}</td>`).join('')}</tr>`)
        .join('')}</tbody></table></section><p class="quiet">${escapeXml(block.small)}</p>`;
    case 'chart':
      return `<figure class="chart">${chartSvg(block.chart, null)}</figure>`;
  }
}

const LANE = { width: 720, height: 54 };

/** Where the picture of the best and the worst leaves some out: every run's lane on one clock, with what it rests on under it. */
const lanes = ({ runs }: WrittenReview, voice: Voice): string[] => {
  const scaleS = longestS(runs);
  const drawn = runs.filter((run) => run.lane.cells.length > 0);
  if (drawn.length <= MOST_LANES) return [];
  return drawn.map(
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
:root{color-scheme:light dark;--paper:#e9edef;--ink:#182025;--quiet:#4b5961;--line:#c3ccd1}
@media (prefers-color-scheme:dark){:root{--paper:#10171b;--ink:#e8edef;--quiet:#a7b4bb;--line:#35434b}}
body{margin:0;background:var(--paper);color:var(--ink);font:17px/1.5 'Atkinson Hyperlegible Next',system-ui,sans-serif}
main{max-width:60rem;margin:0 auto;padding:1.5rem}
h1,h2{line-height:1.2;font-family:'Barlow Semi Condensed',system-ui,sans-serif}
h2{border-top:1px solid var(--line);padding-top:.8rem}
figure{margin:1rem 0}figure svg{max-width:100%;height:auto}
figure.chart svg{width:100%;max-width:45rem}
.quiet,figcaption{color:var(--quiet);font-size:.9rem}
.wide{overflow-x:auto}
dt{font-weight:bold;margin-top:.8rem}dd{margin:0}
table{border-collapse:collapse;width:100%;font-variant-numeric:tabular-nums}
th,td{text-align:left;padding:.3rem .5rem;border-bottom:1px solid var(--line);vertical-align:top}
@media print{@page{size:A4;margin:16mm}:root{--paper:#fff;--ink:#000;--quiet:#333;--line:#999}body{font-size:10pt}figure{break-inside:avoid}h2{break-after:avoid}.wide{overflow:visible}figure.chart svg{max-width:30rem}}
`.trim();

/** What Markdown would take for more than text. */
const plain = (text: string): string => text.replace(/\0/g, '\ufffd').replace(/([\\`*_[\]<>|#~])/g, '\\$1');
const cell = (text: string): string => plain(text).replace(/\s+/g, ' ');

/**
 * The review as Markdown, with a table as most readers of it know one.
 *
 * @param picture where a picture of it lies beside it, by the name of its file
 */
export function reviewMarkdown(
  review: WrittenReview,
  voice: Voice,
  picture: (file: string) => string = (file) => `charts/${file}.svg`,
): string {
  const parts = review.sections.flatMap(({ kind, text }) => {
    const { title, blocks } = SECTIONS[kind];
    const body = [
      ...blocks(review, voice).flatMap((block) => blockMarkdown(block, picture)),
      ...paragraphs(text).map(plain),
    ];
    return body.length === 0 ? [] : [`## ${title}`, ...body];
  });
  return `${[
    `# ${plain(review.name)}`,
    publishedLine(review),
    ...parts,
    ...(review.corrections.length === 0
      ? []
      : ['## Corrections', review.corrections.map((one) => `- ${plain(one)}`).join('\n')]),
  ].join('\n\n')}\n`;
}

function blockMarkdown(block: Block, picture: (file: string) => string): string[] {
  switch (block.is) {
    case 'lead':
      return [`**${plain(block.line)}**`];
    case 'lines':
      return block.lines.map(plain);
    case 'named':
      return block.rows.map(({ name, text }) => `**${plain(name)}** ${plain(text)}`);
    case 'table': {
      const line = (all: readonly string[]): string => `| ${all.map(cell).join(' | ')} |`;
      return [
        [line(block.heads), `|${block.heads.map(() => ' --- |').join('')}`, ...block.rows.map(line)].join(
          '\n',
        ),
        plain(block.small),
      ];
    }
    case 'chart':
      return [`![${cell(block.chart.alt)}](${picture(block.chart.file)})`, plain(block.chart.small)];
  }
}

/** Pictures of a review, in the order of its sections. */
export const reviewCharts = (
  review: WrittenReview,
  voice: Voice,
): Extract<Block, { is: 'chart' }>['chart'][] =>
  review.sections.flatMap(({ kind }) =>
    SECTIONS[kind].blocks(review, voice).flatMap((block) => (block.is === 'chart' ? [block.chart] : [])),
  );
