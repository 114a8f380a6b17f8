import type { Recording } from '@pace-check/contract';
import { POWER_PLACES, questionOf, type EntryLine, type PowerPlace } from '@pace-check/core';
import { useState, type ReactNode } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import { BIG, KeyPad } from '../../forms/KeyPad';
import { Choices } from '../../ui/Choices';
import { useKeys, type Key } from '../../ui/Keys';
import { usePalette } from '../../ui/Look';
import { FONTS } from '../../ui/theme';
import { useVoice } from '../../ui/Voice';
import { Body, FigureText, Quiet } from '../../ui/words';
import { PERCENT, RANGED, tapped, type BenchView, type Measured, type Tapped } from './view';
import { Row, Stack } from '../../ui/parts';

const KINDS: { value: Measured; text: string; spoken: string }[] = [
  { value: 'skin', text: 'Skin', spoken: 'Skin temperature' },
  { value: 'percent', text: '%', spoken: 'Battery percent' },
  { value: 'rate', text: 'fps', spoken: 'Rate from a counter' },
  { value: 'eye', text: 'by eye', spoken: 'Rate estimated by eye' },
  { value: 'speed', text: 'speed', spoken: 'Emulator speed, percent' },
  { value: 'watts', text: 'W', spoken: 'Power' },
];
const ROWS = ['123', '456', '789', '.0<'];
/** Where a range may be tapped. */
const RANGE_ROWS = ['123', '456', '789', '–.0<'];
/** Signs that fit. */
const LONGEST = 5;
const LONGEST_RANGE = 9;

interface Props {
  recording: Recording;
  view: BenchView;
  charging: boolean;
  /** Keeps a reading of this moment. */
  onLine: (line: (atMs: number) => EntryLine) => void;
}

