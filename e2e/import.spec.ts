import { truncateSync } from 'node:fs';
import type { RunDetail } from '@pace-check/contract';
import { expect, test } from './test';
import { choose, fileWith, fill, gzipped, rowCounts } from './kit';

/** Figures by hand, as METHOD defines them, sharing nothing with the product's code. */
function byHand(us: number[]): { average: number; median: number; hold: number; low: number } {
  const total = us.reduce((sum, value) => sum + value, 0);
  const seconds: number[] = [];
  let clock = 0;
  const shares = new Array<number>(Math.ceil(total / 1e6) + 1).fill(0);
  for (const frame of us) {
    for (let second = Math.floor(clock / 1e6); second * 1e6 < clock + frame; second++) {
      shares[second]! +=
        (Math.min(clock + frame, (second + 1) * 1e6) - Math.max(clock, second * 1e6)) / frame;
    }
    clock += frame;
  }
  for (let second = 0; second < Math.floor(total / 1e6); second++) seconds.push(shares[second]!);
  const sortedSeconds = [...seconds].sort((a, b) => a - b);
  const at = (sorted: number[], p: number): number => {
    const place = (sorted.length - 1) * p;
    const [low, high] = [sorted[Math.floor(place)]!, sorted[Math.ceil(place)]!];
    return low + (high - low) * (place - Math.floor(place));
  };
  const median = at(sortedSeconds, 0.5);
  return {
    average: (us.length / total) * 1e6,
    median,
    hold: seconds.filter((q) => Math.abs(q - median) <= 0.2 * median + 1e-9).length / seconds.length,
    low:
      1e6 /
      at(
        [...us].sort((a, b) => a - b),
        0.99,
      ),
  };
}

test('a log with unusual headings: the guess is corrected, and the figures are those worked out by hand', async ({
  page,
}) => {
  // 40 s near 51 frames per second, then 20 s near 30, with a few long frames
  const us = [
    ...Array.from({ length: 2000 }, (_, i) => 19_700 + ((i * 37) % 401) - 200),
    ...Array.from({ length: 600 }, (_, i) => 33_000 + ((i * 53) % 901)),
    90_000,
    120_000,
  ];
  const rows = us.map((value, i) => `${i};${(7 + (i % 5) / 10).toFixed(2).replace('.', ',')};"${value}";x`);
  const path = fileWith(
    'deck.csv',
    `\ufeffwritten on deck; no promises\r\n\r\nrow;engine frame time (ms);picture;remark\r\n${rows.join('\r\n')}\r\n`,
  );

  await choose(page, path);
  await expect(page.getByRole('radio', { name: 'Column engine frame time (ms)' })).toBeChecked();
  await fill(page, { Device: 'Brask Slate 11', Title: 'Hexgarden', 'Target rate, fps': '50' });
  await page.getByRole('radio', { name: 'Column picture' }).click();
  await expect(page.getByRole('radio', { name: 'Column picture' })).toBeChecked();
  const hand = byHand(us);
  await expect(page.getByRole('status')).toContainText(`${us.length.toLocaleString('en-GB')}frames`);
  await expect(page.getByRole('status')).toContainText(`${hand.average.toFixed(1)}fps, average`);
  // milliseconds would be wrong, and the preview shows it; back to microseconds
  await page.getByRole('radio', { name: 'milliseconds' }).click();
  await expect(page.getByRole('status')).toContainText('0.04fps, average');
  await page.getByRole('radio', { name: 'microseconds' }).click();
  await expect(page.getByRole('status')).toContainText(`${hand.average.toFixed(1)}fps, average`);
  await page.getByRole('button', { name: 'Import run' }).click();

  await expect(page.getByRole('heading', { name: 'Hexgarden on Brask Slate 11' })).toBeVisible();
  await expect(
    page
      .getByText(`${hand.average.toFixed(1)}fps, average`)
      .or(page.getByText(hand.average.toFixed(1), { exact: true }))
      .first(),
  ).toBeVisible();
  await expect(page.getByText(`${hand.median.toFixed(1)} fps`, { exact: true })).toBeVisible();
  await expect(page.getByText(`${(hand.hold * 100).toFixed(0)} %`, { exact: true }).first()).toBeVisible();
  await expect(page.getByRole('row', { name: '1 % low', exact: true }).getByRole('cell').first()).toHaveText(
    hand.low.toFixed(1),
  );
});

