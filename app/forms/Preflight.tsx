import { TemperatureInput } from './TemperatureInput';
import {
  BESIDE,
  BESIDE_NAMES,
  CAUTION_C,
  CHARGE_RISE_C,
  condensation,
  STOP_C,
  SWOLLEN_BATTERY,
} from '@pace-check/core';
import { preflight, type Preflight, type PreflightField } from '@pace-check/contract';
import { Button, Input } from '@rneui/themed';
import { useEffect, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { Choices } from '../ui/Choices';
import { NumberInput } from '../ui/Field';
import { FONTS } from '../ui/theme';
import { useVoice } from '../ui/Voice';
import { Quiet } from '../ui/words';
import { Row, Stack } from '../ui/parts';

/** What is asked before a run, in its order. */
const QUESTIONS: {
  field: PreflightField;
  asks: string;
  options?: readonly string[];
  /** Shorter words, for a button. */ short?: Record<string, string>;
  yes?: string;
  no?: string;
  unit?: string;
  /** A temperature: in the reader's scale. */ temperature?: true;
  /** Asked on a run's page, not before every run. */ afterwards?: true;
  /** Asked where a cooler is on. */ withCooler?: true;
}[] = [
  { field: 'roomC', asks: 'Room temperature', temperature: true },
  { field: 'brightness', asks: 'Brightness', unit: '%' },
  { field: 'charging', asks: 'Power', options: preflight.shape.charging.unwrap().options },
  {
    field: 'performanceMode',
    asks: 'Mode',
    options: preflight.shape.performanceMode.unwrap().options,
    short: { 'as delivered': 'usual', performance: 'high performance' },
  },
  { field: 'refreshMode', asks: 'Refresh rate', options: preflight.shape.refreshMode.unwrap().options },
  { field: 'case', asks: 'Case', options: preflight.shape.case.unwrap().options },
  { field: 'cooler', asks: 'Cooler', options: preflight.shape.cooler.unwrap().options },
  { field: 'network', asks: 'Network', options: preflight.shape.network.unwrap().options },
  { field: 'quiet', asks: 'Alerts', yes: 'off', no: 'on' },
  { field: 'orientation', asks: 'Orientation', options: preflight.shape.orientation.unwrap().options },
  {
    field: 'hold',
    asks: 'How it was held',
    options: preflight.shape.hold.unwrap().options,
    short: { 'in the hands': 'hands', 'on a stand': 'stand', 'with a controller': 'controller' },
  },
  { field: 'firstPlay', asks: 'First play', yes: 'yes', no: 'no' },
  { field: 'coolerName', asks: 'Cooler model', withCooler: true },
  { field: 'coolerMode', asks: 'Cooler setting', withCooler: true },
  { field: 'coolerPlace', asks: 'Cooler position', withCooler: true },
  { field: 'plateC', asks: 'Cooler plate temperature', temperature: true, withCooler: true },
  { field: 'humidity', asks: 'Humidity', unit: '%', withCooler: true, afterwards: true },
  { field: 'humidityBy', asks: 'Humidity measured with', withCooler: true },
  { field: 'titleVersion', asks: 'Title version', afterwards: true },
  { field: 'system', asks: 'System', afterwards: true },
  { field: 'layer', asks: 'Layer', afterwards: true },
  { field: 'driver', asks: 'Driver', afterwards: true },
  { field: 'cap', asks: 'Frame cap', unit: 'fps', afterwards: true },
  { field: 'pixels', asks: 'Render resolution', unit: 'px', afterwards: true },
  { field: 'screen', asks: 'Screen' },
  { field: 'outsidePixels', asks: 'External screen', unit: 'px', afterwards: true },
  { field: 'outsideHz', asks: 'External screen', unit: 'Hz', afterwards: true },
  ...BESIDE.map((field) => ({ field, asks: BESIDE_NAMES[field], afterwards: true as const })),
];
type Question = (typeof QUESTIONS)[number];
const NO_SCREENS: string[] = [];

/** An answer in words. */
export function sayAnswer(
  field: PreflightField,
  value: Preflight[PreflightField],
  temperature: (celsius: number) => string,
): string {
  const { yes, no, unit, temperature: celsius } = QUESTIONS.find((one) => one.field === field)!;
  if (typeof value === 'boolean') return value ? yes! : no!;
  if (celsius && typeof value === 'number') return temperature(value);
  return unit ? `${value} ${unit}` : String(value);
}
export const preflightAnswers = (
  answers: Preflight,
  temperature: (celsius: number) => string,
): { asks: string; says: string }[] =>
  QUESTIONS.flatMap(({ field, asks }) =>
    answers[field] === undefined ? [] : [{ asks, says: sayAnswer(field, answers[field], temperature) }],
  );

interface PreflightFormProps {
  /** What is known before anyone is asked, and where from. */
  known: Preflight;
  from: string | null;
  answers: Preflight;
  onAnswers: (answers: Preflight) => void;
  /** Told how many questions are not answered. */
  onOpen?: (open: number) => void;
  /** Names of the device's screens: which one was used is asked where there are several. */
  screens?: string[];
  /** Of a run that is over: what is not asked beforehand too. */
  afterwards?: boolean;
}

/** The conditions of a run: what is known in short, what is not as questions. */
export function PreflightForm({
  known,
  from,
  answers,
  onAnswers,
  onOpen,
  screens = NO_SCREENS,
  afterwards = false,
}: PreflightFormProps): ReactNode {
  const questions = QUESTIONS.filter((one) =>
    one.field === 'screen'
      ? screens.length > 1
      : (one.withCooler && (answers.cooler === 'with' || known[one.field] !== undefined)) ||
        (one.afterwards ? afterwards : !one.withCooler),
  ).map((one) => (one.field === 'screen' ? { ...one, options: screens } : one));
  const { temperature } = useVoice();
  // a remembered answer that is to be changed is asked anew; it stays on the screen when answered
  const [asked, setAsked] = useState<PreflightField[]>(() =>
    QUESTIONS.filter(({ field }) => known[field] === undefined).map(({ field }) => field),
  );

  const [wrong, setWrong] = useState<Partial<Record<PreflightField, string>>>({});
  const open = asked.filter(
    (field) => answers[field] === undefined && questions.some((one) => one.field === field),
  ).length;
  useEffect(() => onOpen?.(open), [onOpen, open]);
  const answer = (field: PreflightField, value: unknown): void => {
    const result = value === null ? null : preflight.shape[field].safeParse(value);
    setWrong({ ...wrong, [field]: result && !result.success ? result.error.issues[0]!.message : undefined });
    const { [field]: _before, ...rest } = answers;
    onAnswers(result?.success ? { ...rest, [field]: value } : rest);
  };
  const remembered = questions.filter(({ field }) => !asked.includes(field));
  return (
    <>
      {remembered.length > 0 ? (
        <Stack gap={6}>
          <Quiet>
            {from
              ? `From the last run on this device (${from}). Change what is different today.`
              : afterwards
                ? 'As recorded. Change what was different.'
                : 'From Kit. Change what is different today.'}
          </Quiet>
          <Row role="group" aria-label="Known conditions" gap={6} wrap>
            {remembered.map(({ field, asks }) => (
              <Button
                key={field}
                type="outline"
                title={`${asks}: ${sayAnswer(field, answers[field], temperature)}`}
                onPress={() => setAsked([...asked, field])}
                titleStyle={{ fontSize: 15 }}
                buttonStyle={{ paddingHorizontal: 10 }}
              />
            ))}
          </Row>
        </Stack>
      ) : null}
      <Row wrap style={{ columnGap: 14, rowGap: 7 }}>
        {questions
          .filter(({ field }) => asked.includes(field))
          .map((question) => (
            <QuestionRow
              key={question.field}
              question={question}
              value={answers[question.field]}
              wrong={wrong[question.field]}
              onAnswer={(value) => answer(question.field, value)}
            />
          ))}
      </Row>
      <Cautions answers={answers} />
    </>
  );
}

function QuestionRow({
  question,
  value,
  wrong,
  onAnswer,
}: {
  question: Question;
  value: Preflight[PreflightField];
  wrong: string | undefined;
  onAnswer: (value: unknown) => void;
}): ReactNode {
  const { asks, options, short, unit, yes, no, temperature } = question;
  if (unit || temperature) {
    const shared = { value: value ?? null, onChange: onAnswer, error: wrong, placeholder: 'unknown' };
    return (
      <View style={{ flexGrow: 1, flexBasis: 130, marginBottom: -6 }}>
        {temperature ? (
          <TemperatureInput {...shared} label={asks} of={question.field === 'roomC' ? 'room' : undefined} />
        ) : (
          <NumberInput {...shared} label={`${asks}, ${unit}`} />
        )}
      </View>
    );
  }
  if (!options && yes === undefined) return <WordsRow asks={asks} value={value} onAnswer={onAnswer} />;
  const choices = options
    ? options.map((option) => ({ value: option, text: short?.[option] ?? option, spoken: option }))
    : [
        { value: 'yes', text: yes! },
        { value: 'no', text: no! },
      ];
  const selected =
    typeof value === 'boolean' ? (value ? 'yes' : 'no') : ((value as string | undefined) ?? null);
  return (
    <Row gap={8} align="center" style={{ width: '100%' }}>
      <Quiet style={{ fontFamily: FONTS.head, fontSize: 15, width: 72 }}>{asks}</Quiet>
      <Stack flex={1}>
        <Choices
          label={asks}
          options={choices}
          selected={selected}
          onSelect={(chosen) => onAnswer(options ? chosen : chosen === 'yes')}
        />
      </Stack>
    </Row>
  );
}

/** An answer in words of one's own. */
function WordsRow({
  asks,
  value,
  onAnswer,
}: {
  asks: string;
  value: Preflight[PreflightField];
  onAnswer: (value: unknown) => void;
}): ReactNode {
  return (
    <View style={{ flexGrow: 1, flexBasis: 130, marginBottom: -6 }}>
      <Input
        label={asks}
        aria-label={asks}
        value={typeof value === 'string' ? value : ''}
        placeholder="unknown"
        onChangeText={(text) => onAnswer(text.trim() === '' ? null : text)}
      />
    </View>
  );
}

/** Where the answers bring something that can hurt. */
function Cautions({ answers }: { answers: Preflight }): ReactNode {
  const { temperature, difference } = useVoice();
  const cautions = [
    answers.charging === 'plugged in'
      ? `Charging during play adds about ${difference(CHARGE_RISE_C, 0)} on the back. Stop if the device is too hot to hold. ${SWOLLEN_BATTERY}`
      : null,
    answers.cooler === 'with' ? plateCaution(answers, temperature) : null,
    answers.hold === 'in the hands'
      ? `From ${temperature(CAUTION_C)}, hold the device only briefly; from ${temperature(STOP_C)}, put it down. Take a ten-minute break every 90 minutes.`
      : null,
    answers.performanceMode === 'boost'
      ? 'Use boost only as long as the maker allows, with the vents free.'
      : null,
  ].filter((caution) => caution !== null);
  return cautions.map((caution) => (
    <Quiet key={caution} role="note">
      {caution}
    </Quiet>
  ));
}

/** Whether water gathers on the cooler's plate, as far as the air is known. */
export function plateCaution(
  { plateC, roomC, humidity }: Pick<Preflight, 'plateC' | 'roomC' | 'humidity'>,
  temperature: (celsius: number) => string,
): string {
  const keep = 'keep water away from ports, and do not cover vents';
  const found = plateC === undefined ? null : condensation(plateC, roomC ?? null, humidity ?? null);
  if (found === null) return `Water can condense on a cold plate: ${keep}.`;
  const dew = `dew point ${temperature(found.dewC)}`;
  return found.state === 'dry'
    ? `The plate is warmer than the ${dew}; ${keep}.`
    : `Water ${found.state === 'wet' ? 'condenses' : 'may condense'} on the plate: plate ${temperature(found.plateC)}, ${dew}. Dry it, ${keep}, and stop if water gets near a port. Follow the maker’s instructions first.`;
}
