import {
  NO_RESULT,
  RATE_SOURCES,
  readResult,
  FEEL_WORDS,
  type EndReason,
  type RateSource,
  type ResultField,
  type ResultTexts,
} from '@pace-check/core';
import { Button } from '@rneui/themed';
import { useLocalSearchParams, useRouter } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { Image, ScrollView, View } from 'react-native';
import { KeyPad } from '../../../forms/KeyPad';
import { PictureInput } from '../../../forms/PictureInput';
import { LastRoom } from '../../../forms/LastRoom';
import { TargetNeed } from '../../../forms/TargetNeed';
import { useForStep } from '../../../forms/useForStep';
import { Choices } from '../../../ui/Choices';
import { useKeys } from '../../../ui/Keys';
import { useWide } from '../../../ui/Look';
import { useToast } from '../../../ui/Toast';
import { useVoice } from '../../../ui/Voice';
import { Body, FigureText, Heading, Quiet } from '../../../ui/words';
import { Row, Sheet, Stack } from '../../../ui/parts';
import { fieldWords, SOURCES } from './fields';
import { FieldTile, More } from './valueParts';
import { NOTHING, WhatWasPlayed } from './WhatWasPlayed';
import { keepResults, runOf, type Played } from './keep';

const OUTCOMES: { value: EndReason; text: string }[] = [
  { value: 'stopped', text: 'as planned' },
  { value: 'crash', text: 'crashed' },
  { value: 'would-not-start', text: 'would not start' },
];

/** What was read so far. */
interface Draft {
  texts: ResultTexts;
  by: RateSource;
  spot: string | null;
  ended: EndReason;
  pictures: string[];
}
const NO_DRAFT: Draft = { texts: NO_RESULT, by: 'overlay', spot: null, ended: 'stopped', pictures: [] };

/** A result of a title by thumb: what was played, then whatever was read of it. */
export function QuickResultScreen(): ReactNode {
  const { device, title } = useLocalSearchParams<{ device?: string; title?: string }>();
  // the address may say what was played
  const [played, setPlayed] = useState<Played | null>(device && title ? { ...NOTHING, device, title } : null);
  // stays when something else turns out to have been played
  const [draft, setDraft] = useState<Draft>(NO_DRAFT);
  const { step, link } = useForStep();
  const [fromStep, setFromStep] = useState<string | null>(null);
  // the step of a card says what is played
  if (step && fromStep !== step.id) {
    setFromStep(step.id);
    setPlayed({ ...NOTHING, device: step.device ?? '', title: step.title, setup: step.setup });
  }
  return played && played.device !== '' ? (
    <Values played={played} onPlayed={setPlayed} draft={draft} onDraft={setDraft} onKept={link} />
  ) : (
    <WhatWasPlayed begin={played ?? NOTHING} onPlayed={setPlayed} />
  );
}

