import {
  overallOf,
  RatingDraws,
  turningPoints,
  type DeviceRating,
  type RatedDevice,
  type RatingWeights,
  type TurningPoints,
} from '@pace-check/core';

/** Devices come once; weights as often as a finger moves. */
export type RatingRequest = { devices: RatedDevice[] } | { weights: RatingWeights; turn: number };
export interface RatingAnswer {
  turn: number;
  rated: DeviceRating[];
  /** Share of the draws by device and place, under these weights. */
  places: number[][];
  points: TurningPoints[];
}

let devices: RatedDevice[] = [];
let draws = new RatingDraws(0, []);
/** How often each leads depends only on which parts count. */
const leads = new Map<string, number[]>();

/** Rates off the main thread. */
self.onmessage = ({ data }: MessageEvent<RatingRequest>): void => {
  if ('devices' in data) {
    devices = data.devices;
    draws = new RatingDraws(devices.length, devices);
    leads.clear();
    return;
  }
  const { weights, turn } = data;
  const counting = Object.entries(weights)
    .filter(([, weight]) => weight > 0)
    .map(([part]) => part)
    .join(' ');
  const lead = leads.get(counting) ?? draws.leads(weights);
  leads.set(counting, lead);
  const answer: RatingAnswer = {
    turn,
    rated: devices.map((device, d) => ({
      name: device.name,
      ...overallOf(device.parts, weights),
      leads: lead[d]!,
    })),
    places: draws.places(weights),
    points: turningPoints(devices, weights),
  };
  self.postMessage(answer);
};
