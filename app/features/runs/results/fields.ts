import type { RateSource, ResultField, School, TemperatureUnit } from '@pace-check/core';

/** What a value may be read off, short enough for a row of four. */
export const SOURCES: Record<RateSource, string> = {
  overlay: 'overlay counter',
  'in-title': 'in-game counter',
  tool: 'software tool',
  eye: 'by eye',
};

/** How a value of a result is asked for, in the order in which it is read. */
export interface FieldWords {
  field: ResultField;
  label: string;
  unit: string;
  /** Signs that make sense in it, beside the digits. */
  signs: string;
}

/** @param school whose figures come first */
export const fieldWords = (unit: TemperatureUnit, school?: School): FieldWords[] => {
  const average: FieldWords = { field: 'average', label: 'Average', unit: 'fps', signs: '–±~' };
  const median: FieldWords[] = [
    { field: 'median', label: 'Median', unit: 'fps', signs: '' },
    { field: 'hold', label: 'Near median', unit: '%', signs: '' },
  ];
  const low: FieldWords = { field: 'low', label: '1 % low', unit: 'fps', signs: '' };
  return [
    ...(school === 'median-and-hold' ? [...median, average, low] : [average, low, ...median]),
    ...OTHERS(unit),
  ];
};

const OTHERS = (unit: TemperatureUnit): FieldWords[] => [
  { field: 'lowest', label: 'Lowest', unit: 'fps', signs: '' },
  { field: 'highest', label: 'Highest', unit: 'fps', signs: '' },
  { field: 'first', label: 'At first', unit: 'fps', signs: '–±~' },
  { field: 'later', label: 'Later', unit: 'fps', signs: '–±~' },
  { field: 'laterAt', label: 'Later after', unit: 'min', signs: ':h' },
  { field: 'speed', label: 'Speed', unit: '%', signs: '–±~' },
  { field: 'peak', label: 'Peak', unit: `°${unit}`, signs: '–' },
  { field: 'length', label: 'Length', unit: 'min', signs: '–:h~' },
  { field: 'fromPercent', label: 'Battery start', unit: '%', signs: '' },
  { field: 'toPercent', label: 'Battery end', unit: '%', signs: '' },
  { field: 'load', label: 'Loading time', unit: 's', signs: '' },
];
