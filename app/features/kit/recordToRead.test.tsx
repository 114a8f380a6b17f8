import type { KitDevice, KitTitle } from '@pace-check/contract';
import { screen, within } from '@testing-library/react';
import { show } from '../../testing/render';
import { RecordToRead } from './RecordToRead';

const lines = (name: string): (string | null)[] =>
  within(screen.getByRole('list', { name }))
    .getAllByRole('listitem')
    .map((line) => line.textContent);

describe('a record that is read', () => {
  it('says what is known of a device, its screens and its spots, and nothing that nobody stated', async () => {
    const device: KitDevice = {
      id: 'd',
      name: 'Quill Deck',
      runs: 0,
      facts: {
        kind: 'pocket-pc',
        batteryWh: 45,
        chipSpot: 'back middle',
        screens: [
          { name: 'inner', inches: 7.4, widthPx: 1280, heightPx: 800, refreshHz: [40, 60], adaptive: true },
          { name: 'outer', widthPx: 640 },
        ],
      },
      spots: [{ spot: 'back middle', side: 'back', x: 0.5, y: 0.5 }],
    };
    await show(<RecordToRead kind="device" record={device} />);
    expect(lines('Details')).toEqual(['Kind: pocket PC', 'Battery energy, Wh: 45']);
    expect(lines('Screens')).toEqual(['inner, 7.4 inches, 1280 × 800 px, 40 / 60 Hz, adaptive', 'outer']);
    expect(lines('Skin spots')).toEqual(['back middle, back, over the chip']);
  });
  it('says what is known of a title, and its scenes', async () => {
    const title: KitTitle = {
      id: 't',
      name: 'Rook Tower',
      runs: 0,
      facts: {
        nativeFps: 30,
        capsFps: [30, 60],
        ownCounter: false,
        scenes: [{ name: 'bell stairs', weight: 'hard' }, { name: 'courtyard' }],
      },
    };
    await show(<RecordToRead kind="title" record={title} />);
    expect(lines('Details')).toEqual([
      'Native rate, fps: 30',
      'Frame caps offered, fps: 30, 60',
      'Has its own counter: no',
    ]);
    expect(lines('Scenes')).toEqual(['bell stairs, hard', 'courtyard']);
  });
  it('says so where only a name is known', async () => {
    await show(<RecordToRead kind="accessory" record={{ id: 'a', name: 'a case', facts: { fits: [] } }} />);
    expect(screen.getByText('Only the name is recorded.')).toBeTruthy();
    expect(screen.queryByRole('list')).toBeNull();
  });
});
