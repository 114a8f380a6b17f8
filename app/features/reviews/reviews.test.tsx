import type { ReviewDetail } from '@pace-check/contract';
import { comparableOf, reviewGaps, SECTION_KINDS, type ReviewRun } from '@pace-check/core';
import { act, fireEvent, screen, within } from '@testing-library/react';
import type { ReactNode } from 'react';
import { at, runWith, show, until } from '../../testing/render';
import { standInServer } from '../../testing/server';
import { ReviewScreen } from './ReviewScreen';

jest.mock('expo-router', () => ({
  Link: ({ children }: { children: ReactNode }) => children,
  useRouter: () => ({ navigate: jest.fn() }),
}));

function evidence(fps: number): ReviewRun {
  const run = runWith({ frames: at(fps, 1000), facts: { target: 60 } });
  return {
    id: 'run',
    name: 'Aurelune on Velm 5',
    startedAt: null,
    kind: null,
    demand: 'heavy',
    stated: {
      device: 'Velm 5',
      title: 'Aurelune',
      setup: null,
      scenes: [],
      target: 60,
      roomC: 18,
      batteryWh: null,
      conditions: [],
      preflight: {},
    },
    figures: comparableOf(run.figures),
    caveats: ['capped'],
    confidence: 'A',
    lane: run.lane,
  };
}

const review = (more: Partial<ReviewDetail> = {}): ReviewDetail => {
  const runs = [evidence(50)];
  return {
    id: 'r',
    revision: 3,
    doc: {
      name: 'Small against large',
      template: 'quick look',
      runs: ['run'],
      comparisons: [],
      school: 'average-and-lows',
      unit: 'C',
      verdict: { state: 'withheld', until: '' },
      sections: SECTION_KINDS.map((kind) => ({ kind, text: '', hidden: false, figures: [] })),
    },
    evidence: runs,
    gone: 0,
    comparisons: [],
    gaps: reviewGaps('quick look', runs, { comparisons: 0, openRequests: 0, verdictGiven: false }),
    requests: [],
    publications: [],
    changes: [],
    ...more,
  };
};

/** A server that keeps what it is sent, at the revision that it is sent to; what it was sent. */
function server(first: ReviewDetail): {
  sent: { revision: number; doc: ReviewDetail['doc'] }[];
  refuse: boolean;
} {
  let stored = first;
  const state = { sent: [] as { revision: number; doc: ReviewDetail['doc'] }[], refuse: false };
  standInServer(({ method, path, body }) => {
    if (path.startsWith('/api/comparisons')) return { body: [] };
    if (method !== 'PUT') return { body: stored };
    if (state.refuse)
      return { status: 500, body: { code: 'internal', message: 'The disk is full.', remedy: 'Make room.' } };
    const change = body as { revision: number; doc: ReviewDetail['doc'] };
    state.sent.push(change);
    stored = { ...stored, doc: change.doc, revision: change.revision + 1 };
    return { body: stored };
  });
  return state;
}

describe('a review', () => {
  it('says what the runs say before anybody writes, and what is missing', async () => {
    server(review());
    await show(<ReviewScreen id="r" />);
    const method = within(await screen.findByRole('group', { name: 'From the runs: How it was tested' }));
    expect(method.getByText(/^1 run on Velm 5, 16:40 in all\. Frames were logged in 1\./)).toBeTruthy();
    expect(within(screen.getByRole('table', { name: 'Titles' })).getAllByText('50')).toHaveLength(2);
    expect(screen.getByText(/headroom unknown \(1 of 1\)\.$/)).toBeTruthy();
    expect(
      within(screen.getByRole('list', { name: 'What is missing' })).getByText('The verdict is withheld.'),
    ).toBeTruthy();
  });

  it('keeps what is typed a moment after the last key, each time to the revision before', async () => {
    const state = server(review());
    await show(<ReviewScreen id="r" />);
    const words = await screen.findByLabelText('Words of Verdict');
    fireEvent.change(words, { target: { value: 'It ' } });
    fireEvent.change(words, { target: { value: 'It holds.' } });
    expect(screen.getByText(/keeping…/)).toBeTruthy();
    await until(() => screen.queryByText(/all is kept/) !== null);
    fireEvent.click(screen.getByRole('button', { name: 'Leave Handling out' }));
    await until(() => state.sent.length === 2 && screen.queryByText(/all is kept/) !== null);
    expect(state.sent.map(({ revision }) => revision)).toEqual([3, 4]);
    expect(state.sent[0]!.doc.sections[0]!.text).toBe('It holds.');
    expect(state.sent[1]!.doc.sections.find((one) => one.kind === 'handling')!.hidden).toBe(true);
  });

  it('loses nothing where it cannot be kept, and tries again when asked', async () => {
    const state = server(review());
    state.refuse = true;
    await show(<ReviewScreen id="r" />);
    fireEvent.change(await screen.findByLabelText('Words of Verdict'), { target: { value: 'Mine' } });
    await until(() => screen.queryByText('What you wrote is not kept yet: The disk is full.') !== null);
    expect(screen.getByDisplayValue('Mine')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Publish' }).getAttribute('aria-disabled')).toBe('true');
    state.refuse = false;
    fireEvent.click(screen.getByRole('button', { name: 'Try again' }));
    await until(() => screen.queryByText(/all is kept/) !== null);
    expect(state.sent.at(-1)!.doc.sections[0]!.text).toBe('Mine');
  });

  it('marks a figure whose run has changed, until it is accepted', async () => {
    const known = review();
    const figure = {
      name: 'Aurelune on Velm 5, average',
      runId: 'run',
      measure: 'average' as const,
      accepted: '52\u00a0fps',
    };
    const state = server({
      ...known,
      doc: {
        ...known.doc,
        sections: known.doc.sections.map((one) =>
          one.kind === 'verdict'
            ? { ...one, text: 'It gives @{Aurelune on Velm 5, average}.', figures: [figure] }
            : one,
        ),
      },
    });
    await show(<ReviewScreen id="r" />);
    expect(await screen.findByText(/^It gives 52.fps\.$/)).toBeTruthy();
    expect(screen.getByText(/was 52.fps, now 50.fps\.$/)).toBeTruthy();
    await act(async () => fireEvent.click(screen.getByRole('button', { name: /^Accept/ })));
    expect(screen.getByText(/^It gives 50.fps\.$/)).toBeTruthy();
    await until(() => state.sent.length === 1 && screen.queryByText(/all is kept/) !== null);
  });
});
