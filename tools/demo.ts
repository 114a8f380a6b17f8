import { randomUUID } from 'node:crypto';
import {
  newOutcomes,
  pathOf,
  ROUTES,
  USUAL_RULES,
  type Card,
  type CardInput,
  type CardStep,
  type Preflight,
  type RunChangeInput,
  type ViewerRequest,
} from '@pace-check/contract';
import {
  counterPhoto,
  DEMO_BESIDE,
  DEMO_COMPARISONS,
  DEMO_KIT,
  DEMO_REQUESTS,
  DEMO_RESULTS,
  DEMO_CHOICES,
  DEMO_CLAIMED_BY,
  DEMO_CLAIMS,
  DEMO_LADDERS,
  DEMO_OUTCOMES,
  DEMO_REVIEW,
  DEMO_SITTINGS,
  DEMO_SYNTHETIC,
  DEMO_VERSIONS,
  DEMO_WEAK,
  HANDSETS,
  SCENARIOS,
  simulate,
  simulateCoolDown,
  simulateSitting,
  type DemoResult,
  type Scenario,
} from '@pace-check/rig';
import {
  layTemplate,
  planDay,
  poseDay,
  TEMPLATES,
  type DayPlan,
  type Demand,
  type KnownTitle,
  type TitleKind,
} from '@pace-check/core';
import pg from 'pg';
import sharp from 'sharp';
import { admitted, ask } from './ask';

/** One seed for the whole demo: it is the same everywhere. */
const SEED = 7;

/**
 * Sends the demo through the import that a user's file takes, and nothing
 * else. A run that is there already is noticed by its content and left alone.
 */
async function loadDemo(address: string): Promise<void> {
  await upload(address, `/api${pathOf(ROUTES.importKit, {})}`, JSON.stringify(DEMO_KIT));
  const named = Object.values<Scenario>(SCENARIOS).map((scenario) => ({ run: null, scenario, seed: SEED }));
  for (const { run, scenario, seed } of [...named, ...DEMO_BESIDE])
    await importLines(address, simulate(scenario, seed), {
      fileName: `${scenario.name}.pace.ndjson`,
      name: run,
    });
  for (const [i, { name, plan }] of DEMO_SITTINGS.entries())
    await importLines(address, simulateSitting(plan, SEED), {
      fileName: `sitting-${i + 1}.pace.ndjson`,
      name,
    });
  for (const result of DEMO_RESULTS) await addResult(address, result);
  await setBeside(address);
  await addSearches(address);
  // two devices were watched while they cooled; the others are planned from their warm-ups or their class
  for (const [handset, startedAt] of [
    [HANDSETS.velm5, '2026-05-09T11:01:00+02:00'],
    [HANDSETS.kittoMini, '2026-05-09T13:40:00+02:00'],
  ] as const) {
    await ask(address, ROUTES.coolDown, {
      body: {
        device: handset.name,
        roomC: 18.5,
        startedAt,
        ...simulateCoolDown(handset, 18.5, 41, SEED),
      },
    });
  }
  for (const body of DEMO_REQUESTS) await ask(address, ROUTES.request, { body });
  const requests = await ask(address, ROUTES.requests, {});
  await layOut(address, await ask(address, ROUTES.newCard, { body: demoCard(requests) }));
}

/** Lines of a stand-in, as a file that somebody uploads. */
async function importLines(
  address: string,
  lines: Iterable<object>,
  told: { fileName: string; name: string | null },
): Promise<void> {
  const details = { ...told, facts: null, reading: null, again: false };
  const path = `/api${pathOf(ROUTES.importRun, { query: { details: JSON.stringify(details) } })}`;
  const file = Array.from(lines, (line) => JSON.stringify(line)).join('\n');
  await upload(address, path, `${file}\n`);
}

