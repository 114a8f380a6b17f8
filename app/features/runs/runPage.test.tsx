import AsyncStorage from '@react-native-async-storage/async-storage';
import { fireEvent, screen, within } from '@testing-library/react';
import { at, runWith, show, until } from '../../testing/render';
import { standInServer } from '../../testing/server';
import { Lane } from '../../charts/Lane';
import { Measures } from './Measures';
import { SplitTable } from './SplitTable';
import { Verdict } from './Verdict';

const skin = (
  c: number,
  minute: number,
  spot = 'back',
): { type: 'skin'; atMs: number; spot: string; c: number; by: string } => ({
  type: 'skin',
  atMs: minute * 60_000,
  spot,
  c,
  by: 'infrared',
});

beforeEach(() => AsyncStorage.clear());

describe('the five measures', () => {
  it('come in their order, each with its figure and what it is', async () => {
    await show(<Measures run={runWith({ frames: at(52, 1000), facts: { target: 60 } })} />);
    expect(screen.getAllByRole('heading').map((heading) => heading.textContent)).toEqual([
      'Pace',
      'Evenness',
      'Stamina',
      'Warmth',
      'Drain',
    ]);
    expect(screen.getByText('fps, average')).toBeTruthy();
    expect(screen.getByText('of the opening pace: holds')).toBeTruthy();
    expect(screen.getByText('no skin temperature readings')).toBeTruthy();
    expect(screen.getByText('no battery readings')).toBeTruthy();
  });

  it('say what a cap hides, and what a short run cannot show', async () => {
    await show(<Measures run={runWith({ frames: at(60, 300) })} />);
    expect(screen.getByText(/^60, for 100 % of the time; unknown above the cap$/)).toBeTruthy();
    expect(screen.getByText('too short: needs at least 15 minutes')).toBeTruthy();
  });

  it('tell their definition on a tap, and hide it again', async () => {
    await show(<Measures run={runWith({ frames: at(60, 300) })} />);
    const button = screen.getByRole('button', { name: 'Stamina: definition' });
    expect(screen.queryByText(/Retention is closing divided by opening/)).toBeNull();
    fireEvent.click(button);
    expect(screen.getByText(/Retention is closing divided by opening/)).toBeTruthy();
    expect(button.getAttribute('aria-expanded')).toBe('true');
    fireEvent.click(button);
    expect(screen.queryByText(/Retention is closing divided by opening/)).toBeNull();
  });

  it('do not claim to have measured what was read off', async () => {
    await show(<Measures run={runWith({ entries: [{ type: 'rate', atMs: 0, fps: 41, by: 'eye' }] })} />);
    expect(screen.getByText('fps, by eye')).toBeTruthy();
    expect(screen.queryByRole('table', { name: 'Lows by definition' })).toBeNull();
  });

  it('call doubtful what can hardly be: a room, and a rate above the panel’s', async () => {
    await show(
      <Measures
        run={runWith({
          entries: [skin(40, 10), { type: 'rate', atMs: 60_000, fps: 400, by: 'overlay' }],
          facts: { roomC: 70, refreshHz: 120 },
        })}
      />,
    );
    expect(screen.getByText(/^doubtful\. A room of 70\.0\s°C\?/)).toBeTruthy();
    expect(screen.queryByText(/in a room at 25/)).toBeNull();
    expect(screen.getByText(/^400 fps on a panel of 120\sHz\?$/)).toBeTruthy();
  });

  it('ask whether a stretch well over the target was a menu, and leave it out on a tap', async () => {
    const run = runWith({ frames: [...at(240, 60), ...at(45, 900)], facts: { target: 60 } });
    const heard = standInServer(() => ({ body: run }));
    await show(<Verdict run={run} />);
    expect(
      screen.getByText(
        'From 0:00 to 1:00 it ran at 240 fps, target 60. Was that a menu or a loading screen?',
      ),
    ).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Exclude it' }));
    await until(() => heard.some(({ method }) => method === 'POST'));
    expect(heard.find(({ method }) => method === 'POST')!.body).toEqual({
      entries: [{ type: 'span', fromMs: 0, toMs: 60_000, kind: 'menu' }],
    });
  });

  it('give all three definitions of a low, or say that the frames are too few', async () => {
    const { unmount } = await show(<Measures run={runWith({ frames: at(60, 100) })} />);
    const rows = within(screen.getByRole('table', { name: 'Lows by definition' }));
    expect(rows.getAllByRole('columnheader').map((head) => head.textContent)).toEqual([
      'lows, fps',
      'percentile',
      'mean of the worst',
      'share of time',
    ]);
    expect(within(rows.getByRole('row', { name: '1 % low' })).getAllByRole('cell')).toHaveLength(3);
    expect(rows.getByRole('row', { name: '0.1 % low' }).textContent).toContain('not enough frames');
    unmount();
  });

  it.each([
    [42.9, null],
    [43, /Hold the device only briefly/],
    [48, /Put the device down/],
  ])('warn of a surface of %d °C as it deserves', async (celsius, warning) => {
    await show(<Measures run={runWith({ entries: [skin(20, 0), skin(celsius, 10)] })} />);
    if (warning) expect(screen.getByRole('note').textContent).toMatch(warning);
    else expect(screen.queryByRole('note')).toBeNull();
  });

  it('warn of charging while playing', async () => {
    await show(
      <Measures
        run={runWith({
          entries: [
            { type: 'battery', atMs: 0, percent: 50 },
            { type: 'battery', atMs: 600_000, percent: 52, charging: true },
            { type: 'battery', atMs: 1_200_000, percent: 51 },
            { type: 'battery', atMs: 1_800_000, percent: 49 },
          ],
        })}
      />,
    );
    expect(screen.getByRole('note').textContent).toMatch(/Charge it after it has cooled/);
  });

  it('show doubtful readings as such', async () => {
    await show(<Measures run={runWith({ entries: [skin(20, 0), skin(31, 5), skin(90, 6)] })} />);
    expect(screen.getByText(/Doubtful, not counted: 90\.0\s°C at back, 6:00/)).toBeTruthy();
  });

  it('give hours from full with the range that the readings allow', async () => {
    await show(
      <Measures
        run={runWith({
          entries: [
            { type: 'battery', atMs: 0, percent: 100 },
            { type: 'battery', atMs: 3_600_000, percent: 80 },
          ],
        })}
      />,
    );
    expect(screen.getByText(/^4\sh\s46 to 5\sh\s16$/)).toBeTruthy();
    expect(screen.getByText('20.0 (19.0 to 21.0)')).toBeTruthy();
    expect(screen.getByText('battery capacity unknown')).toBeTruthy();
  });
});