function Values({
  played,
  onPlayed,
  draft,
  onDraft,
  onKept,
}: {
  played: Played;
  onPlayed: (played: Played | null) => void;
  draft: Draft;
  onDraft: (next: (draft: Draft) => Draft) => void;
  onKept: (runId: string) => Promise<void>;
}): ReactNode {
  const wide = useWide();
  const router = useRouter();
  const toast = useToast();
  const { unit, school } = useVoice();
  const fields = fieldWords(unit, school);
  const [at, setAt] = useState<ResultField>('average');
  const [more, setMore] = useState(false);
  const [tried, setTried] = useState(false);
  const { texts, by, spot, ended, pictures } = draft;
  const set = (changed: Partial<Draft>): void => onDraft((now) => ({ ...now, ...changed }));
  const { entries, problems } = readResult(texts, { unit, by, spot, ended });
  const active = fields.find((one) => one.field === at)!;
  const empty = entries.length === 0;
  const wrong = Object.keys(problems) as ResultField[];
  const change = (field: ResultField, text: string): void => set({ texts: { ...texts, [field]: text } });
  const tap = (key: string): void => {
    const text = texts[at];
    if (key === '<') change(at, text.slice(0, -1).trimEnd());
    else if (key === '~') change(at, text.startsWith('~') ? text.slice(1) : `~${text}`);
    else if (text.length < LONGEST) change(at, key === '±' ? `${text} ± ` : text + key);
  };
  const next = (): void => {
    const i = fields.findIndex((one) => one.field === at);
    setAt(fields[(i + 1) % fields.length]!.field);
  };
  const keep = async (): Promise<void> => {
    setTried(true);
    if (empty || wrong.length > 0) {
      if (wrong[0] && wrong[0] !== 'smooth') setAt(wrong[0]);
      return;
    }
    const [id] = await keepResults([{ run: runOf(played, entries), pictures }]);
    router.navigate('/');
    toast({ text: `Saved: ${played.title} on ${played.device}.` });
    await onKept(id!).catch(() => undefined);
  };
  useKeys([
    ...[...'0123456789.'].map((key) => ({
      key,
      does: key === '0' ? 'Number pad for the value' : '',
      press: () => tap(key),
    })),
    { key: '-', does: 'Range', press: () => active.signs.includes('–') && tap('–') },
    { key: '~', does: 'Estimate by eye', press: () => active.signs.includes('~') && tap('~') },
    { key: 'Backspace', does: '', press: () => tap('<') },
    { key: 'n', does: 'Next value', press: next },
    { key: 'Enter', does: 'Save result', press: () => void keep() },
  ]);
  const pad = (
    <Stack gap={6}>
      <Row apart align="baseline">
        <Quiet>{`${active.label}, ${active.unit}`}</Quiet>
        <FigureText size={texts[at].length > 7 ? 28 : 44} aria-label="Entered value">
          {texts[at] === '' ? '–' : texts[at]}
        </FigureText>
      </Row>
      {active.signs === '' ? null : <KeyPad rows={[active.signs]} onKey={tap} height={44} />}
      <Row gap={8}>
        <KeyPad rows={['123', '456', '789', `.0<`]} onKey={tap} height={48} />
        <Stack gap={6} style={{ width: 104 }}>
          <Button type="outline" title="Next" onPress={next} buttonStyle={{ minHeight: 102 }} />
          <Button
            title="Save"
            disabled={empty}
            onPress={() => void keep()}
            buttonStyle={{ minHeight: 102 }}
          />
        </Stack>
      </Row>
    </Stack>
  );
  return (
    <Stack flex={1} style={{ minHeight: 0 }}>
      <ScrollView
        contentContainerStyle={{
          padding: wide ? 24 : 12,
          gap: 28,
          maxWidth: 1200,
          width: '100%',
          flexDirection: wide ? 'row' : 'column',
          alignItems: wide ? 'flex-start' : 'stretch',
        }}
      >
        <Stack gap={10} flex={wide ? 1 : undefined} style={{ minWidth: 0 }}>
          <Row apart align="center" gap={8}>
            <Stack flex={1}>
              <Heading
                level={1}
                style={{ fontSize: 22, lineHeight: 26 }}
              >{`${played.title} on ${played.device}`}</Heading>
              <Quiet>{played.setup ?? 'no setup'}</Quiet>
            </Stack>
            <Button
              type="clear"
              title="Change"
              aria-label="Change title, device or setup"
              onPress={() => onPlayed(null)}
            />
          </Row>
          <Row wrap gap={6} role="radiogroup" aria-label="Values">
            {fields.map((words) => (
              <FieldTile
                key={words.field}
                words={words}
                text={texts[words.field]}
                chosen={words.field === at}
                wrong={(tried || words.field !== at) && problems[words.field] !== undefined}
                onPress={() => setAt(words.field)}
              />
            ))}
          </Row>
          {wrong
            .filter((field) => tried || field !== at)
            .map((field) => (
              <Body
                key={field}
                role="alert"
                small
              >{`${fields.find((one) => one.field === field)?.label ?? 'Stutter'}: ${problems[field]}`}</Body>
            ))}
          <Choices
            label="Read from"
            options={RATE_SOURCES.map((value) => ({ value, text: SOURCES[value] }))}
            selected={by}
            onSelect={(chosen) => set({ by: chosen })}
          />
          <Choices
            label="How it plays, as you say"
            options={FEEL_WORDS.map((value) => ({ value, text: value }))}
            selected={FEEL_WORDS.find((word) => word === texts.feel) ?? null}
            onSelect={(word) => change('feel', word === texts.feel ? '' : word)}
          />
          <TargetNeed
            title={played.title}
            setup={played.setup}
            asked={played.asked}
            onAsked={(asked) => onPlayed({ ...played, asked })}
          />
          <LastRoom roomC={played.roomC} onRoom={(roomC) => onPlayed({ ...played, roomC })} />
          <Choices
            label="How it ended"
            options={OUTCOMES}
            selected={ended}
            onSelect={(chosen) => set({ ended: chosen })}
          />
          <Row gap={8} wrap align="center">
            <Button
              type="clear"
              title={more ? 'Less' : 'More: stutter, spot, scene, room, screen'}
              onPress={() => setMore(!more)}
            />
          </Row>
          {more ? (
            <More
              played={played}
              onPlayed={onPlayed}
              smooth={texts.smooth}
              onSmooth={(smooth) => change('smooth', smooth)}
              spot={spot}
              onSpot={(chosen) => set({ spot: chosen })}
            />
          ) : null}
          <Row gap={8} wrap align="center">
            {pictures.map((picture, i) => (
              <Image
                key={i}
                source={{ uri: `data:image/jpeg;base64,${picture}` }}
                accessibilityLabel={`Picture ${i + 1}`}
                style={{ width: 52, height: 52, borderRadius: 6 }}
              />
            ))}
            <PictureInput
              onPicture={(picture) => onDraft((now) => ({ ...now, pictures: [...now.pictures, picture] }))}
            />
          </Row>
        </Stack>
        {wide ? <View style={{ width: 380 }}>{pad}</View> : null}
      </ScrollView>
      {wide ? null : <Sheet padding={10}>{pad}</Sheet>}
    </Stack>
  );
}

/** Signs of a value at most. */
const LONGEST = 12;
