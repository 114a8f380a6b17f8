import type { Body } from './heat';
import type { GovernorRules } from './governor';

/** A handset of the stand-in kit. */
export interface Handset {
  name: string;
  body: Body;
  governor: GovernorRules;
  /** How fast its chip is, beside the one that titles state their load for. */
  chipSpeed: number;
  /** Die power at full speed and full load, W. */
  fullW: number;
  /** Screen, radio and board, W. */
  restW: number;
  batteryWh: number;
  refreshHz: number;
}

/** What a title asks of a handset. */
export interface Load {
  title: string;
  setup: string;
  /** Mean work for a frame on a chip of speed 1, ms. */
  workMs: number;
  /** Share by which scenes differ. */
  sceneSpread: number;
  /** Frames per second that the title allows itself. */
  cap: number | null;
  /** Share of the die's full power that the title draws while it works without pause. */
  intensity: number;
  need: 'reaction' | 'action' | 'story';
}

/** A run to be simulated. */
export interface Scenario {
  name: string;
  handset: Handset;
  load: Load;
  seconds: number;
  target: number;
  roomC: number;
  startSkinC: number;
  startPercent: number;
  conditions: string[];
  /** Minutes at which the skin is read. */
  skinMinutes: number[];
  /** Seconds between readings of power and load. */
  sensorsEveryS: number;
  /** Stutters a minute at random. */
  stuttersPerMinute: number;
  /** First play: shaders are compiled as they are met. */
  firstPlay: boolean;
  /** Seconds between freezes of two to three seconds; null for none. */
  freezeEveryS: number | null;
  /** Second at which the title crashes; null for none. */
  crashAtS: number | null;
  startedAt: string;
}

const glass = (skinToRoom: number, joules: number): Body => ({
  dieJoulesPerK: 9,
  skinJoulesPerK: joules,
  dieToSkin: 3,
  skinToRoom,
  spots: { 'back by the camera': 1.06, 'back middle': 0.94, 'front middle': 0.9 },
});

export const HANDSETS = {
  velm5: {
    name: 'Velm 5',
    body: glass(3.9, 130),
    governor: { tripC: 39.5, clearC: 33, down: 1, up: 1, restS: 70, lowest: 0.7 },
    chipSpeed: 1,
    fullW: 7,
    restW: 1.2,
    batteryWh: 18.1,
    refreshHz: 120,
  },
  velm4: {
    name: 'Velm 4',
    body: glass(6.2, 85),
    governor: { tripC: 38.4, clearC: 33.5, down: 1, up: 1, restS: 36, lowest: 0.55 },
    chipSpeed: 0.87,
    fullW: 8,
    restW: 1.3,
    batteryWh: 17.4,
    refreshHz: 120,
  },
  kittoMini: {
    name: 'Kitto Mini',
    body: glass(5.2, 78),
    governor: { tripC: 41.5, clearC: 39.2, down: 8, up: 12, restS: 60, lowest: 0.5 },
    chipSpeed: 0.94,
    fullW: 5.8,
    restW: 0.8,
    batteryWh: 11.2,
    refreshHz: 60,
  },
  oruFold: {
    name: 'Oru Fold',
    body: glass(3.6, 140),
    governor: { tripC: 40.5, clearC: 39.2, down: 1, up: 1, restS: 30, lowest: 0.5 },
    chipSpeed: 0.95,
    fullW: 6.4,
    restW: 1.7,
    batteryWh: 16.6,
    refreshHz: 120,
  },
  brask11: {
    name: 'Brask Slate 11',
    body: glass(2.1, 320),
    governor: { tripC: 43, clearC: 41, down: 1, up: 1, restS: 30, lowest: 0.5 },
    chipSpeed: 1.02,
    fullW: 6.6,
    restW: 3.2,
    batteryWh: 32.3,
    refreshHz: 120,
  },
  quillDeck: {
    name: 'Quill Deck',
    body: {
      dieJoulesPerK: 20,
      skinJoulesPerK: 260,
      dieToSkin: 1.6,
      skinToRoom: 1.35,
      spots: { 'back by the vent': 1.05, 'left grip': 0.55, 'right grip': 0.6 },
    },
    governor: { tripC: 46, clearC: 44, down: 1, up: 1, restS: 30, lowest: 0.5 },
    chipSpeed: 1.1,
    fullW: 13,
    restW: 3,
    batteryWh: 47.5,
    refreshHz: 60,
  },
} satisfies Record<string, Handset>;

