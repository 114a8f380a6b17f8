import type { BenchSource, RunDetail } from '@pace-check/contract';
import AsyncStorage from '@react-native-async-storage/async-storage';
import { act, fireEvent, screen, within } from '@testing-library/react';
import type { ReactNode } from 'react';
import { RECORDING } from '../../testing/bench';
import { at, runWith, show } from '../../testing/render';
import { KeysProvider, useKeys, useScreenKeys } from '../../ui/Keys';
import { StandsOn } from '../runs/StandsOn';
import { AlertChoices } from './AlertChoices';
import { Sources } from './Sources';
import { alertNow, useAlert, useAlertChoice } from './useAlerts';
import { useWakeLock } from './useWakeLock';

jest.mock('../../outbox', () => ({ steadyClock: { now: () => 100_000 }, useNow: () => 100_000 }));
jest.mock('./useBench', () => ({ runClock: () => 600_000 }));
jest.mock('expo-router', () => ({ Link: ({ children }: { children: ReactNode }) => children }));

const setNavigator = (name: string, value: unknown): void =>
  void Object.defineProperty(navigator, name, { value, configurable: true });
beforeEach(() => AsyncStorage.clear());

describe('alerts', () => {
  const shaken = jest.fn();
  beforeEach(() => {
    shaken.mockClear();
    setNavigator('vibrate', shaken);
  });
  it('shake only where that was chosen', () => {
    alertNow({ sound: false, vibration: false });
    expect(shaken).not.toHaveBeenCalled();
    alertNow({ sound: true, vibration: true });
    expect(shaken).toHaveBeenCalledTimes(1);
  });
  it('are told once for each thing, and anew when it comes again', async () => {
    const choice = { sound: false, vibration: true };
    const Told = ({ what }: { what: string[] }): ReactNode => (useAlert(what, choice), null);
    const { rerender } = await show(<Told what={[]} />);
    for (const what of [['due back'], ['due back'], ['stop'], [], ['stop']]) rerender(<Told what={what} />);
    // a reading, a stop, and the stop once more
    expect(shaken).toHaveBeenCalledTimes(3);
    // a warning that stays, as of a back at 43 °C, does not drown the readings that fall due
    rerender(<Told what={['stop', 'due back 300000']} />);
    rerender(<Told what={['stop']} />);
    rerender(<Told what={['stop', 'due back 600000']} />);
    expect(shaken).toHaveBeenCalledTimes(5);
  });
  it('sound a short tone where that was chosen, from one audio device', () => {
    const heard: { hz: number; stopsAt: number }[] = [];
    let opened = 0;
    (global as { AudioContext?: unknown }).AudioContext = class {
      currentTime = 5;
      destination = {};
      constructor() {
        opened++;
      }
      resume = (): Promise<void> => Promise.resolve();
      createGain = (): object => ({
        gain: { setValueAtTime: jest.fn(), exponentialRampToValueAtTime: jest.fn() },
        connect: jest.fn(),
      });
      createOscillator = (): object => {
        const tone = {
          frequency: { value: 0 },
          connect: (to: object) => to,
          start: jest.fn(),
          stop: (at: number) => heard.push({ hz: tone.frequency.value, stopsAt: at }),
        };
        return tone;
      };
    };
    alertNow({ sound: false, vibration: true });
    expect(heard).toEqual([]);
    alertNow({ sound: true, vibration: false });
    alertNow({ sound: true, vibration: false });
    expect(heard).toEqual([
      { hz: 660, stopsAt: expect.closeTo(5.18, 6) },
      { hz: 660, stopsAt: expect.closeTo(5.18, 6) },
    ]);
    expect(opened).toBe(1);
    expect(shaken).toHaveBeenCalledTimes(1);
  });
  it('are remembered', async () => {
    const Choice = (): ReactNode => {
      const [choice, choose] = useAlertChoice();
      return <AlertChoices choice={choice} onChoice={choose} awake="not-allowed" />;
    };
    const first = await show(<Choice />);
    expect(screen.getByText(/cannot keep the screen on/)).toBeTruthy();
    await act(async () => void fireEvent.click(screen.getByRole('checkbox', { name: 'vibration' })));
    expect(shaken).toHaveBeenCalledTimes(1);
    first.unmount();
    await show(<Choice />);
    expect(screen.getByRole('checkbox', { name: 'vibration' }).getAttribute('aria-checked')).toBe('true');
    expect(screen.getByRole('checkbox', { name: 'sound' }).getAttribute('aria-checked')).toBe('false');
  });
});

describe('the wake lock', () => {
  const Screen = ({ wanted }: { wanted: boolean }): ReactNode => <p>{useWakeLock(wanted)}</p>;
  it('is asked for while it is wanted, and given back', async () => {
    const release = jest.fn().mockResolvedValue(undefined);
    const request = jest.fn().mockResolvedValue({ release });
    setNavigator('wakeLock', { request });
    const shown = await show(<Screen wanted />);
    await act(async () => undefined);
    expect(screen.getByText('on')).toBeTruthy();
    shown.unmount();
    expect([request.mock.calls.length, release.mock.calls.length]).toEqual([1, 1]);
  });
  it('says where the browser does not allow it', async () => {
    setNavigator('wakeLock', { request: jest.fn().mockRejectedValue(new Error('not allowed')) });
    await show(<Screen wanted />);
    await act(async () => undefined);
    expect(screen.getByText('not-allowed')).toBeTruthy();
  });
  it('is let be while nothing is recorded', async () => {
    const request = jest.fn();
    setNavigator('wakeLock', { request });
    await show(<Screen wanted={false} />);
    expect(request).not.toHaveBeenCalled();
  });
});

