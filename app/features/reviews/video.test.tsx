import type { ReviewDetail } from '@pace-check/contract';
import { fireEvent, screen, within } from '@testing-library/react';
import type { ReactNode } from 'react';
import { show, until } from '../../testing/render';
import { standInServer } from '../../testing/server';
import { reviewOf } from './testing';
import { VideoScreen } from './VideoScreen';
import { sayTime } from './videoWords';

jest.mock('expo-router', () => ({
  Link: ({ children }: { children: ReactNode }) => children,
  useRouter: () => ({ navigate: jest.fn() }),
}));

function server(first: ReviewDetail): { docs: ReviewDetail['doc'][] } {
  let stored = first;
  const state = { docs: [] as ReviewDetail['doc'][] };
  standInServer(({ method, path, body }) => {
    if (path.endsWith('/video')) return { body: { lengthS: 0, chapters: [], moments: [], leftOut: [] } };
    if (method !== 'PUT') return { body: stored };
    const { doc, revision } = body as { revision: number; doc: ReviewDetail['doc'] };
    state.docs.push(doc);
    stored = { ...stored, doc, revision: revision + 1 };
    return { body: stored };
  });
  return state;
}

describe('the video of a review', () => {
  it('takes a clip with one moment that is in both, and says what is wrong with it', async () => {
    const state = server(reviewOf());
    await show(<VideoScreen id="r" />);
    fireEvent.click(await screen.findByRole('button', { name: 'Add clip' }));
    const form = within(screen.getByRole('form', { name: 'New clip' }));
    const type = (label: string, value: string) =>
      fireEvent.change(form.getByLabelText(label), { target: { value } });
    type('Name of the clip', 'deck');
    type('Time in the clip', '1:2:3:4');
    type('The run’s clock says', '0:00');
    fireEvent.click(form.getByRole('button', { name: 'Save clip' }));
    expect(form.getByText('Enter a time such as 1:02.5 or 62.5.')).toBeTruthy();
    type('Time in the clip', '1:05');
    fireEvent.click(form.getByRole('button', { name: 'Save clip' }));
    expect(screen.getByText(/starts 1:05 before the run$/)).toBeTruthy();
    await until(() => state.docs.length > 0);
    expect(state.docs.at(-1)!.video!.clips).toEqual([
      { name: 'deck', runId: 'run', lengthS: null, syncs: [{ clipS: 65, runS: 0 }] },
    ]);
    // the same name again is pointed at
    fireEvent.click(screen.getByRole('button', { name: 'Add clip' }));
    const again = within(screen.getByRole('form', { name: 'New clip' }));
    fireEvent.change(again.getByLabelText('Name of the clip'), { target: { value: 'deck' } });
    fireEvent.click(again.getByRole('button', { name: 'Save clip' }));
    expect(again.getByText('Another clip has this name.')).toBeTruthy();
  });

  it('reads the cut list while it is typed, and points at lines that are wrong', async () => {
    const known = reviewOf();
    server({
      ...known,
      doc: {
        ...known.doc,
        video: {
          clips: [{ name: 'deck', runId: 'run', lengthS: null, syncs: [{ clipS: 0, runS: 0 }] }],
          cuts: '',
          fps: null,
          overlay: { width: 1280, height: 720, perSecond: 1 },
        },
      },
    });
    await show(<VideoScreen id="r" />);
    fireEvent.change(await screen.findByLabelText('Cut list'), {
      target: { value: 'deck 0:10 - 0:40\n\ndeck 5:00 - 4:00\nsome words' },
    });
    const wrong = within(screen.getByRole('list', { name: 'Problems to fix' }));
    expect(wrong.getByText(/^line 3: The end is not later than the start/)).toBeTruthy();
    expect(wrong.getByText(/^line 4: “some words” is not a cut/)).toBeTruthy();
    expect(screen.getByText('1 segment, 0:30 of video.')).toBeTruthy();
  });
});

it.each([
  [0, '0:00'],
  [65.25, '1:05.25'],
  [3725, '1:02:05'],
  [59.999, '1:00'],
])('%d s is read back as %s', (seconds, says) => expect(sayTime(seconds)).toBe(says));