test('what a shell printed is pasted and becomes a run', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  // a minute in dumps of ten seconds, each with the end of the one before; 50 frames per second
  const shown = Array.from({ length: 3001 }, (_, i) => 84_215_000_000_000n + BigInt(i) * 20_000_000n);
  const dumps = Array.from({ length: 6 }, (_, i) => {
    const rows = shown
      .slice(Math.max(0, i * 500 - 20), (i + 1) * 500 + 1)
      .map((ns) => `${ns - 9_000_000n}\t${ns}\t${ns - 2_000_000n}`);
    return `at ${1_795_686_230 + i * 10}\nlevel: ${87 - i}\nstatus: 3\ntechnology: cell\nskin-therm ${30_000 + i * 500}\n16666666\n${rows.join('\n')}`;
  });
  await page.goto('/import');
  await page.getByRole('button', { name: 'Paste text' }).click();
  await page.evaluate((text) => navigator.clipboard.writeText(text), dumps.join('\n'));
  await page.getByLabel('Log as text').press('ControlOrMeta+v');
  await expect(page.getByRole('group', { name: 'Log as text' })).toContainText('3,142 lines');
  await page.getByRole('button', { name: 'Continue' }).click();
  await expect(page.getByRole('status')).toContainText('3,000frames');
  await expect(page.getByRole('status')).toContainText('1:00length');
  await expect(page.getByRole('status')).toContainText('50fps, average');
  await fill(page, { Device: 'Velm 5', Title: 'Skiff 120', 'Target rate, fps': '50' });
  await page.getByRole('button', { name: 'Import run' }).click();
  await expect(page.getByRole('heading', { name: 'Skiff 120 on Velm 5' })).toBeVisible();
  const run = (await (await page.request.get(`/api${new URL(page.url()).pathname}`)).json()) as RunDetail;
  expect(run.figures.frames).toMatchObject({ count: 3000 });
  expect(run.figures.warmth.peakC).toBeCloseTo(32.5, 9);
  // it began ten seconds before the first dump was printed
  expect(new Date(run.startedAt!).toISOString()).toBe('2026-11-26T09:43:40.000Z');
});

test('bad files: a clear message, what was typed stays, and the database is as before', async ({
  page,
  server,
}) => {
  const before = await rowCounts(server);
  await choose(page, fileWith('log.csv', Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])));
  await expect(page.getByRole('alert')).toContainText('This is a PNG image, not a frame log');
  await expect(page.getByRole('button', { name: 'Import run' })).toBeDisabled();
  await fill(page, {
    Device: 'Quill Deck',
    Title: 'Iron Orchard',
    'Setup (optional)': 'typed before',
  });

  const next = async (path: string): Promise<void> => {
    await page.getByRole('button', { name: 'Choose another file' }).click();
    await page.getByLabel('Frame log or run file').setInputFiles(path);
  };
  await next(fileWith('text.csv', `frame_time_ms\n${'16.7\n'.repeat(20)}smooth\n${'16.7\n'.repeat(20)}`));
  await expect(page.getByRole('alert')).toContainText(
    '1 of 41 rows cannot be read, more than 1 %. The first is line 22',
  );
  await expect(page.getByRole('alert')).toContainText('column 1 contains “smooth”, which is not a number');
  await next(fileWith('fps.csv', 'fps,temperature\n60,30\n59,31\n'));
  await expect(page.getByRole('alert')).toContainText(
    'No column looks like frame times or timestamps. Columns found: “fps”, “temperature”',
  );
  await next(fileWith('empty.csv', ''));
  await expect(page.getByRole('alert')).toContainText('The file is empty.');
  await next(
    fileWith('cut.csv.gz', gzipped(`frame_time_ms\n${'16.7\n16.6\n'.repeat(5000)}`).subarray(0, 40)),
  );
  await expect(page.getByRole('alert')).toContainText('gzip file is incomplete or damaged');
  const huge = fileWith('huge.csv', 'frame_time_ms\n16.7\n');
  truncateSync(huge, 500 * 1024 * 1024);
  await next(huge);
  await expect(page.getByRole('alert')).toContainText('The file is larger than 256 MB.');

  await expect(page.getByLabel('Device', { exact: true })).toHaveValue('Quill Deck');
  await expect(page.getByLabel('Setup (optional)')).toHaveValue('typed before');
  expect(await rowCounts(server)).toEqual(before);
});

