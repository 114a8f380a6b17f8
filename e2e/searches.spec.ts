import { ROUTES } from '@pace-check/contract';
import { expectAccessible } from './access';
import { ask } from './ask';
import { expect, test } from './test';

/** What these journeys noted is taken away. */
test.afterEach(async ({ page }) => {
  const kit = await ask(page, ROUTES.kit, {});
  const title = kit.titles.find((one) => one.name === 'Recipe journey');
  if (title) {
    for (const { id } of kit.setups.filter((one) => one.titleId === title.id))
      await ask(page, ROUTES.deleteRecord, { params: { kind: 'setup', id } });
    await ask(page, ROUTES.deleteRecord, { params: { kind: 'title', id: title.id } });
  }
  for (const { id, title } of await ask(page, ROUTES.ladders, {}))
    if (/journey/.test(title)) await ask(page, ROUTES.deleteLadder, { params: { id } });
  for (const { id, title } of await ask(page, ROUTES.choices, {}))
    if (/journey/.test(title)) await ask(page, ROUTES.deleteChoice, { params: { id } });
  for (const { id, title } of (await ask(page, ROUTES.outcomes, {})).outcomes)
    if (/journey/.test(title)) await ask(page, ROUTES.deleteOutcome, { params: { id } });
});

test.describe('phone', () => {
  test.use({ viewport: { width: 390, height: 844 } });

  test('a ladder from its start to the run that confirms it, by the emulator’s percent', async ({ page }) => {
    const { id: run } = await ask(page, ROUTES.newRun, {
      body: {
        name: 'A long one at 2×',
        facts: { device: 'Velm 5', title: 'Quay journey', setup: '2×', target: 60, refresh: null, roomC: 18 },
        entries: [
          { type: 'rate', atMs: 60_000, fps: 60, by: 'in-title' },
          { type: 'rate', atMs: 1_100_000, fps: 60, by: 'in-title' },
          { type: 'end', atMs: 1_200_000, reason: 'planned' },
        ],
      },
    });
    await page.goto('/');
    await page.getByRole('link', { name: 'Best settings' }).click();
    await page.getByRole('button', { name: 'New ladder' }).click();
    const form = page.getByRole('form', { name: 'New ladder' });
    await form.getByLabel('Device', { exact: true }).fill('Velm 5');
    await form.getByLabel('Title', { exact: true }).fill('Quay journey');
    await form.getByLabel('Settings in this ladder').fill('1×\n2×\n3×\n4×\n5×\n6×');
    await form.getByLabel('Pixels at 1× (optional)').fill('307200');
    await form.getByLabel('Full speed, fps').fill('60');
    await expect(form.getByText(/are marked as “no benefit”\.$/)).toBeVisible();
    await form.getByRole('button', { name: 'Start' }).click();

    await expect(page.getByRole('heading', { name: 'Quay journey on Velm 5' })).toBeVisible();
    const next = page.getByRole('region', { name: 'Next step' });
    await expect(
      next.getByText(/^Test 2× next: it halves what is still open; probably \d more tests?\.$/),
    ).toBeVisible();
    const rungs = page.getByRole('list', { name: 'Settings in this ladder' });
    // the screen of the device shows 3.5 million pixels
    await expect(rungs.getByRole('listitem', { name: /^4×: 0 %, no benefit/ })).toBeVisible();
    const probe = async (rung: string, percent: string): Promise<void> => {
      const pad = page.getByRole('group', { name: `Test of ${rung}`, exact: true });
      await pad.getByLabel('Speed, %').fill(percent);
      await pad.getByRole('button', { name: 'Save result' }).click();
    };
    // the first play warms up, and counts for nothing
    const before = await rungs.getByRole('listitem', { name: /^2×:/ }).getAttribute('aria-label');
    await page.getByRole('checkbox', { name: /^First play/ }).click();
    await probe('2×', '60');
    await expect(page.getByText(/^2×: 60 % of full speed · first play, not counted$/)).toBeVisible();
    expect(await rungs.getByRole('listitem', { name: /^2×:/ }).getAttribute('aria-label')).toBe(before);
    await probe('2×', '100');
    await expect(next.getByText(/^Test 3× next/)).toBeVisible();
    // a slip of the thumb is taken back
    await probe('3×', '100');
    await page.getByRole('button', { name: /^Delete 3×: 100 %/ }).click();
    await expect(next.getByText(/^Test 3× next/)).toBeVisible();
    await probe('3×', '80');
    while (!(await next.getByText(/is the highest that holds/).isVisible())) await probe('2×', '100');
    await expect(next.getByText(/^2× is the highest that holds \(9\d.% sure\)\. Confirm it/)).toBeVisible();
    await expectAccessible(page);
    await page.getByRole('button', { name: /^Use as confirmation A long one at 2×/ }).click();
    await expect(
      page.getByText(/^2×: A long one at 2× · 2×, closes at 100 % of full speed, 20 min\.$/),
    ).toBeVisible();
    await expect(page.getByText(/All changes saved/)).toBeVisible();
    await page.getByRole('link', { name: 'Best settings' }).click();
    await expect(page.getByText(/^2× holds, 9\d % sure, confirmed by a long run$/)).toBeVisible();
    await ask(page, ROUTES.deleteRun, { params: { id: run } });
  });

  test('a backend choice stays open until a third probe of each, and then says what the other one costs', async ({
    page,
  }) => {
    // how much runs of the library differ is set here: other journeys add to the library, and none may decide this choice
    await page.route('**/api/choices/*', async (call) => {
      const response = await call.fetch();
      if (!response.headers()['content-type']?.includes('json')) return call.fulfill({ response });
      const json = (await response.json()) as object;
      const spread = { squares: 10 * 0.013 ** 2, n: 11 };
      return call.fulfill({ response, json: 'spread' in json ? { ...json, spread } : json });
    });
    await page.goto('/ladders');
    await page.getByRole('button', { name: 'New option search' }).click();
    const form = page.getByRole('form', { name: 'New option search' });
    await form.getByLabel('Device', { exact: true }).fill('Velm 5');
    await form.getByLabel('Title', { exact: true }).fill('Backend journey');
    await form.getByLabel('Scene', { exact: true }).fill('the mill race');
    await form.getByLabel('Options').fill('Glim\nGlim');
    await form.getByLabel('Full speed, fps').fill('60');
    await form.getByRole('button', { name: 'Start' }).click();
    await expect(form.getByRole('alert')).toContainText('“Glim” is listed twice');
    await form.getByLabel('Options').fill('Glim\nEmber');
    await form.getByRole('button', { name: 'Start' }).click();

    const stands = page.getByRole('region', { name: 'Result so far' });
    await expect(stands.getByText('No tests yet. Start with Glim.')).toBeVisible();
    const probe = async (option: string, percent: string): Promise<void> => {
      await page
        .getByRole('list', { name: 'Options' })
        .getByRole('listitem', { name: new RegExp(`^${option}:`) })
        .click();
      const pad = page.getByRole('group', { name: `Test of ${option}`, exact: true });
      await pad.getByLabel('Speed, %').fill(percent);
      await pad.getByRole('button', { name: 'Save result' }).click();
    };
    for (const [glim, ember] of [
      ['95.1', '97.6'],
      ['95.0', '97.7'],
    ] as const) {
      await probe('Glim', glim);
      await probe('Ember', ember);
      await expect(
        stands.getByText(/^Not decided between Glim and Ember: neither is clearly faster/),
      ).toBeVisible();
    }
    await expect(stands.getByText(/About [56] tests of each would decide the speed\.$/)).toBeVisible();
    await probe('Glim', '95.2');
    await probe('Ember', '97.7');
    await expect(
      stands.getByText('Choose Ember: it is clearly faster than every other option.'),
    ).toBeVisible();
    await expect(
      page.getByRole('listitem', {
        name: /^Glim: 95\.1.%, 3 tests, 3.% slower \(\d to \d.%\)$/,
      }),
    ).toBeVisible();
    await expect(page.getByText('Same question, other titles or devices')).toBeVisible();
    await expectAccessible(page);
    // one that is taken back opens it again
    await page
      .getByRole('button', { name: /^Delete Ember: 97\.7 %/ })
      .first()
      .click();
    await expect(stands.getByText(/^Not decided between Glim and Ember/)).toBeVisible();
    await expect(page.getByText(/All changes saved/)).toBeVisible();
    await page.getByRole('link', { name: 'Best settings' }).click();
    // what it says there stands on the library's own spread, which other journeys change
    await expect(page.getByRole('link', { name: /^Backend journey on Velm 5/ })).toContainText('5 tests');
  });

  test('a setup is derived, set beside the other, and printed as a recipe with its cautions', async ({
    page,
  }) => {
    const { id } = await ask(page, ROUTES.addRecord, {
      params: { kind: 'title' },
      body: { name: 'Recipe journey', facts: { kind: 'translated' } },
    });
    await page.goto(`/kit/title/${id}`);
    await page.getByLabel('New setup').fill('Gale, safe');
    await page.getByRole('button', { name: 'Add setup' }).click();
    const safe = page.getByRole('form', { name: 'Setup Gale, safe' });
    await safe.getByLabel('Layer', { exact: true }).fill('Gale');
    await safe.getByLabel('Graphics driver', { exact: true }).fill('as delivered');
    await safe.getByLabel('Cap, fps').fill('40');
    await safe.getByLabel('Setting name').fill('fog');
    await safe.getByLabel('Value').fill('200');
    await safe.getByLabel('Unit').fill('m');
    await safe.getByRole('button', { name: 'Add setting' }).click();
    await expect(safe.getByLabel('Fog, m')).toHaveValue('200');
    await safe.getByRole('button', { name: 'Add step' }).click();
    const step = safe.getByRole('group', { name: 'Step 1' });
    await step.getByLabel('1. Action').fill('Sideload the package of Gale.');
    await step.getByLabel('How to undo it').fill('Remove Gale.');
    await step.getByLabel('Source').fill('its own notes');
    await step.getByLabel('Tried on').fill('2026-05-02');
    await safe.getByRole('button', { name: 'Save setup' }).click();
    await expect(
      page.getByText('layer Gale, graphics driver as delivered, cap 40 fps, fog 200 m'),
    ).toBeVisible();

    // another one, derived: only what differs is said
    await page.getByLabel('New setup').fill('Gale, patched');
    await page.getByLabel('Based on').selectOption('Gale, safe');
    await page.getByRole('button', { name: 'Add setup' }).click();
    const patched = page.getByRole('form', { name: 'Setup Gale, patched' });
    await patched.getByLabel('Graphics driver', { exact: true }).fill('Petrel 9, patched');
    await patched.getByRole('button', { name: 'Clear Fog' }).click();
    await patched.getByRole('button', { name: 'Save setup' }).click();
    await expect(
      page.getByText('same as Gale, safe, except graphics driver Petrel 9, patched, without fog'),
    ).toBeVisible();
    const differs = page.getByRole('table', { name: 'Differences' });
    await expect(
      differs.getByRole('row', { name: /^graphics driver as delivered Petrel 9, patched$/ }),
    ).toBeVisible();
    await expect(differs.getByRole('row', { name: /^fog 200 m (not set|without|none)$/ })).toBeVisible();
    await expectAccessible(page);

    // a circle is refused, and what was typed stays
    await page.getByRole('button', { name: /^Gale, safe/ }).click();
    await safe.getByLabel('Based on').selectOption('Gale, patched');
    await safe.getByRole('button', { name: 'Save setup' }).click();
    await expect(safe.getByRole('alert')).toContainText('is based on itself');
    await safe.getByLabel('Based on').selectOption('none');

    await safe.getByRole('button', { name: 'Recipe of Gale, safe' }).click();
    await expect(page.getByRole('heading', { name: 'Recipe journey: Gale, safe' })).toBeVisible();
    const cautions = page.getByRole('note', { name: 'Cautions' });
    await expect(cautions).toContainText('Packages from outside the official store');
    await expect(cautions).toContainText('local rules');
    await expect(page.getByRole('list', { name: 'Steps' })).toContainText('1. Sideload the package of Gale.');
    await expect(page.getByRole('list', { name: 'Steps' })).toContainText('from its own notes, tried');
    await expect(page.getByRole('list', { name: 'Settings of this setup' })).toContainText('fog: 200 m');
    await expect(page.getByRole('list', { name: 'How to undo it' })).toContainText('Step 1: Remove Gale.');
    await expectAccessible(page);
    // on paper the buttons are gone
    await page.emulateMedia({ media: 'print' });
    await expect(page.getByRole('button', { name: 'Print' })).toBeHidden();
    await expect(cautions).toBeVisible();
  });

  test('one ladder over three titles: the loaded one first, the next from what was seen', async ({
    page,
  }) => {
    await page.goto('/ladders');
    await page.getByRole('button', { name: 'New ladder' }).click();
    const form = page.getByRole('form', { name: 'New ladder' });
    await form.getByLabel('Device', { exact: true }).fill('Kitto Mini');
    await form.getByLabel('Title', { exact: true }).fill('Rook Tower');
    await form.getByRole('button', { name: /^All of Lumo 64 in the kit: \d+ more$/ }).click();
    await expect(form.getByLabel('More titles')).toHaveValue(/Pico Harbour/);
    await form.getByLabel('Settings in this ladder').fill('1×\n2×\n3×\n4×');
    await form.getByRole('button', { name: 'Start' }).click();
    await expect(page.getByRole('heading', { level: 1, name: 'Lumo 64 on Kitto Mini' })).toBeVisible();
    const next = page.getByRole('region', { name: 'Next step' });
    const bars = page.getByRole('list', { name: 'Results by title' }).getByRole('listitem');
    const titles = await bars.count();
    const probe = async (says: RegExp, percent: string): Promise<void> => {
      await expect(next.getByText(says)).toBeVisible();
      await next.getByLabel('Speed, %').fill(percent);
      await next.getByRole('button', { name: 'Save result' }).click();
    };
    await probe(/^Glass Canyon at 2×$/, '100');
    await probe(/^Glass Canyon at 3×$/, '80');
    // told: the next title begins where the first one ended
    await expect(bars.filter({ hasText: 'Glass Canyon' })).toContainText('2×');
    await probe(/^Pico Harbour at 2×$/, '100');
    await probe(/^Pico Harbour at 3×$/, '100');
    await probe(/^Pico Harbour at 4×$/, '70');
    await expect(bars.filter({ hasText: 'Pico Harbour' })).toContainText('3×');
    await expect(page.getByText(new RegExp(`^2 of ${titles} decided, 5 tests so far`))).toBeVisible();
    await expectAccessible(page);
    await page.goto('/ladders');
    await expect(
      page
        .getByRole('list', { name: 'Ladders' })
        .getByRole('listitem')
        .filter({ hasText: 'Lumo 64 on Kitto Mini' }),
    ).toContainText(`2 of ${titles} decided`);
  });

  test('thirty outcomes pasted, one noted by thumb, a version noted, and what to test again', async ({
    page,
  }) => {
    await page.goto('/outcomes');
    await expect(page.getByRole('list', { name: 'Share of titles that run' })).toBeVisible();
    await page.getByRole('button', { name: 'Paste a table' }).click();
    const paste = page.getByRole('form', { name: 'Paste results' });
    const rows = Array.from({ length: 30 }, (_, i) =>
      [
        `Title ${i} journey`,
        i === 7 ? 'perhaps' : i % 3 === 0 ? 'crash' : '100 %',
        i % 3 === 0 ? 'at the gate' : '',
      ].join('\t'),
    );
    await paste.getByLabel('Table of results').fill(`title\tstatus\twhere\n${rows.join('\n')}`);
    await expect(paste.getByText(/^Line 9, status: “perhaps” is not a status. Use one of/)).toBeVisible();
    await expect(paste.getByRole('button', { name: 'Save 29 results' })).toBeDisabled();
    await paste.getByLabel('Device', { exact: true }).fill('Oru Fold');
    await paste.getByLabel('Emulator or layer (optional)').fill('Gale');
    await paste.getByLabel('Version').fill('0.8');
    await paste.getByRole('button', { name: 'Save 29 results' }).click();
    // what is not clear stays, and is mended
    await expect(paste.getByLabel('Table of results')).toHaveValue('Title 7 journey\tperhaps\t');
    await paste.getByLabel('Table of results').fill('Title 7 journey\tslow\tin the rain');
    await paste.getByRole('button', { name: 'Save 1 result' }).click();
    await expect(paste.getByLabel('Table of results')).toHaveValue('');
    const share = page
      .getByRole('list', { name: 'Share of titles that run' })
      .getByRole('listitem')
      .filter({ hasText: 'Oru Fold' });
    // thirty that were noted, and five of the demo's runs, of which one crashed
    await expect(share).toHaveText(/24 of 35 \(52 to 81.%\)/);

    await page.getByRole('button', { name: 'Add' }).click();
    const note = page.getByRole('form', { name: 'Add result' });
    await note.getByLabel('Device', { exact: true }).fill('Oru Fold');
    await note.getByLabel('Emulator or layer (optional)').fill('Gale');
    await note.getByLabel('Version').fill('0.8');
    await note.getByLabel('Title', { exact: true }).fill('Thumb journey');
    await note.getByLabel('Where it crashes, or what is wrong').fill('the sky is pink');
    await note.getByRole('checkbox', { name: 'picture' }).click();
    await note.getByRole('button', { name: 'glitches', exact: true }).click();
    await expect(page.getByText('Thumb journey on Oru Fold: glitches.')).toBeVisible();
    await expect(share).toHaveText(/25 of 36/);

    await page.getByRole('button', { name: 'Claims' }).click();
    const claims = page.getByRole('form', { name: 'Add claims' });
    await claims.getByLabel('Source of the claim').fill('a list, journey');
    await claims.getByRole('radio', { name: 'does not run' }).click();
    await claims.getByLabel('Titles of the claims').fill('Title 0 journey\nTitle 1 journey\nTitle 0 journey');
    await claims.getByRole('button', { name: 'Save 2 claims' }).click();
    const said = page
      .getByRole('list', { name: 'Share of titles that run' })
      .getByText('claimed “does not run”, confirmed');
    await expect(said.locator('xpath=..')).toHaveText(/1 of 2 /);
    for (const title of ['Title 0 journey', 'Title 1 journey'])
      await claims.getByRole('button', { name: `Remove the claim for ${title}` }).click();
    await expect(said).toHaveCount(0);

    await page.getByRole('button', { name: 'New version' }).click();
    const version = page.getByRole('form', { name: 'Add version' });
    await version.getByLabel('Emulator or layer').fill('Gale');
    await version.getByLabel('New version').fill('0.9');
    await version.getByRole('button', { name: 'Save version' }).click();
    const again = page.getByRole('list', { name: 'Test again with Gale 0.9' });
    await expect(again.getByRole('listitem')).toHaveCount(31);
    await expect(again.getByText('Thumb journey on Oru Fold: glitches with 0.8')).toBeVisible();

    // the same title under the new version, and a fork: each against what it follows
    const against = page.getByRole('list', { name: 'Gale 0.9 compared with Gale 0.8' });
    await page.getByRole('button', { name: 'Add' }).click();
    await note.getByLabel('Device', { exact: true }).fill('Oru Fold');
    await note.getByLabel('Emulator or layer (optional)').fill('Gale');
    await note.getByLabel('Version').fill('0.9');
    await note.getByLabel('Title', { exact: true }).fill('Thumb journey');
    await note.getByRole('checkbox', { name: 'now and then' }).click();
    await note.getByRole('button', { name: 'full speed', exact: true }).click();
    await page.getByLabel('First', { exact: true }).selectOption('Gale 0.8');
    await page.getByLabel('Second', { exact: true }).selectOption('Gale 0.9');
    await expect(against.getByRole('listitem')).toHaveText([
      /^fixed\s+Thumb journey on Oru Fold\s*glitches \(picture\) → full speed, occasional stutter$/,
    ]);
    await expect(page.getByText('Of 1 title seen with both: 1 fixed.')).toBeVisible();
    for (const { id, version: of } of (await ask(page, ROUTES.outcomes, {})).outcomes.filter(
      (one) => one.title === 'Thumb journey',
    ))
      if (of === '0.9') await ask(page, ROUTES.deleteOutcome, { params: { id } });
    await page.reload();

    await page.getByLabel('Search titles').fill('thumb');
    await expect(page.getByText(/^1 of \d+ titles\. Of these, 1 of 1 /)).toBeVisible();
    await page.getByRole('button', { name: 'Thumb journey: Oru Fold glitches' }).click();
    const list = page.getByRole('list', { name: 'Details of Thumb journey' });
    await expect(list.getByRole('listitem')).toHaveCount(1);
    await expect(list.getByText(/the sky is pink \(picture\)/)).toBeVisible();
    await list.getByRole('button', { name: 'Remove Thumb journey on Oru Fold' }).click();
    await expect(share).toHaveText(/24 of 35/);
    await expectAccessible(page);
  });
});
