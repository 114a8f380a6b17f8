import type { Recording } from '@pace-check/contract';
import type { EntryLine } from '@pace-check/core';

/** A run that goes on at the bench, as tests need one. */
export const RECORDING: Recording = {
  runId: '1',
  name: 'Aurelune on Velm 5',
  device: 'Velm 5',
  title: 'Aurelune',
  setup: null,
  target: 60,
  refresh: 120,
  roomC: 18.5,
  batteryWh: null,
  status: 'running',
  startedAt: 0,
  speed: 1,
  plan: { minutes: 30, floorPercent: 20, everyMin: 5, spots: ['back', 'front'], endsItself: false },
  step: null,
  end: null,
  sources: [],
  used: [],
  settled: true,
};

export const skin = (atMs: number, c: number, spot = 'back'): EntryLine => ({
  type: 'skin',
  atMs,
  spot,
  c,
  by: 'infrared',
});
