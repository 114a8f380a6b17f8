import type { ReviewDetail } from '@pace-check/contract';
import { act, fireEvent, screen, within } from '@testing-library/react';
import type { ReactNode } from 'react';
import { show, until } from '../../testing/render';
import { standInServer } from '../../testing/server';
import { RoleProvider } from '../../ui/Role';
import { ReviewScreen } from './ReviewScreen';
import { reviewOf as review } from './testing';

jest.mock('expo-router', () => ({
  Link: ({ children }: { children: ReactNode }) => children,
  useRouter: () => ({ navigate: jest.fn() }),
}));

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
    const method = within(await screen.findByRole('group', { name: 'Results: How it was tested' }));
    expect(method.getByText(/^1 run on Velm 5, 16:40 in all\. Frames logged in 1\./)).toBeTruthy();
    expect(within(screen.getByRole('table', { name: 'Titles' })).getAllByText('50')).toHaveLength(2);
    expect(screen.getByText(/could do without it is unknown \(1 of 1\)\.$/)).toBeTruthy();
    expect(
      within(screen.getByRole('list', { name: 'To do before publishing' })).getByText('No verdict yet.'),
    ).toBeTruthy();
  });

  it('keeps what is typed a moment after the last key, each time to the revision before', async () => {
    const state = server(review());
    await show(<ReviewScreen id="r" />);
    const words = await screen.findByLabelText('Text for Verdict');
    fireEvent.change(words, { target: { value: 'It ' } });
    fireEvent.change(words, { target: { value: 'It holds.' } });
    expect(screen.getByText(/Saving…/)).toBeTruthy();
    await until(() => screen.queryByText(/All changes saved/) !== null);
    fireEvent.click(screen.getByRole('button', { name: 'Leave Handling out' }));
    await until(() => state.sent.length === 2 && screen.queryByText(/All changes saved/) !== null);
    expect(state.sent.map(({ revision }) => revision)).toEqual([3, 4]);
    expect(state.sent[0]!.doc.sections[0]!.text).toBe('It holds.');
    expect(state.sent[1]!.doc.sections.find((one) => one.kind === 'handling')!.hidden).toBe(true);
  });

  it('loses nothing where it cannot be kept, and tries again when asked', async () => {
    const state = server(review());
    state.refuse = true;
    await show(<ReviewScreen id="r" />);
    fireEvent.change(await screen.findByLabelText('Text for Verdict'), { target: { value: 'Mine' } });
    await until(() => screen.queryByText('Your changes are not saved yet: The disk is full.') !== null);
    expect(screen.getByDisplayValue('Mine')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Publish' }).getAttribute('aria-disabled')).toBe('true');
    state.refuse = false;
    fireEvent.click(screen.getByRole('button', { name: 'Try again' }));
    await until(() => screen.queryByText(/All changes saved/) !== null);
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
    await until(() => state.sent.length === 1 && screen.queryByText(/All changes saved/) !== null);
  });
});

it('puts a figure where the @ was typed, not at the end', async () => {
  server(review());
  await show(<ReviewScreen id="r" />);
  const words = await screen.findByLabelText('Text for Verdict');
  fireEvent.change(words, { target: { value: 'It gives  all along.' } });
  fireEvent.change(words, { target: { value: 'It gives @ all along.' } });
  const verdict = within(screen.getByRole('region', { name: 'Verdict' }));
  fireEvent.change(verdict.getByLabelText('Search figures'), { target: { value: 'average' } });
  fireEvent.click(verdict.getByRole('button', { name: /average: 50.fps$/ }));
  expect(screen.getByDisplayValue('It gives @{Aurelune on Velm 5, average} all along.')).toBeTruthy();
  expect(verdict.getByText(/^It gives 50.fps all along\.$/)).toBeTruthy();
});

it('orders and leaves out its sections, and keeps lines of the handling with what shows them', async () => {
  const state = server(review());
  await show(<ReviewScreen id="r" />);
  const handling = within(await screen.findByRole('region', { name: 'Handling' }));
  expect(handling.getByRole('button', { name: 'Add observation' }).getAttribute('aria-disabled')).toBe(
    'true',
  );
  fireEvent.change(handling.getByLabelText('Observation'), { target: { value: 'It cramps' } });
  fireEvent.change(handling.getByLabelText('Evidence'), { target: { value: 'two of two' } });
  fireEvent.click(handling.getByRole('button', { name: 'Add observation' }));
  expect(handling.getByText('two of two')).toBeTruthy();
  await until(() => state.sent.length === 1);
  expect(state.sent[0]!.doc.handling).toEqual([{ topic: 'grip', says: 'It cramps', evidence: 'two of two' }]);
  fireEvent.click(handling.getByRole('button', { name: 'Remove grip: It cramps' }));
  await until(() => state.sent.at(-1)!.doc.handling.length === 0);
});

it.each(['bench', 'reader'] as const)('is read, not written, by a %s', async (role) => {
  const first = review();
  const [section, ...others] = first.doc.sections;
  const held = {
    name: 'Aurelune on Velm 5: average',
    runId: 'run',
    measure: 'average',
    accepted: '49.0 fps',
  };
  const text = `It runs at @{${held.name}}.`;
  server({
    ...first,
    doc: {
      ...first.doc,
      verdict: { state: 'provisional', until: 'the update' },
      handling: [{ topic: 'grip', says: 'slips when wet', evidence: 'two hands' }],
      sections: [{ ...section!, text, figures: [held] }, ...others] as ReviewDetail['doc']['sections'],
    },
  });
  await show(
    <RoleProvider role={role}>
      <ReviewScreen id="r" />
    </RoleProvider>,
  );
  expect(await screen.findByText('provisional until the update')).toBeTruthy();
  // the figure as it was accepted, not as it is now
  expect(screen.getByText('It runs at 49.0 fps.')).toBeTruthy();
  expect(screen.getByText(/slips when wet/)).toBeTruthy();
  expect(screen.queryByRole('textbox')).toBeNull();
  for (const name of [/^Leave /, /^Insert /, /^Accept /, /^Remove/, /^Change /, /^Publish/, /^Delete/])
    expect(screen.queryByRole('button', { name })).toBeNull();
  expect(screen.queryByText(/What is missing|all is kept|Order of the sections/)).toBeNull();
  expect(screen.getByRole('button', { name: 'Export package (.zip)' })).toBeTruthy();
});
