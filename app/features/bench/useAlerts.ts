import AsyncStorage from '@react-native-async-storage/async-storage';
import { useEffect, useRef, useState } from 'react';

export interface AlertChoice {
  sound: boolean;
  vibration: boolean;
}

const KEY = 'pace-check.bench-alerts';
const NONE: AlertChoice = { sound: false, vibration: false };
const BEEP_HZ = 660;
const BEEP_S = 0.18;
const SHAKE_MS = [180, 90, 180];

/** Whether a reading that is due is told by sound, by vibration, or both; remembered. */
export function useAlertChoice(): [AlertChoice, (choice: AlertChoice) => void] {
  const [choice, setChoice] = useState(NONE);
  useEffect(() => {
    void AsyncStorage.getItem(KEY).then((stored) => {
      const known = readChoice(stored);
      if (known) setChoice(known);
    });
  }, []);
  return [
    choice,
    (next) => {
      setChoice(next);
      void AsyncStorage.setItem(KEY, JSON.stringify(next));
      alertNow(next);
    },
  ];
}

function readChoice(stored: string | null): AlertChoice | null {
  try {
    const known = JSON.parse(stored ?? 'null') as Partial<AlertChoice> | null;
    return known && { sound: known.sound === true, vibration: known.vibration === true };
  } catch {
    return null;
  }
}

let audio: AudioContext | null = null;

/** A short tone and a shake, as chosen; browsers allow the tone once the page was touched. */
export function alertNow({ sound, vibration }: AlertChoice): void {
  if (vibration && 'vibrate' in navigator) navigator.vibrate(SHAKE_MS);
  if (!sound || typeof AudioContext === 'undefined') return;
  audio ??= new AudioContext();
  void audio.resume();
  const tone = audio.createOscillator();
  const loudness = audio.createGain();
  tone.frequency.value = BEEP_HZ;
  loudness.gain.setValueAtTime(0.2, audio.currentTime);
  loudness.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + BEEP_S);
  tone.connect(loudness).connect(audio.destination);
  tone.start();
  tone.stop(audio.currentTime + BEEP_S);
}

/** Alerts each time that something new is among what is to be told: what stays does not drown it. */
export function useAlert(what: string[], choice: AlertChoice): void {
  const told = useRef<string[]>([]);
  useEffect(() => {
    if (what.some((one) => !told.current.includes(one))) alertNow(choice);
    told.current = what;
  });
}