/** A number in a second or two: the spot is chosen already, the digits are large. */
export function Pad({ recording, view, charging, onLine }: Props): ReactNode {
  const { ink, sheet, line: border, action, onAction } = usePalette();
  const { unit } = useVoice();
  const dueSpot = view.due?.spot ?? null;
  const [chosen, setChosen] = useState<{
    measured: Measured;
    spot: string | null;
    /** What was due when it was chosen. */ for: string | null;
  } | null>(null);
  const [text, setText] = useState('');
  const [by, setBy] = useState<'infrared' | 'contact probe'>('infrared');
  const [rateBy, setRateBy] = useState<'overlay' | 'in-title'>('overlay');
  // a choice of one's own holds until the next reading is due; nothing changes under the fingers
  const own = chosen && (text !== '' || chosen.for === dueSpot) ? chosen : null;
  const measured: Measured =
    own?.measured ?? (dueSpot === PERCENT ? 'percent' : recording.plan.spots.length > 0 ? 'skin' : 'percent');
  const spots = [...new Set([...recording.plan.spots, ...view.skin.map((reading) => reading.spot)])];
  const spot = own?.spot ?? (dueSpot !== null && dueSpot !== PERCENT ? dueSpot : (spots[0] ?? 'back'));
  const choose = (change: { measured?: Measured; spot?: string }): void =>
    setChosen({
      measured: change.measured ?? measured,
      spot: change.spot ?? own?.spot ?? null,
      for: dueSpot,
    });
  const [place, setPlace] = useState<PowerPlace>('device');
  const ranged = RANGED.includes(measured);
  const read = tapped(text, measured, unit);
  const value = read?.value ?? read?.low ?? null;
  const tap = (key: string): void => {
    if (text === '')
      setChosen({ measured, spot: own?.spot ?? (measured === 'skin' ? spot : null), for: dueSpot });
    if (key === '<') setText(text.slice(0, -1));
    else if (text.length < (ranged ? LONGEST_RANGE : LONGEST) && fits(text, key)) setText(text + key);
  };
  /** What would be kept at a time. */
  const lineAt = (atMs: number): EntryLine | null => {
    if (read === null || value === null) return null;
    if (measured === 'skin') return { type: 'skin', atMs, spot, c: Math.round(value * 100) / 100, by };
    if (measured === 'percent') return { type: 'battery', atMs, percent: value, charging };
    if (measured === 'watts') return { type: 'power', atMs, mw: Math.round(value * 1000), of: place };
    return rateLine(measured, read, atMs, rateBy);
  };
  const now = lineAt(0);
  const asked = now && questionOf(now, { unit, panelHz: recording.refresh });
  const [confirmed, setConfirmed] = useState<string | null>(null);
  const sure = asked === null || confirmed === asked;
  const keep = (): void => {
    if (now === null) return;
    // what can hardly be is asked about once; a second tap keeps it
    if (!sure) return setConfirmed(asked);
    onLine((atMs) => lineAt(atMs)!);
    setText('');
    setChosen(null);
    setConfirmed(null);
  };
  const keys: Key[] = [
    ...[...'0123456789.'].map((key) => ({
      key,
      does: key === '0' ? 'Number pad' : '',
      press: () => tap(key),
    })),
    { key: '-', does: '', press: () => ranged && tap('–') },
    { key: 'Backspace', does: '', press: () => tap('<') },
    { key: 'Enter', does: 'Save reading', press: keep },
    { key: 'w', does: 'Skin temperature', press: () => choose({ measured: 'skin' }) },
    { key: 'p', does: 'Battery percent', press: () => choose({ measured: 'percent' }) },
    { key: 'v', does: 'Rate from a counter', press: () => choose({ measured: 'rate' }) },
    { key: 'y', does: 'Rate estimated by eye', press: () => choose({ measured: 'eye' }) },
    {
      key: 'q',
      does: 'Next spot',
      press: () =>
        choose({
          measured: 'skin',
          spot: spots[(spots.indexOf(spot) + 1) % Math.max(1, spots.length)] ?? spot,
        }),
    },
  ];
  useKeys(keys);
  const shown =
    value !== null && measured === 'skin' && /^\d+$/.test(text) && Number(text) > (unit === 'C' ? 120 : 250)
      ? (Number(text) / 10).toFixed(1)
      : text;
  const suffix = {
    skin: `°${unit}`,
    percent: '%',
    rate: 'fps',
    eye: 'fps, about',
    speed: '% speed',
    watts: `W, ${place}`,
  }[measured];
  return (
    <Stack gap={6}>
      <Choices
        label="Type of reading"
        options={KINDS}
        selected={measured}
        onSelect={(next) => choose({ measured: next })}
      />
      {measured === 'skin' ? (
        <Row gap={8}>
          <ScrollView
            horizontal
            showsHorizontalScrollIndicator={false}
            contentContainerStyle={{ gap: 8 }}
            role="radiogroup"
            aria-label="Spot"
          >
            {spots.map((one) => (
              <Chip
                key={one}
                text={one}
                chosen={one === spot}
                onPress={() => choose({ measured: 'skin', spot: one })}
              />
            ))}
            <Chip
              text={by === 'infrared' ? 'by infrared thermometer' : 'by contact probe'}
              chosen={false}
              plain
              onPress={() => setBy(by === 'infrared' ? 'contact probe' : 'infrared')}
            />
          </ScrollView>
        </Row>
      ) : measured === 'watts' ? (
        <Row role="radiogroup" aria-label="Measured at" gap={8}>
          {POWER_PLACES.map((one) => (
            <Chip key={one} text={one} chosen={place === one} onPress={() => setPlace(one)} />
          ))}
        </Row>
      ) : measured === 'rate' || measured === 'speed' ? (
        <Row role="radiogroup" aria-label="Read from" gap={8}>
          <Chip text="overlay counter" chosen={rateBy === 'overlay'} onPress={() => setRateBy('overlay')} />
          <Chip text="in-game counter" chosen={rateBy === 'in-title'} onPress={() => setRateBy('in-title')} />
        </Row>
      ) : (
        <View style={{ minHeight: 44, justifyContent: 'center' }}>
          <Quiet>
            {measured === 'eye'
              ? 'An estimate is stored as a range of ± 20 %, or as the range you tap.'
              : charging
                ? 'Charging is on: this time is excluded from drain.'
                : 'For the device under test.'}
          </Quiet>
        </View>
      )}
      {asked !== null && sure ? (
        <Body
          small
          role="alert"
        >{`${asked} Correct it, or tap “Keep it”${measured === 'skin' ? ': it is saved as doubtful and not counted' : ''}.`}</Body>
      ) : null}
      <Row gap={8}>
        <KeyPad rows={ranged ? RANGE_ROWS : ROWS} onKey={tap} />
        <Stack gap={6} style={{ width: 112 }}>
          <View
            style={{
              flex: 1,
              alignItems: 'center',
              justifyContent: 'center',
              borderRadius: 8,
              borderWidth: 1,
              borderColor: border,
              backgroundColor: sheet,
            }}
          >
            <FigureText size={shown.length > LONGEST ? 26 : 40} aria-label="Entered value">
              {shown === '' ? '–' : shown}
            </FigureText>
            <Quiet>{suffix}</Quiet>
            {text !== '' && read === null && !text.endsWith('–') ? (
              <Quiet style={{ color: action }}>impossible value</Quiet>
            ) : null}
          </View>
          <Pressable
            role="button"
            aria-label="Save reading"
            aria-disabled={read === null}
            disabled={read === null}
            onPress={keep}
            style={{
              minHeight: 2 * BIG,
              alignItems: 'center',
              justifyContent: 'center',
              borderRadius: 8,
              backgroundColor: read === null ? border : action,
            }}
          >
            <Body
              style={{
                fontFamily: FONTS.head,
                fontSize: 24,
                lineHeight: 28,
                color: read === null ? ink : onAction,
              }}
            >
              {asked !== null && sure ? 'Keep it' : 'Save'}
            </Body>
          </Pressable>
        </Stack>
      </Row>
    </Stack>
  );
}