describe('the verdict', () => {
  it('names the word, whether it plays, the confidence and every caveat', async () => {
    await show(
      <Verdict
        run={runWith({
          frames: at(60, 400),
          entries: [{ type: 'end', atMs: 400_000, reason: 'crash' }],
          facts: { need: 'action', conditions: ['pre-release'] },
        })}
      />,
    );
    for (const text of ['DNF', 'rough', /for action/, 'D']) expect(screen.getByText(text)).toBeTruthy();
    expect(
      within(screen.getByRole('list', { name: 'Caveats' }))
        .getAllByRole('listitem')
        .map((item) => item.textContent),
    ).toEqual([
      '–Shorter than 15 minutes: shows the opening pace, not sustained pace.',
      '–The title crashed.',
      '–The pace is at a frame cap: what the device could do without it is unknown.',
      '–Pre-release device or firmware.',
    ]);
  });
});

describe('the split table', () => {
  const cells = (row: HTMLElement): (string | null)[] =>
    within(row)
      .getAllByRole('cell')
      .map((cell) => cell.textContent);

  it('has a row per split, in columns that the run fills', async () => {
    await show(
      <SplitTable run={runWith({ frames: [...at(60, 60), ...at(40, 60)], facts: { target: 60 } })} />,
    );
    const [head, ...rows] = screen.getAllByRole('row');
    expect(
      within(head!)
        .getAllByRole('columnheader')
        .map((column) => column.textContent),
    ).toEqual(['from', 'average', 'low', 'near median', 'target', 'breaks']);
    expect(rows.map(cells)).toEqual([
      ['0:00', '60.0', '60.0', '100 %', '100 %', '0'],
      ['1:00', '40.0', '40.0', '100 %', '0 %', '0'],
    ]);
  });

  it('names freezes among the breaks', async () => {
    await show(<SplitTable run={runWith({ frames: [...at(60, 30), 1_500_000, ...at(60, 20)] })} />);
    expect(cells(screen.getAllByRole('row')[1]!).at(-1)).toBe('1, 1 fr.');
  });

  it('leads with the median for those who think so', async () => {
    await AsyncStorage.setItem('pace-check.voice', JSON.stringify({ school: 'median-and-hold', unit: 'F' }));
    await show(<SplitTable run={runWith({ frames: at(60, 60), entries: [skin(40, 0.5)] })} />);
    expect(await screen.findByRole('columnheader', { name: 'median' })).toBeTruthy();
    expect(screen.getByRole('columnheader', { name: '°F' })).toBeTruthy();
    expect(cells(screen.getAllByRole('row')[1]!)).toContain('104.0');
  });

  it('is nothing without splits', async () =>
    expect(
      (await show(<SplitTable run={runWith({})} />)).container.querySelector('[role=table]'),
    ).toBeNull());
});

describe('the lane', () => {
  it('says in words what it draws', async () => {
    const run = runWith({ frames: [...at(60, 60), ...at(30, 60)], facts: { target: 60 } });
    await show(<Lane lane={run.lane} scaleS={120} height={50} />);
    expect(screen.getByRole('img').getAttribute('aria-label')).toBe(
      '0:00: 100 % of the target of 60; 1:00: 50 % of the target of 60',
    );
  });
  it('says so when there is no target', async () => {
    await show(<Lane lane={runWith({ frames: at(60, 60) }).lane} scaleS={60} height={50} />);
    expect(screen.getByRole('img').getAttribute('aria-label')).toBe(
      '0:00: 100 % of the seconds near the median',
    );
  });
});