describe('keys of a screen', () => {
  const pressed: string[] = [];
  const Screen = ({ name }: { name: string }): ReactNode => {
    useKeys([{ key: 't', does: name, press: () => pressed.push(name) }]);
    return <input aria-label="words" />;
  };
  const List = (): ReactNode => (
    <p aria-label="known">
      {useScreenKeys()
        .map(({ does }) => does)
        .join(', ')}
    </p>
  );
  it('work while nothing is typed, are listed, and go with the screen', async () => {
    const Both = ({ open }: { open: boolean }): ReactNode => (
      <KeysProvider>
        {open ? <Screen name="Stutter" /> : null}
        <List />
      </KeysProvider>
    );
    const shown = await show(<Both open />);
    expect(screen.getByLabelText('known').textContent).toBe('Stutter');
    fireEvent.keyDown(document, { key: 't' });
    fireEvent.keyDown(document, { key: 't', ctrlKey: true });
    fireEvent.keyDown(screen.getByLabelText('words'), { key: 't', bubbles: true });
    expect(pressed).toEqual(['Stutter']);
    shown.unmount();
    fireEvent.keyDown(document, { key: 't' });
    expect(pressed).toEqual(['Stutter']);
  });
});

describe('sources', () => {
  const source = (more: Partial<BenchSource>): BenchSource => ({
    id: 's',
    name: 'logger',
    kind: 'other',
    standIn: false,
    revoked: false,
    ended: null,
    frames: 0,
    lines: 3,
    refused: 0,
    refusals: [],
    held: 0,
    heardAt: 99_000,
    ...more,
  });
  const said = async (
    more: Partial<BenchSource>,
    status: 'running' | 'ended' = 'running',
  ): Promise<string> => {
    const shown = await show(<Sources recording={{ ...RECORDING, status, sources: [source(more)] }} />);
    const text = screen.getByRole('list', { name: 'Loggers' }).textContent!;
    shown.unmount();
    return text;
  };
  it('say how they stand', async () => {
    expect(await said({ frames: 1200 })).toContain('sending · 1,200 frames · 3 lines');
    expect(await said({ heardAt: null })).toContain('waiting');
    expect(await said({ heardAt: 80_000 })).toContain('no data for 20 s');
    expect(await said({ ended: 'crash' })).toContain('ended, crash');
    expect(await said({ revoked: true })).toContain('key revoked');
    expect(await said({ heardAt: 10_000 }, 'ended')).toContain('sent');
    expect(await said({ held: 2 })).toContain('2 waiting for an earlier batch');
  });
  it('tell why lines were refused', async () => {
    await show(
      <Sources
        recording={{
          ...RECORDING,
          sources: [
            source({ refused: 1, refusals: [{ batch: 4, line: 2, reason: 'it is not a JSON object' }] }),
          ],
        }}
      />,
    );
    fireEvent.click(screen.getByRole('button', { name: '1 line rejected: why' }));
    expect(screen.getByText('Batch 4, line 2: it is not a JSON object.')).toBeTruthy();
  });
});

describe('what a run’s figures stand on', () => {
  const run = (more: Partial<RunDetail>): RunDetail => ({
    ...runWith({
      frames: at(50, 60),
      entries: [
        { type: 'rate', atMs: 90_000, fps: 41, by: 'in-title' },
        { type: 'end', atMs: 120_000, reason: 'planned' },
      ],
    }),
    ...more,
  });
  it('is told by stretches and by source', async () => {
    const used: NonNullable<RunDetail['recorded']>['used'] = [
      { measure: 'frames', source: 'a', fromMs: 0, toMs: 1 },
      { measure: 'frames', source: 'b', fromMs: 1, toMs: 2 },
      { measure: 'battery', source: 'hand', fromMs: 0, toMs: 1 },
    ];
    await show(
      <StandsOn
        run={run({
          recorded: {
            sources: [
              { id: 'a', name: 'logger' },
              { id: 'b', name: 'capture' },
            ],
            used,
          },
        })}
      />,
    );
    const told = within(screen.getByRole('region', { name: 'What the figures are based on' }));
    expect(told.getByText('0:00 to 1:00: frames, 50 fps.')).toBeTruthy();
    expect(
      told.getByText(
        '1:00 to 2:00: no frames; 41 fps at 1:30 from a counter, 1 reading. Not counted in the figures below.',
      ),
    ).toBeTruthy();
    expect(told.getByText('Frames: logger, then capture. Battery: typed by hand.')).toBeTruthy();
  });
  it('is not told where one file says it all', async () => {
    await show(<StandsOn run={runWith({ frames: at(50, 60) })} />);
    expect(screen.queryByRole('region')).toBeNull();
  });
  it('waits while the run is recorded', async () => {
    await show(<StandsOn run={run({ recording: 'running' })} />);
    expect(screen.getByText('Still recording')).toBeTruthy();
  });
});