test('a form without a device says so; names are picked from the list or added in place', async ({
  page,
}) => {
  await choose(page, fileWith('short.csv', `frame_time_ms\n${'16.7\n'.repeat(300)}`));
  await page.getByRole('button', { name: 'Import run' }).click();
  await expect(page.getByText('enter a name')).toHaveCount(2);
  await page.getByLabel('Device', { exact: true }).fill('velm');
  await page.getByText('Velm 5', { exact: true }).click();
  await expect(page.getByLabel('Device', { exact: true })).toHaveValue('Velm 5');
  await page.getByLabel('Title', { exact: true }).fill('Tidal Steps');
  await page.getByText('Add “Tidal Steps”').click();
  await page.getByRole('button', { name: 'Import run' }).click();
  await expect(page.getByRole('heading', { name: 'Tidal Steps on Velm 5' })).toBeVisible();
  await expect(page.getByRole('row', { name: '1 % low', exact: true })).toContainText('not enough frames');
});

test('cancelling an upload stores nothing', async ({ page, server }) => {
  const before = await rowCounts(server);
  // the request hangs until it is cancelled
  await page.route('**/api/imports*', () => undefined);
  await choose(page, fileWith('hang.csv', `frame_time_ms\n${'15\n'.repeat(3000)}`));
  await fill(page, { Device: 'Velm 5', Title: 'Skiff 120' });
  await page.getByRole('button', { name: 'Import run' }).click();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('Import cancelled. Nothing was stored.')).toBeVisible();
  await expect(page.getByLabel('Title', { exact: true })).toHaveValue('Skiff 120');
  expect(await rowCounts(server)).toEqual(before);
});

test.describe('on a wide screen', () => {
  test.use({ viewport: { width: 1280, height: 800 } });

  test('a gzipped run file is dropped, fills the form, is noticed the second time and taken again when asked', async ({
    page,
    server,
  }) => {
    const lines = [
      {
        type: 'run',
        version: 1,
        device: 'Oru Fold',
        title: 'Glass Canyon',
        setup: 'Lantern, 2x',
        target: 60,
        refresh: 120,
      },
      { type: 'frames', atMs: 0, us: Array<number>(3600).fill(16_667) },
      { type: 'skin', atMs: 30_000, spot: 'back', c: 36.4, by: 'infrared' },
    ];
    const content = Array.from(gzipped(lines.map((line) => JSON.stringify(line)).join('\n')));
    await page.goto('/import');
    const transfer = await page.evaluateHandle((bytes) => {
      const data = new DataTransfer();
      data.items.add(new File([Uint8Array.from(bytes)], 'fold.pace.ndjson.gz', { lastModified: 0 }));
      return data;
    }, content);
    await page.getByText('Drop a file here').dispatchEvent('drop', { dataTransfer: transfer });
    await expect(page.getByLabel('Device', { exact: true })).toHaveValue('Oru Fold');
    await expect(page.getByLabel('Target rate, fps')).toHaveValue('60');
    await page.getByRole('button', { name: 'Import run' }).click();
    await expect(page.getByRole('heading', { name: 'Glass Canyon on Oru Fold' })).toBeVisible();
    await expect(page.getByText(/36\.4\s°C at back/)).toBeVisible();

    const before = await rowCounts(server);
    await choose(page, fileWith('again.pace.ndjson', lines.map((line) => JSON.stringify(line)).join('\n')));
    await page.getByRole('button', { name: 'Import run' }).click();
    await expect(page.getByRole('alert')).toContainText(
      'This file is already imported as “Glass Canyon on Oru Fold”.',
    );
    expect(await rowCounts(server)).toEqual(before);
    await page.getByRole('button', { name: 'Import again' }).click();
    await expect(page.getByRole('heading', { name: 'Glass Canyon on Oru Fold' })).toBeVisible();
    expect((await rowCounts(server))['run']).toBe(before['run']! + 1);
  });
});
