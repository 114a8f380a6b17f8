/** What to do with a battery that fails: one text wherever a device is charged, hot or put down. Common practice; makers and local rules come first. */
export const SWOLLEN_BATTERY =
  'If a battery swells, leaks, hisses or gets very hot: stop, do not charge or puncture it, move away and call qualified service.';
