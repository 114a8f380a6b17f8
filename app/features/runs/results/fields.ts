import type { RateSource, ResultField, TemperatureUnit } from '@pace-check/core';

/** What a value may be read off, short enough for a row of four. */
export const SOURCES: Record<RateSource, string> = {
  overlay: 'overlay',
  'in-title': 'own counter',
  tool: 'tool',
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

export const fieldWords = (unit: TemperatureUnit): FieldWords[] => [
  { field: 'average', label: 'Average', unit: 'fps', signs: '–±~' },
  { field: 'low', label: '1 % low', unit: 'fps', signs: '' },
  { field: 'hold', label: 'Hold', unit: '%', signs: '' },
  { field: 'lowest', label: 'Lowest', unit: 'fps', signs: '' },
  { field: 'highest', label: 'Highest', unit: 'fps', signs: '' },
  { field: 'speed', label: 'Speed', unit: '%', signs: '–±~' },
  { field: 'peak', label: 'Peak', unit: `°${unit}`, signs: '–' },
  { field: 'length', label: 'Length', unit: 'min', signs: '–h' },
  { field: 'fromPercent', label: 'From', unit: '%', signs: '' },
  { field: 'toPercent', label: 'To', unit: '%', signs: '' },
  { field: 'load', label: 'Load', unit: 's', signs: '' },
];