/** What was searched for and what gives no run. */
async function addSearches(address: string): Promise<void> {
  for (const { id, probes, ...doc } of DEMO_LADDERS)
    await ask(address, ROUTES.newLadder, {
      body: { id, doc: { ...doc, probes: probes.map((probe) => ({ id: randomUUID(), ...probe })) } },
    });
  for (const { id, probes, ...doc } of DEMO_CHOICES)
    await ask(address, ROUTES.newChoice, {
      body: { id, doc: { ...doc, probes: probes.map((probe) => ({ id: randomUUID(), ...probe })) } },
    });
  const body = newOutcomes.parse({
    outcomes: DEMO_OUTCOMES.map((one) => ({ id: randomUUID(), ...one })),
    claims: DEMO_CLAIMS.map((one) => ({
      id: randomUUID(),
      ...one,
      source: DEMO_CLAIMED_BY,
      date: '2026-03-21',
    })),
    versions: DEMO_VERSIONS,
  });
  await ask(address, ROUTES.noteOutcomes, { body });
  for (const doc of DEMO_SYNTHETIC)
    await ask(address, ROUTES.newSynthetic, { body: { id: randomUUID(), doc } });
}

/** The comparisons of the demo; a run is known again by when it was started. */
async function setBeside(address: string): Promise<void> {
  const runs = await ask(address, ROUTES.runs, { query: { limit: 100 } });
  const scenarios = [...Object.values<Scenario>(SCENARIOS), ...DEMO_BESIDE.map(({ scenario }) => scenario)];
  const idOf = (name: string): string[] => {
    const startedAt = Date.parse(scenarios.find((scenario) => scenario.name === name)!.startedAt);
    return runs
      .filter((run) => run.startedAt !== null && Date.parse(run.startedAt) === startedAt)
      .map(({ id }) => id);
  };
  for (const { sides, ...comparison } of DEMO_COMPARISONS) {
    await ask(address, ROUTES.newComparison, {
      body: {
        ...comparison,
        sides: sides.map(({ name, runs: names }) => ({ name, runs: names.flatMap(idOf) })),
      },
    });
    await ask(address, ROUTES.changeComparison, { params: { id: comparison.id }, body: { kept: true } });
  }
  await ask(address, ROUTES.addWeakValue, { body: DEMO_WEAK });
  await writeReview(
    address,
    runs.filter((run) => DEMO_REVIEW.devices.includes(run.device)).map((run) => run.id),
  );
}

/** The review of the demo: written, published, and corrected once. */
async function writeReview(address: string, runs: string[]): Promise<void> {
  const { id, name, words, comparisons, until, correction, handling, video } = DEMO_REVIEW;
  const publish = async (): Promise<void> => {
    const { revision } = await ask(address, ROUTES.review, { params: { id } });
    await ask(address, ROUTES.publishReview, { params: { id }, body: { id: randomUUID(), revision } });
  };
  const made = await ask(address, ROUTES.newReview, { body: { id, name, template: 'full review', runs } });
  await ask(address, ROUTES.changeReview, {
    params: { id },
    body: {
      revision: made.revision,
      doc: {
        ...made.doc,
        comparisons,
        verdict: { state: 'provisional', until },
        handling,
        video: {
          cuts: video.cuts,
          clips: video.clips.map(({ run, clipS, ...clip }) => ({
            ...clip,
            runId: made.evidence.find((one) => one.name === run)!.id,
            syncs: [{ clipS, runS: 0 }],
          })),
        },
        sections: made.doc.sections.map((section) => ({
          ...section,
          text: words[section.kind] ?? section.text,
        })),
      },
    },
  });
  await publish();
  const corrected = made.evidence.find((run) => run.name === correction.run)!;
  await ask(address, ROUTES.addEntries, {
    params: { id: corrected.id },
    body: { entries: [correction.line] },
  });
  await publish();
}

/** A run that was read off, and the photo that was taken of it. */
async function addResult(
  address: string,
  { id, device, title, setup, scene, roomC, preflight, entries, photo }: DemoResult,
): Promise<void> {
  const facts = { device, title, setup, target: null, refresh: null, roomC };
  const changes: RunChangeInput[] = [
    {
      id: randomUUID(),
      kind: 'make',
      run: { name: null, facts, scene, preflight: preflight as Preflight, fromKit: true, entries },
    },
  ];
  if (photo)
    changes.push({
      id: randomUUID(),
      kind: 'picture',
      picture: (
        await sharp(Buffer.from(counterPhoto(photo)))
          .jpeg({ quality: 85 })
          .toBuffer()
      ).toString('base64'),
      entryId: null,
      note: 'drawn for the demo',
    });
  const taken = await ask(address, ROUTES.runChanges, { params: { id }, body: { changes } });
  if (taken.refused.length > 0)
    throw new Error(`A result of the demo was refused: ${taken.refused[0]!.reason}`);
}

