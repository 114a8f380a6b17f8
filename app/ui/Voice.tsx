import AsyncStorage from '@react-native-async-storage/async-storage';
import {
  sayTemperature,
  toFahrenheit,
  USUAL_VOICE,
  type School,
  type TemperatureUnit,
  type Voice,
} from '@pace-check/core';
import { createContext, useContext, useEffect, useMemo, useState, type ReactNode } from 'react';
import { NONE } from './figures';

interface VoiceState extends Voice {
  /** A temperature in the reader's scale; a dash for none. */
  temperature: (celsius: number | null) => string;
  /** A difference of temperatures, in the reader's scale. */
  difference: (celsius: number, decimals?: number) => string;
  /** A temperature as a bare number, for columns and axes. */
  degrees: (celsius: number) => number;
  speak: (change: Partial<Voice>) => void;
}

const VoiceContext = createContext<VoiceState | null>(null);
const KEY = 'pace-check.voice';
const SCHOOLS: School[] = ['median-and-hold', 'average-and-lows'];
const UNITS: TemperatureUnit[] = ['C', 'F'];

/** What was chosen before; nothing where the store holds something else. */
function readStored(stored: string | null): Partial<Record<keyof Voice, unknown>> {
  try {
    return Object(JSON.parse(stored ?? '{}')) as Partial<Record<keyof Voice, unknown>>;
  } catch {
    return {};
  }
}

/** Which figures lead and in which scale temperatures are said: one choice, everywhere, at once. */
export function VoiceProvider({ children }: { children: ReactNode }): ReactNode {
  const [voice, setVoice] = useState<Voice>(USUAL_VOICE);
  useEffect(() => {
    void AsyncStorage.getItem(KEY).then((stored) => {
      const known = readStored(stored);
      setVoice((now) => ({
        school: SCHOOLS.find((school) => school === known.school) ?? now.school,
        unit: UNITS.find((unit) => unit === known.unit) ?? now.unit,
      }));
    });
  }, []);
  const state = useMemo<VoiceState>(
    () => ({
      ...voice,
      temperature: (celsius) => (celsius === null ? NONE : sayTemperature(celsius, voice.unit)),
      difference: (celsius, decimals = 1) =>
        `${(voice.unit === 'F' ? celsius * 1.8 : celsius).toFixed(decimals)}\u00a0°${voice.unit}`,
      degrees: (celsius) => (voice.unit === 'F' ? toFahrenheit(celsius) : celsius),
      speak: (change) => {
        const next = { ...voice, ...change };
        setVoice(next);
        void AsyncStorage.setItem(KEY, JSON.stringify(next));
      },
    }),
    [voice],
  );
  return <VoiceContext.Provider value={state}>{children}</VoiceContext.Provider>;
}

export function useVoice(): VoiceState {
  const voice = useContext(VoiceContext);
  if (!voice) throw new Error('useVoice needs a VoiceProvider above it');
  return voice;
}
