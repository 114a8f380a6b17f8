import { saySystemRungs, systemRungs, type SystemLadder } from './systems';

const ladder = (title: string, best: string | null, more: Partial<SystemLadder> = {}): SystemLadder => ({
  device: 'Velm 5',
  title,
  system: 'Lumo 64',
  demand: 'light',
  axis: 'internal resolution',
  best,
  ended: true,
  ...more,
});

describe('rungs of a system', () => {
  it('are those of the easy titles, those of the hard ones, and the exceptions', () => {
    const [rungs, ...more] = systemRungs([
      ladder('Pico Harbour', '4×'),
      ladder('Tin Meadow', '4×', { demand: 'medium' }),
      ladder('Glass Canyon', '3×'),
      ladder('Rook Tower', null, { demand: 'notorious' }),
      ladder('Unknown', '2×', { demand: null }),
      ladder('In the middle', '8×', { ended: false }),
      ladder('Of its own', '8×', { system: null }),
    ]);
    expect(more).toEqual([]);
    expect(rungs).toMatchObject({
      easy: { rung: '4×', count: 2, of: 3 },
      hard: { rung: null, count: 1, of: 1 },
      exceptions: [
        { title: 'Glass Canyon', rung: '3×' },
        { title: 'Unknown', rung: '2×' },
      ],
    });
    expect(saySystemRungs(rungs!)).toBe(
      'Lumo 64 on Velm 5, internal resolution: easy titles: 4× (2 of 3), hard ones none; exceptions: Glass Canyon 3×, Unknown 2×.',
    );
  });
  it('are told apart by device and axis, and said with hard titles alone', () => {
    const found = systemRungs([
      ladder('Rook Tower', '1×', { demand: 'heavy' }),
      ladder('Rook Tower', '2×', { device: 'Brask Slate 11', demand: 'heavy' }),
      ladder('Rook Tower', '15 W', { axis: 'power limit', demand: null }),
    ]).map(saySystemRungs);
    expect(found).toEqual([
      'Lumo 64 on Velm 5, internal resolution: hard titles hold 1×.',
      'Lumo 64 on Brask Slate 11, internal resolution: hard titles hold 2×.',
      'Lumo 64 on Velm 5, power limit: Rook Tower 15 W.',
    ]);
    expect(systemRungs([])).toEqual([]);
  });
});