/** Whether a key may follow what was tapped: one point a number, one range. */
function fits(text: string, key: string): boolean {
  const last = text.split('–').at(-1)!;
  if (key === '.') return !last.includes('.');
  return key !== '–' || (text !== '' && !text.includes('–'));
}

function rateLine(
  measured: Measured,
  { value, low, high, decimals }: Tapped,
  atMs: number,
  by: 'overlay' | 'in-title',
): EntryLine {
  const ends = { ...(low === undefined ? {} : { low }), ...(high === undefined ? {} : { high }) };
  if (measured === 'speed')
    return {
      type: 'speed',
      atMs,
      ...(value === undefined ? {} : { percent: value }),
      ...ends,
      by,
      ...(decimals === undefined ? {} : { digits: { percent: decimals } }),
    };
  return {
    type: 'rate',
    atMs,
    ...(value === undefined ? {} : { fps: value }),
    ...ends,
    by: measured === 'eye' ? 'eye' : by,
    ...(decimals === undefined ? {} : { digits: { fps: decimals } }),
  };
}

function Chip({
  text,
  chosen,
  plain = false,
  onPress,
}: {
  text: string;
  chosen: boolean;
  /** No choice among others. */ plain?: boolean;
  onPress: () => void;
}): ReactNode {
  const { ink, quiet, sheet, action, onAction } = usePalette();
  return (
    <Pressable
      role={plain ? 'button' : 'radio'}
      aria-checked={plain ? undefined : chosen}
      onPress={onPress}
      style={{
        minHeight: 44,
        borderRadius: 22,
        borderWidth: 1,
        borderStyle: plain ? 'dashed' : 'solid',
        borderColor: chosen ? action : quiet,
        paddingHorizontal: 14,
        justifyContent: 'center',
        backgroundColor: chosen ? action : sheet,
      }}
    >
      <Body style={{ fontFamily: FONTS.head, fontSize: 16, color: chosen ? onAction : ink }}>{text}</Body>
    </Pressable>
  );
}
