import { act, render, type RenderResult } from '@testing-library/react';
import { notifyManager, QueryClient, QueryClientProvider } from '@tanstack/react-query';
import type { RunDetail } from '@pace-check/contract';
import {
  analyse,
  caveatSentence,
  factsOf,
  headlineFacts,
  laneOf,
  reduceSeries,
  runInput,
  type EntryLine,
  type RunFacts,
} from '@pace-check/core';
import type { ReactNode } from 'react';
import { LookProvider } from '../ui/Look';
import { ToastProvider } from '../ui/Toast';
import { VoiceProvider } from '../ui/Voice';

// what was heard is on the screen when the test looks
notifyManager.setScheduler((tell) => tell());

/** Renders a part of the app within all that it expects around it. */
export async function show(part: ReactNode): Promise<RenderResult> {
  const client = new QueryClient({
    defaultOptions: { queries: { retry: false }, mutations: { retry: false } },
  });
  const shown = render(
    <QueryClientProvider client={client}>
      <LookProvider>
        <VoiceProvider>
          <ToastProvider>{part}</ToastProvider>
        </VoiceProvider>
      </LookProvider>
    </QueryClientProvider>,
  );
  // settings are read from the browser's store
  await act(async () => undefined);
  return shown;
}

/** Waits for what the screen comes to. */
export async function until(holds: () => boolean): Promise<void> {
  for (let i = 0; i < 400 && !holds(); i++)
    await act(async () => new Promise((resolve) => setTimeout(resolve, 5)));
  expect(holds()).toBe(true);
}

/** Frame times at a steady pace for so many seconds. */
export const at = (fps: number, seconds: number): number[] =>
  Array<number>(Math.round(fps * seconds)).fill(Math.round(1e6 / fps));

/** A run as the server would answer, its figures computed by core from what the test writes down. */
export function runWith({
  frames = [],
  entries = [],
  facts = {},
}: {
  frames?: number[];
  entries?: EntryLine[];
  facts?: Partial<RunFacts>;
}): RunDetail {
  const known = { ...factsOf(null), ...facts };
  const { figures, perSecond } = analyse(
    runInput({ frameUs: Int32Array.from(frames), gaps: [] }, { dropped: 0, cutOff: false, entries }, known),
  );
  return {
    id: '00000000-0000-4000-8000-000000000001',
    name: 'Aurelune on Velm 5',
    part: null,
    isSitting: false,
    joined: false,
    parts: [],
    device: 'Velm 5',
    title: 'Aurelune',
    setup: null,
    startedAt: null,
    importedAt: '2026-05-09T09:00:00Z',
    headline: headlineFacts(figures),
    confidences: figures.confidences,
    lane: laneOf(figures, known.target),
    target: known.target,
    refresh: known.refreshHz,
    native: known.native,
    need: known.need,
    roomC: known.roomC,
    batteryWh: known.batteryWh,
    conditions: known.conditions,
    preflight: {},
    onCard: null,
    recorded: null,
    recording: null,
    pictures: 0,
    evidence: [],
    barNow: null,
    scene: known.scene,
    fromKit: [],
    splitMinutes: null,
    upload: null,
    entries: [],
    places: [],
    caveats: figures.caveats.map((caveat) => ({ caveat, says: caveatSentence(caveat) })),
    figures,
    series: reduceSeries(perSecond, 600),
  };
}