export const LOADS = {
  saltmarsh: {
    title: 'Saltmarsh Drift',
    setup: 'Highest, cap 60',
    workMs: 7.2,
    sceneSpread: 0.06,
    cap: 60,
    intensity: 0.75,
    need: 'action',
  },
  detail: {
    title: 'Copperline Squad',
    setup: 'Detail, cap 40',
    workMs: 13.2,
    sceneSpread: 0.07,
    cap: 40,
    intensity: 0.8,
    need: 'action',
  },
  fluid: {
    title: 'Copperline Squad',
    setup: 'Fluid, cap 60',
    workMs: 13.1,
    sceneSpread: 0.08,
    cap: 60,
    intensity: 0.85,
    need: 'reaction',
  },
  aurelune: {
    title: 'Aurelune',
    setup: 'Highest, cap 60',
    workMs: 15.6,
    sceneSpread: 0.1,
    cap: 60,
    intensity: 1,
    need: 'story',
  },
  skiff: {
    title: 'Skiff 120',
    setup: 'Highest, cap 120',
    workMs: 6.3,
    sceneSpread: 0.07,
    cap: 120,
    intensity: 0.85,
    need: 'reaction',
  },
  ironOrchard: {
    title: 'Iron Orchard',
    setup: 'Gangway, safe preset, 720p',
    workMs: 30,
    sceneSpread: 0.08,
    cap: null,
    intensity: 0.9,
    need: 'story',
  },
  nightFerry: {
    title: 'Night Ferry',
    setup: 'Gangway, fast preset, 720p',
    workMs: 22,
    sceneSpread: 0.1,
    cap: null,
    intensity: 0.95,
    need: 'story',
  },
} satisfies Record<string, Load>;

const usual = {
  seconds: 1800,
  target: 60,
  roomC: 18.5,
  startPercent: 100,
  conditions: [],
  skinMinutes: [0.2, 3, 8, 13, 18, 24, 29.5],
  sensorsEveryS: 10,
  stuttersPerMinute: 0.15,
  firstPlay: false,
  freezeEveryS: null,
  crashAtS: null,
};

/** The runs that the stand-in handset knows by name. */
export const SCENARIOS = {
  holds: {
    ...usual,
    name: 'holds',
    handset: HANDSETS.velm5,
    load: LOADS.saltmarsh,
    startSkinC: 19.5,
    startedAt: '2026-05-09T09:05:00+02:00',
  },
  'capped-40': {
    ...usual,
    name: 'capped-40',
    handset: { ...HANDSETS.velm5, refreshHz: 60 },
    load: LOADS.detail,
    seconds: 1200,
    target: 40,
    startSkinC: 20.2,
    startPercent: 93,
    startedAt: '2026-05-09T09:48:00+02:00',
  },
  fades: {
    ...usual,
    name: 'fades',
    handset: HANDSETS.velm5,
    load: LOADS.aurelune,
    startSkinC: 19.8,
    startPercent: 86,
    startedAt: '2026-05-09T10:31:00+02:00',
  },
  buckles: {
    ...usual,
    name: 'buckles',
    handset: HANDSETS.velm4,
    load: LOADS.aurelune,
    startSkinC: 19.4,
    startedAt: '2026-05-09T11:20:00+02:00',
  },
  sawtooth: {
    ...usual,
    name: 'sawtooth',
    handset: HANDSETS.kittoMini,
    load: { ...LOADS.aurelune, setup: 'Middle, cap 60', workMs: 14 },
    roomC: 19,
    startSkinC: 20.5,
    startedAt: '2026-05-09T13:10:00+02:00',
  },
  freezes: {
    ...usual,
    name: 'freezes',
    handset: HANDSETS.quillDeck,
    load: LOADS.ironOrchard,
    target: 30,
    freezeEveryS: 230,
    stuttersPerMinute: 0.6,
    conditions: ['first-play'],
    firstPlay: true,
    startSkinC: 20,
    startedAt: '2026-05-09T14:25:00+02:00',
  },
  crashes: {
    ...usual,
    name: 'crashes',
    handset: HANDSETS.oruFold,
    load: LOADS.nightFerry,
    target: 30,
    crashAtS: 492,
    firstPlay: true,
    conditions: ['first-play', 'pre-release'],
    startSkinC: 20.1,
    startedAt: '2026-05-09T15:40:00+02:00',
  },
  'on-deck': {
    ...usual,
    name: 'on-deck',
    handset: {
      ...HANDSETS.velm5,
      governor: { ...HANDSETS.velm5.governor, tripC: 41.5, clearC: 38, lowest: 0.5 },
    },
    load: LOADS.fluid,
    seconds: 2700,
    roomC: 31,
    startSkinC: 33,
    skinMinutes: [0.3, 5, 10, 15, 20, 30, 40, 44.5],
    startedAt: '2026-05-10T12:15:00+02:00',
  },
  'tablet-120': {
    ...usual,
    name: 'tablet-120',
    handset: HANDSETS.brask11,
    load: LOADS.skiff,
    target: 120,
    startSkinC: 19.9,
    startedAt: '2026-05-10T16:00:00+02:00',
  },
} satisfies Record<string, Scenario>;

export type ScenarioName = keyof typeof SCENARIOS;