/** A file goes up as it is; one that is there already is left alone. */
async function upload(address: string, path: string, body: string): Promise<void> {
  const headers = { 'x-pace-check-upload': '1', 'content-type': 'text/plain', ...admitted() };
  const answer = await fetch(`${address}${path}`, { method: 'POST', body, headers });
  if (!answer.ok && answer.status !== 409)
    throw new Error(`The demo was refused at ${path}: ${await answer.text()}`);
}

/** Two phones through the standard template, and what viewers asked for most. */
function demoCard(requests: ViewerRequest[]): CardInput {
  const asked = (title: string): string => requests.find((request) => request.title === title)!.id;
  const titles = DEMO_KIT.titles.map((title): KnownTitle => ({
    name: title.name,
    kind: title.kind as TitleKind,
    demand: title.demand as Demand,
    setups: DEMO_KIT.setups.filter((setup) => setup.title === title.name).map((setup) => setup.name),
  }));
  const step = (more: Partial<CardStep> & Pick<CardStep, 'title' | 'device'>): CardStep => ({
    id: randomUUID(),
    setup: null,
    minutes: 15,
    repeats: 1,
    attended: true,
    wanted: 5,
    after: [],
    conditions: {},
    requestId: null,
    ladderId: null,
    then: [],
    note: '',
    ...more,
  });
  const laid = layTemplate(
    TEMPLATES.find((one) => one.key === 'standard')!,
    ['Velm 5', 'Kitto Mini'],
    { light: ['Saltmarsh Drift'], tiers: ['Copperline Squad'], heavy: ['Aurelune'] },
    titles,
  );
  return {
    name: 'Small against large',
    policy: 'highest',
    template: false,
    rules: USUAL_RULES,
    steps: [
      ...laid.map(({ device, title, setup, minutes, attended, wanted }) =>
        step({ device, title, setup, minutes, attended, wanted }),
      ),
      step({
        device: 'Velm 5',
        title: 'Rook Tower',
        setup: 'Lantern, native',
        minutes: 20,
        wanted: 25,
        requestId: asked('Rook Tower'),
        note: 'asked for most',
      }),
      step({
        device: 'Kitto Mini',
        title: 'Skiff 120',
        setup: 'Highest, cap 120',
        wanted: 3,
        requestId: asked('Skiff 120'),
      }),
    ],
    day: {
      date: '2026-05-16',
      startMin: 540,
      finishByMin: 765,
      hands: 1,
      parallel: true,
      order: 'light-to-heavy',
      roomC: 18,
      devices: [
        { device: 'Velm 5', skinC: 18.5, percent: 100 },
        { device: 'Kitto Mini', skinC: 19, percent: 96 },
      ],
    },
  };
}

async function layOut(address: string, card: Card): Promise<void> {
  const demandOf = (title: string): Demand | null =>
    (DEMO_KIT.titles.find((one) => one.name === title)?.demand as Demand | undefined) ?? null;
  const steps = card.steps.map(({ conditions, ...step }) => ({
    ...step,
    pluggedIn: conditions.charging === 'plugged in',
  }));
  let plan: DayPlan | null = null;
  for (const found of planDay(poseDay({ ...card, steps }, card.known, demandOf).problem)) plan = found;
  await ask(address, ROUTES.planCard, {
    params: { id: card.id },
    body: { plan, ofRevision: card.revision },
  });
}

/** Loads the demo once for a database: a demo run that someone deletes stays deleted. */
export async function loadDemoOnce(address: string, databaseUrl: string): Promise<void> {
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    if ((await client.query("select 1 from setting where key = 'demo-loaded'")).rowCount! > 0) return;
    console.log('Loading the demo …');
    await loadDemo(address);
    await client.query(
      "insert into setting (key, value) values ('demo-loaded', 'true') on conflict do nothing",
    );
  } finally {
    await client.end();
  }
}
