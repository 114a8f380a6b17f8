/** The kit of the demo's bench, as a file of the kit (docs/formats.md). */
export const DEMO_KIT = {
  format: 'pace-kit',
  version: 1,
  devices: [
    {
      name: 'Velm 5', kind: 'phone', chip: 'Tarn T4', graphics: 'Tarn G4, 10 cores', memoryGb: 12, storageGb: 256, batteryMah: 4700, batteryV: 3.85, chargerW: 30,
      screens: [{ inches: 6.4, widthPx: 1264, heightPx: 2780, refreshHz: [60, 120], adaptive: true }], back: 'glass', cooling: 'vapour chamber', system: '17', firmware: 'retail', chipSpot: 'back by the camera',
      spots: [{ spot: 'back by the camera', side: 'back', x: 0.3, y: 0.16 }, { spot: 'back middle', side: 'back', x: 0.5, y: 0.5 }, { spot: 'front middle', side: 'front', x: 0.5, y: 0.5 }],
    },
    { name: 'Velm 4', kind: 'phone', chip: 'Tarn T3', memoryGb: 8, storageGb: 128, batteryMah: 4500, batteryV: 3.87, chargerW: 25, screens: [{ inches: 6.3, widthPx: 1220, heightPx: 2712, refreshHz: [60, 120], adaptive: false }], back: 'glass', cooling: 'graphite sheet', system: '16', firmware: 'retail', chipSpot: 'back by the camera' },
    { name: 'Kitto Mini', kind: 'phone', chip: 'Tarn T3', memoryGb: 8, storageGb: 128, batteryMah: 2900, batteryV: 3.86, chargerW: 18, screens: [{ inches: 5.3, widthPx: 1080, heightPx: 2340, refreshHz: [60] }], back: 'plastic', cooling: 'none', system: '17', firmware: 'retail', chipSpot: 'back by the camera' },
    {
      name: 'Oru Fold', kind: 'foldable', chip: 'Tarn T4', memoryGb: 16, storageGb: 512, batteryMah: 4300, batteryV: 3.86, chargerW: 25,
      screens: [{ name: 'inner', inches: 7.8, widthPx: 2076, heightPx: 2232, refreshHz: [60, 120], adaptive: true }, { name: 'outer', inches: 6.2, widthPx: 1080, heightPx: 2520, refreshHz: [60, 120], adaptive: true }], back: 'glass', cooling: 'vapour chamber', system: '17', firmware: 'pre-release',
    },
    { name: 'Brask Slate 11', kind: 'tablet', chip: 'Corrie C9', memoryGb: 12, storageGb: 256, batteryMah: 8400, batteryV: 3.85, chargerW: 33, screens: [{ inches: 11, widthPx: 1840, heightPx: 2944, refreshHz: [60, 90, 120], adaptive: true }], back: 'metal', cooling: 'graphite sheet', system: '16', firmware: 'retail' },
    { name: 'Quill Deck', kind: 'pocket-pc', chip: 'Corrie C9', memoryGb: 24, storageGb: 1024, batteryWh: 47.5, chargerW: 65, powerW: 15, boostW: 25, screens: [{ inches: 7, widthPx: 1080, heightPx: 1920, refreshHz: [60] }], back: 'plastic', cooling: 'fan', system: '11', firmware: 'retail', chipSpot: 'back by the vent' },
  ],
  accessories: [
    { name: 'Clear case', kind: 'case', fits: ['Velm 5', 'Velm 4'] },
    { name: 'Clip-on cooler', kind: 'cooler', contactSpot: 'back middle', fits: ['Velm 5', 'Velm 4', 'Oru Fold'] },
    { name: 'Telescope controller', kind: 'controller', fits: ['Velm 5', 'Velm 4', 'Kitto Mini'] },
    { name: 'Bench charger', kind: 'charger', watts: 65 },
  ],
  instruments: [
    { name: 'Infrared thermometer', kind: 'infrared', emissivity: 0.95 },
    { name: 'Inline power meter', kind: 'power-meter' },
    { name: 'Capture box', kind: 'capture' },
  ],
  titles: [
    { name: 'Saltmarsh Drift', kind: 'native', demand: 'light', need: 'action', updateStage: 'updated', capsFps: [60], loggers: 'allowed' },
    { name: 'Copperline Squad', kind: 'native', demand: 'medium', need: 'reaction', updateStage: 'updated', capsFps: [40, 60], loggers: 'blocked', ownCounter: true },
    { name: 'Aurelune', kind: 'native', demand: 'heavy', need: 'story', updateStage: 'not-updated', capsFps: [30, 60], loggers: 'allowed' },
    { name: 'Skiff 120', kind: 'native', demand: 'medium', need: 'reaction', capsFps: [60, 120], loggers: 'allowed' },
    { name: 'Hexgarden', kind: 'native', demand: 'light', need: 'story', loggers: 'allowed' },
    { name: 'Pico Harbour', kind: 'emulated', system: 'Lumo 64', nativeFps: 30, demand: 'light', need: 'story' },
    { name: 'Glass Canyon', kind: 'emulated', system: 'Lumo 64', nativeFps: 60, demand: 'medium', need: 'action' },
    { name: 'Rook Tower', kind: 'emulated', system: 'Lumo 64', nativeFps: 30, demand: 'notorious', need: 'story' },
    { name: 'Iron Orchard', kind: 'translated', demand: 'heavy', need: 'story' },
    { name: 'Night Ferry', kind: 'translated', demand: 'heavy', need: 'story' },
    { name: 'Harbour Relay', kind: 'streamed', demand: 'light', need: 'action' },
  ],
  setups: [
    { title: 'Copperline Squad', name: 'Detail, cap 40', tier: 'Detail', capFps: 40 },
    { title: 'Copperline Squad', name: 'Fluid, cap 60', tier: 'Fluid', capFps: 60 },
    { title: 'Saltmarsh Drift', name: 'Highest, cap 60', tier: 'Highest', capFps: 60 },
    { title: 'Aurelune', name: 'Highest, cap 60', tier: 'Highest', capFps: 60 },
    { title: 'Skiff 120', name: 'Highest, cap 120', tier: 'Highest', capFps: 120 },
    { title: 'Pico Harbour', name: 'Lantern, twofold', emulator: 'Lantern', version: '2.1', backend: 'second', internalResolution: 2 },
    { title: 'Rook Tower', name: 'Lantern, native', emulator: 'Lantern', version: '2.1', backend: 'first', internalResolution: 1 },
    { title: 'Iron Orchard', name: 'Gangway, safe preset, 720p', layer: 'Gangway', version: '0.9', cpuPreset: 'safe', resolution: '1280 × 720' },
    { title: 'Night Ferry', name: 'Gangway, fast preset, 720p', layer: 'Gangway', version: '0.9', cpuPreset: 'fast', resolution: '1280 × 720' },
    { title: 'Harbour Relay', name: 'Relay, wireless', service: 'Relay', link: 'wireless', bitRateMbps: 25 },
  ],
};

/** What viewers asked for. */
export const DEMO_REQUESTS = [
  { title: 'Rook Tower', device: 'Velm 5', asked: 14, source: 'comments' },
  { title: 'Rook Tower', device: 'Velm 5', asked: 6, source: 'mail' },
  { title: 'Night Ferry', device: 'Quill Deck', asked: 9, source: 'comments' },
  { title: 'Hexgarden', device: null, asked: 4, source: 'comments' },
  { title: 'Skiff 120', device: 'Kitto Mini', asked: 2, source: 'mail' },
];
