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
    await page.getByRole('button', { name: 'Ladders' }).click();
    await page.getByRole('button', { name: 'New ladder' }).click();
    const form = page.getByRole('form', { name: 'New ladder' });
    await form.getByLabel('Device', { exact: true }).fill('Velm 5');
    await form.getByLabel('Title', { exact: true }).fill('Quay journey');
    await form.getByLabel('Rungs').fill('1×\n2×\n3×\n4×\n5×\n6×');
    await form.getByLabel('Pixels at 1×, if known').fill('307200');
    await form.getByLabel('Full speed, fps').fill('60');
    await expect(form.getByText(/are marked as wasted\.$/)).toBeVisible();
    await form.getByRole('button', { name: 'Begin' }).click();

    await expect(page.getByRole('heading', { name: 'Quay journey on Velm 5' })).toBeVisible();
    const next = page.getByRole('region', { name: 'What to do next' });
    await expect(
      next.getByText(/^Probe 2× next: it splits what is left; \d probes to go, probably\.$/),
    ).toBeVisible();
    const rungs = page.getByRole('list', { name: 'Rungs' });
    // the screen of the device shows 3.5 million pixels
    await expect(rungs.getByRole('listitem', { name: /^4×: 0 %, wasted/ })).toBeVisible();
    const probe = async (rung: string, percent: string): Promise<void> => {
      const pad = page.getByRole('group', { name: `Probe of ${rung}`, exact: true });
      await pad.getByLabel('Speed, %').fill(percent);
      await pad.getByRole('button', { name: 'Note it' }).click();
    };
    // the first play warms up, and counts for nothing
    const before = await rungs.getByRole('listitem', { name: /^2×:/ }).getAttribute('aria-label');
    await page.getByRole('checkbox', { name: /^First play/ }).click();
    await probe('2×', '60');
    await expect(page.getByText(/^2×: 60 % of full speed · first play, not counted$/)).toBeVisible();
    expect(await rungs.getByRole('listitem', { name: /^2×:/ }).getAttribute('aria-label')).toBe(before);
    await probe('2×', '100');
    await expect(next.getByText(/^Probe 3× next/)).toBeVisible();
    // a slip of the thumb is taken back
    await probe('3×', '100');
    await page.getByRole('button', { name: /^Take back 3×: 100 %/ }).click();
    await expect(next.getByText(/^Probe 3× next/)).toBeVisible();
    await probe('3×', '80');
    while (!(await next.getByText(/is the highest that holds/).isVisible())) await probe('2×', '100');
    await expect(next.getByText(/^2× is the highest that holds \(9\d.% sure\)\. Confirm it/)).toBeVisible();
    await expectAccessible(page);
    await page.getByRole('button', { name: /^It was A long one at 2×/ }).click();
    await expect(
      page.getByText(/^2×: A long one at 2× · 2×, closes at 100 % of full speed, 20 min\.$/),
    ).toBeVisible();
    await expect(page.getByText(/all is kept/)).toBeVisible();
    await page.getByRole('link', { name: 'Ladders and choices' }).click();
    await expect(page.getByText(/^2× holds, 9\d % sure, confirmed by a sustained run$/)).toBeVisible();
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
    await page.getByRole('button', { name: 'New choice' }).click();
    const form = page.getByRole('form', { name: 'New choice' });
    await form.getByLabel('Device', { exact: true }).fill('Velm 5');
    await form.getByLabel('Title', { exact: true }).fill('Backend journey');
    await form.getByLabel('Scene', { exact: true }).fill('the mill race');
    await form.getByLabel('Options').fill('Glim\nGlim');
    await form.getByLabel('Full speed, fps').fill('60');
    await form.getByRole('button', { name: 'Begin' }).click();
    await expect(form.getByRole('alert')).toContainText('“Glim” stands twice');
    await form.getByLabel('Options').fill('Glim\nEmber');
    await form.getByRole('button', { name: 'Begin' }).click();

    const stands = page.getByRole('region', { name: 'Where it stands' });
    await expect(stands.getByText('Nothing was tried yet. Begin with Glim.')).toBeVisible();
    const probe = async (option: string, percent: string): Promise<void> => {
      await page
        .getByRole('list', { name: 'Options' })
        .getByRole('listitem', { name: new RegExp(`^${option}:`) })
        .click();
      const pad = page.getByRole('group', { name: `Probe of ${option}`, exact: true });
      await pad.getByLabel('Speed, %').fill(percent);
      await pad.getByRole('button', { name: 'Note it' }).click();
    };
    for (const [glim, ember] of [
      ['95.1', '97.6'],
      ['95.0', '97.7'],
    ] as const) {
      await probe('Glim', glim);
      await probe('Ember', ember);
      await expect(stands.getByText(/^Open between Glim and Ember: none is clearly faster/)).toBeVisible();
    }
    await expect(stands.getByText(/About [56] probes of each would settle the speed\.$/)).toBeVisible();
    await probe('Glim', '95.2');
    await probe('Ember', '97.7');
    await expect(stands.getByText('Take Ember: it is clearly faster than every other one.')).toBeVisible();
    await expect(
      page.getByRole('listitem', {
        name: /^Glim: 95\.1.%, 3 probes, costs 3.% of the speed \(\d to \d.%\)$/,
      }),
    ).toBeVisible();
    await expect(page.getByText('The same question elsewhere')).toBeVisible();
    await expectAccessible(page);
    // one that is taken back opens it again
    await page
      .getByRole('button', { name: /^Take back Ember: 97\.7 %/ })
      .first()
      .click();
    await expect(stands.getByText(/^Open between Glim and Ember/)).toBeVisible();
    await expect(page.getByText(/all is kept/)).toBeVisible();
    await page.getByRole('link', { name: 'Ladders and choices' }).click();
    // what it says there stands on the library's own spread, which other journeys change
    await expect(page.getByRole('link', { name: /^Backend journey on Velm 5/ })).toContainText('5 probes');
  });

  test('a setup is derived, set beside the other, and printed as a recipe with its cautions', async ({
    page,
  }) => {
    const { id } = await ask(page, ROUTES.addRecord, {
      params: { kind: 'title' },
      body: { name: 'Recipe journey', facts: { kind: 'translated' } },
    });
    await page.goto(`/kit/title/${id}`);
    await page.getByLabel('A new setup').fill('Gale, safe');
    await page.getByRole('button', { name: 'Add setup' }).click();
    const safe = page.getByRole('form', { name: 'Setup Gale, safe' });
    await safe.getByLabel('Layer', { exact: true }).fill('Gale');
    await safe.getByLabel('Graphics driver', { exact: true }).fill('as delivered');
    await safe.getByLabel('Cap, fps').fill('40');
    await safe.getByLabel('Another thing').fill('fog');
    await safe.getByLabel('Set to').fill('200');
    await safe.getByLabel('Unit').fill('m');
    await safe.getByRole('button', { name: 'Add the other thing' }).click();
    await expect(safe.getByLabel('Fog, m')).toHaveValue('200');
    await safe.getByRole('button', { name: 'Add a step' }).click();
    const step = safe.getByRole('group', { name: 'Step 1' });
    await step.getByLabel('1. What to do').fill('Sideload the package of Gale.');
    await step.getByLabel('How it is undone').fill('Remove Gale.');
    await step.getByLabel('Learnt from').fill('its own notes');
    await step.getByLabel('Tried on').fill('2026-05-02');
    await safe.getByRole('button', { name: 'Keep setup' }).click();
    await expect(
      page.getByText('layer Gale, graphics driver as delivered, cap 40 fps, fog 200 m'),
    ).toBeVisible();

    // another one, derived: only what differs is said
    await page.getByLabel('A new setup').fill('Gale, patched');
    await page.getByLabel('Derived from').selectOption('Gale, safe');
    await page.getByRole('button', { name: 'Add setup' }).click();
    const patched = page.getByRole('form', { name: 'Setup Gale, patched' });
    await patched.getByLabel('Graphics driver', { exact: true }).fill('Petrel 9, patched');
    await patched.getByRole('button', { name: 'Fog is not set here' }).click();
    await patched.getByRole('button', { name: 'Keep setup' }).click();
    await expect(
      page.getByText('as Gale, safe, but graphics driver Petrel 9, patched, fog not set'),
    ).toBeVisible();
    const differs = page.getByRole('table', { name: 'What differs' });
    await expect(
      differs.getByRole('row', { name: /^graphics driver as delivered Petrel 9, patched$/ }),
    ).toBeVisible();
    await expect(differs.getByRole('row', { name: /^fog 200 m not set$/ })).toBeVisible();
    await expectAccessible(page);

    // a circle is refused, and what was typed stays
    await page.getByRole('button', { name: /^Gale, safe/ }).click();
    await safe.getByLabel('Derived from').selectOption('Gale, patched');
    await safe.getByRole('button', { name: 'Keep setup' }).click();
    await expect(safe.getByRole('alert')).toContainText('is derived from itself');
    await safe.getByLabel('Derived from').selectOption('none: it stands alone');

    await safe.getByRole('button', { name: 'Recipe of Gale, safe' }).click();
    await expect(page.getByRole('heading', { name: 'Recipe journey: Gale, safe' })).toBeVisible();
    const cautions = page.getByRole('note', { name: 'Cautions' });
    await expect(cautions).toContainText('Packages from outside a store');
    await expect(cautions).toContainText('local rules');
    await expect(page.getByRole('list', { name: 'Steps' })).toContainText('1. Sideload the package of Gale.');
    await expect(page.getByRole('list', { name: 'Steps' })).toContainText('from its own notes, tried');
    await expect(page.getByRole('list', { name: 'What is set' })).toContainText('fog: 200 m');
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
    await form.getByLabel('Rungs').fill('1×\n2×\n3×\n4×');
    await form.getByRole('button', { name: 'Begin' }).click();
    await expect(page.getByRole('heading', { level: 1, name: 'Lumo 64 on Kitto Mini' })).toBeVisible();
    const next = page.getByRole('region', { name: 'What to do next' });
    const bars = page.getByRole('list', { name: 'Title by title' }).getByRole('listitem');
    const titles = await bars.count();
    const probe = async (says: RegExp, percent: string): Promise<void> => {
      await expect(next.getByText(says)).toBeVisible();
      await next.getByLabel('Speed, %').fill(percent);
      await next.getByRole('button', { name: 'Note it' }).click();
    };
    await probe(/^Glass Canyon at 2×$/, '100');
    await probe(/^Glass Canyon at 3×$/, '80');
    // told: the next title begins where the first one ended
    await expect(bars.filter({ hasText: 'Glass Canyon' })).toContainText('2×');
    await probe(/^Pico Harbour at 2×$/, '100');
    await probe(/^Pico Harbour at 3×$/, '100');
    await probe(/^Pico Harbour at 4×$/, '70');
    await expect(bars.filter({ hasText: 'Pico Harbour' })).toContainText('3×');
    await expect(page.getByText(new RegExp(`^2 of ${titles} decided, 5 probes so far`))).toBeVisible();
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
    await expect(page.getByRole('list', { name: 'How many run' })).toBeVisible();
    await page.getByRole('button', { name: 'Paste a table' }).click();
    const paste = page.getByRole('form', { name: 'Paste outcomes' });
    const rows = Array.from({ length: 30 }, (_, i) =>
      [
        `Title ${i} journey`,
        i === 7 ? 'perhaps' : i % 3 === 0 ? 'crash' : '100 %',
        i % 3 === 0 ? 'at the gate' : '',
      ].join('\t'),
    );
    await paste.getByLabel('Table of outcomes').fill(`title\tstatus\twhere\n${rows.join('\n')}`);
    await expect(paste.getByText(/^Line 9, status: “perhaps” is no status: one of/)).toBeVisible();
    await expect(paste.getByRole('button', { name: 'Note 29 outcomes' })).toBeDisabled();
    await paste.getByLabel('Device', { exact: true }).fill('Oru Fold');
    await paste.getByLabel('Emulator or layer, if any').fill('Gale');
    await paste.getByLabel('Version').fill('0.8');
    await paste.getByRole('button', { name: 'Note 29 outcomes' }).click();
    // what is not clear stays, and is mended
    await expect(paste.getByLabel('Table of outcomes')).toHaveValue('Title 7 journey\tperhaps\t');
    await paste.getByLabel('Table of outcomes').fill('Title 7 journey\tslow\tin the rain');
    await paste.getByRole('button', { name: 'Note 1 outcome' }).click();
    await expect(paste.getByLabel('Table of outcomes')).toHaveValue('');
    const share = page
      .getByRole('list', { name: 'How many run' })
      .getByRole('listitem')
      .filter({ hasText: 'Oru Fold' });
    // thirty that were noted, and five of the demo's runs, of which one crashed
    await expect(share).toHaveText(/24 of 35 \(52 to 81.%\)/);

    await page.getByRole('button', { name: 'Note one' }).click();
    const note = page.getByRole('form', { name: 'Note an outcome' });
    await note.getByLabel('Device', { exact: true }).fill('Oru Fold');
    await note.getByLabel('Emulator or layer, if any').fill('Gale');
    await note.getByLabel('Version').fill('0.8');
    await note.getByLabel('Title', { exact: true }).fill('Thumb journey');
    await note.getByLabel('Where it crashed, or what is wrong').fill('the sky is pink');
    await note.getByRole('checkbox', { name: 'picture' }).click();
    await note.getByRole('button', { name: 'glitches', exact: true }).click();
    await expect(page.getByText('Thumb journey on Oru Fold: glitches.')).toBeVisible();
    await expect(share).toHaveText(/25 of 36/);

    await page.getByRole('button', { name: 'Claims' }).click();
    const claims = page.getByRole('form', { name: 'Note claims' });
    await claims.getByLabel('Who says so').fill('a list, journey');
    await claims.getByRole('radio', { name: 'does not run' }).click();
    await claims.getByLabel('Titles of the claims').fill('Title 0 journey\nTitle 1 journey\nTitle 0 journey');
    await claims.getByRole('button', { name: 'Note 2 claims' }).click();
    const said = page
      .getByRole('list', { name: 'How many run' })
      .getByText('claimed “does not run”, and so it was');
    await expect(said.locator('xpath=..')).toHaveText(/1 of 2 /);
    for (const title of ['Title 0 journey', 'Title 1 journey'])
      await claims.getByRole('button', { name: `Take out the claim on ${title}` }).click();
    await expect(said).toHaveCount(0);

    await page.getByRole('button', { name: 'A new version' }).click();
    const version = page.getByRole('form', { name: 'Note a version' });
    await version.getByLabel('Of which emulator or layer').fill('Gale');
    await version.getByLabel('New version').fill('0.9');
    await version.getByRole('button', { name: 'Note the version' }).click();
    const again = page.getByRole('list', { name: 'To test again with Gale 0.9' });
    await expect(again.getByRole('listitem')).toHaveCount(31);
    await expect(again.getByText('Thumb journey on Oru Fold: glitches with 0.8')).toBeVisible();

    // the same title under the new version, and a fork: each against what it follows
    const against = page.getByRole('list', { name: 'Gale 0.9 against Gale 0.8' });
    await page.getByRole('button', { name: 'Note one' }).click();
    await note.getByLabel('Device', { exact: true }).fill('Oru Fold');
    await note.getByLabel('Emulator or layer, if any').fill('Gale');
    await note.getByLabel('Version').fill('0.9');
    await note.getByLabel('Title', { exact: true }).fill('Thumb journey');
    await note.getByRole('checkbox', { name: 'now and then' }).click();
    await note.getByRole('button', { name: 'full speed', exact: true }).click();
    await page.getByLabel('First', { exact: true }).selectOption('Gale 0.8');
    await page.getByLabel('Second', { exact: true }).selectOption('Gale 0.9');
    await expect(against.getByRole('listitem')).toHaveText([
      /^fixed\s+Thumb journey on Oru Fold\s*glitches \(picture\) → full speed, stumbles now and then$/,
    ]);
    await expect(page.getByText('Of 1 title seen with both: 1 fixed.')).toBeVisible();
    for (const { id, version: of } of (await ask(page, ROUTES.outcomes, {})).outcomes.filter(
      (one) => one.title === 'Thumb journey',
    ))
      if (of === '0.9') await ask(page, ROUTES.deleteOutcome, { params: { id } });
    await page.reload();

    await page.getByLabel('Find a title').fill('thumb');
    await expect(page.getByText(/^1 of \d+ titles; on their devices 1 of 1 /)).toBeVisible();
    await page.getByRole('button', { name: 'Thumb journey: Oru Fold glitches' }).click();
    const list = page.getByRole('list', { name: 'What is known of Thumb journey' });
    await expect(list.getByRole('listitem')).toHaveCount(1);
    await expect(list.getByText(/the sky is pink \(picture\)/)).toBeVisible();
    await list.getByRole('button', { name: 'Take out Thumb journey on Oru Fold' }).click();
    await expect(share).toHaveText(/24 of 35/);
    await expectAccessible(page);
  });
});
