import { SMOOTH_WORDS } from '@pace-check/core';
import type { ReactNode } from 'react';
import { Pressable } from 'react-native';
import { useKit } from '../../../api/queries';
import { screensOf } from '../../../forms/screensOf';
import { TemperatureInput } from '../../../forms/TemperatureInput';
import { Choices } from '../../../ui/Choices';
import { usePalette } from '../../../ui/Look';
import { NamePicker } from '../../../ui/PickOrAdd';
import { FigureText, Quiet } from '../../../ui/words';
import { Row, Stack } from '../../../ui/parts';
import type { FieldWords } from './fields';
import type { Played } from './keep';

/** A value of a result, to be chosen by a tap. */
export function FieldTile({
  words: { label, unit },
  text,
  chosen,
  wrong,
  onPress,
}: {
  words: FieldWords;
  text: string;
  chosen: boolean;
  wrong: boolean;
  onPress: () => void;
}): ReactNode {
  const { ink, quiet, sheet, action } = usePalette();
  return (
    <Pressable
      role="radio"
      aria-checked={chosen}
      aria-label={`${label}, ${unit}${text === '' ? '' : `: ${text}`}`}
      onPress={onPress}
      style={{
        flexGrow: 1,
        flexBasis: 76,
        maxWidth: 190,
        minHeight: 50,
        borderRadius: 8,
        borderWidth: chosen ? 2 : 1,
        borderColor: chosen || wrong ? action : quiet,
        borderStyle: wrong ? 'dashed' : 'solid',
        backgroundColor: sheet,
        paddingHorizontal: 8,
        paddingVertical: 3,
      }}
    >
      <Quiet style={{ fontSize: 13, lineHeight: 16 }}>{label}</Quiet>
      <Row gap={4} align="baseline">
        <FigureText size={text.length > 5 ? 15 : 20} style={{ color: ink }}>
          {text === '' ? ' ' : text}
        </FigureText>
        {text === '' ? null : <Quiet style={{ fontSize: 13 }}>{unit}</Quiet>}
      </Row>
    </Pressable>
  );
}

/** What is asked for more rarely. */
export function More({
  played,
  onPlayed,
  smooth,
  onSmooth,
  spot,
  onSpot,
}: {
  played: Played;
  onPlayed: (played: Played) => void;
  smooth: string;
  onSmooth: (word: string) => void;
  spot: string | null;
  onSpot: (spot: string | null) => void;
}): ReactNode {
  const kit = useKit().data;
  const device = kit?.devices.find((one) => one.name === played.device);
  const scenes = kit?.titles.find((one) => one.name === played.title)?.facts.scenes ?? [];
  const screens = screensOf(kit, played.device);
  return (
    <Stack gap={10}>
      <Quiet>Stutter seen</Quiet>
      <Choices
        label="Stutter seen"
        options={SMOOTH_WORDS.map((value) => ({ value, text: value }))}
        selected={SMOOTH_WORDS.find((word) => word === smooth) ?? null}
        onSelect={(word) => onSmooth(word === smooth ? '' : word)}
      />
      {screens.length > 1 ? (
        <>
          <Quiet>Screen</Quiet>
          <Choices
            label="Screen"
            options={screens.map((value) => ({ value, text: value }))}
            selected={played.screen}
            onSelect={(screen) => onPlayed({ ...played, screen })}
          />
        </>
      ) : null}
      <NamePicker
        label="Spot of the highest temperature"
        what="spot"
        known={device?.spots.map((one) => one.spot) ?? []}
        value={spot ?? ''}
        onChange={(value) => onSpot(value === '' ? null : value)}
      />
      <NamePicker
        label="Scene"
        what="scene"
        known={scenes.map((one) => one.name)}
        value={played.scene ?? ''}
        onChange={(value) => onPlayed({ ...played, scene: value === '' ? null : value })}
      />
      <TemperatureInput
        label="Room temperature"
        of="room"
        value={played.roomC}
        onChange={(roomC) => onPlayed({ ...played, roomC: typeof roomC === 'number' ? roomC : null })}
        placeholder="unknown"
      />
    </Stack>
  );
}
