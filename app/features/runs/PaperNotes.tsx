import { lineTimeMs, questionOf, type EntryLine, type PaperLine } from '@pace-check/core';
import { Button } from '@rneui/themed';
import { useMemo, type ReactNode } from 'react';
import { View } from 'react-native';
import { LongText } from '../../ui/LongText';
import { usePalette } from '../../ui/Look';
import { useVoice } from '../../ui/Voice';
import { Body, FigureText, Quiet } from '../../ui/words';
import { Row, Stack } from '../../ui/parts';
import type { Paper } from './usePaper';

/** A page of the notebook, typed or pasted, and how each of its lines is understood. */
export function PaperNotes({
  text,
  onText,
  paper: { lines, reading, stop },
  panelHz = null,
}: {
  text: string;
  onText: (text: string) => void;
  paper: Paper;
  /** Rate of the panel, where it is known. */
  panelHz?: number | null;
}): ReactNode {
  const { unit } = useVoice();
  const shown = useMemo(() => worthShowing(lines), [lines]);
  return (
    <View>
      <Quiet style={{ marginBottom: 4 }}>Readings, one per line</Quiet>
      <LongText
        label="Readings, one per line"
        value={text}
        onChange={onText}
        placeholder={`8:00 back ${unit === 'F' ? '97.7' : '36.5'}\n13 min front 106 F\n100% 0:00\n10 min about 40 ± 8 fps\n50–55 fps in the town\nspeed 98 %`}
      />
      {reading ? (
        <Row gap={12} align="center">
          <Quiet role="status">Reading the text…</Quiet>
          <Button type="clear" title="Stop" onPress={stop} />
        </Row>
      ) : null}
      <Stack role="list" aria-label="How each line is read" gap={2} style={{ marginTop: 8 }}>
        {shown.map((line) => (
          <UnderstoodLine key={line.line} line={line} panelHz={panelHz} />
        ))}
      </Stack>
      {shown.length < lines.length ? (
        <Quiet>{`… and ${(lines.length - shown.length).toLocaleString('en-GB')} more lines.`}</Quiet>
      ) : null}
    </View>
  );
}

/** Lines that anybody looks through. */
const MOST_SHOWN = 120;

/** Of many lines those that are unclear, and the first others. */
function worthShowing(lines: PaperLine[]): PaperLine[] {
  if (lines.length <= MOST_SHOWN) return lines;
  const unclear = lines.filter((line) => line.problem !== null).slice(0, MOST_SHOWN);
  const clear = lines.filter((line) => line.problem === null).slice(0, MOST_SHOWN - unclear.length);
  return [...unclear, ...clear].sort((a, b) => a.line - b.line);
}

function UnderstoodLine({ line, panelHz }: { line: PaperLine; panelHz: number | null }): ReactNode {
  const { action } = usePalette();
  const { unit } = useVoice();
  const [asked] = line.entries.flatMap((entry) => questionOf(entry, { unit, panelHz }) ?? []);
  const clear = line.problem === null;
  return (
    <Row
      role="listitem"
      gap={10}
      style={{
        borderLeftWidth: 3,
        borderColor: clear ? 'transparent' : action,
        paddingLeft: 8,
        paddingVertical: 2,
      }}
    >
      <FigureText size={16} style={{ minWidth: 22 }}>
        {line.line}
      </FigureText>
      <Stack flex={1}>
        {clear ? <Body small>{line.understood}</Body> : null}
        {asked === undefined ? null : (
          <Quiet role="status">{`${asked} Correct it above, or leave it unchanged.`}</Quiet>
        )}
        {clear ? null : (
          <Body small>
            {line.problem!.startsWith(`“${line.text}”`)
              ? line.problem
              : `Line “${line.text}” is not clear: ${line.problem}`}
          </Body>
        )}
      </Stack>
    </Row>
  );
}

/**
 * What is kept of a page: the lines that are clear, and each that is not as a
 * note in its own words, to be sorted later.
 */
export function linesKept(lines: PaperLine[]): EntryLine[] {
  const clear = lines.flatMap((line) => line.entries);
  const endMs = clear.reduce((most, line) => Math.max(most, lineTimeMs(line)), 0);
  return [
    ...clear,
    ...lines
      .filter((line) => line.problem !== null)
      .map((line) => ({ type: 'mark' as const, atMs: endMs, whole: true, kind: 'note', note: line.text })),
  ];
}

/** Room that a page tells, °C; null where it tells none. */
export const roomOf = (lines: PaperLine[]): number | null =>
  lines.findLast((line) => line.roomC !== undefined)?.roomC ?? null;

/** Says how many lines are clear, and that the unclear ones are not lost. */
export function PaperCount({ lines }: { lines: PaperLine[] }): ReactNode {
  const unclear = lines.filter((line) => line.problem !== null).length;
  if (lines.length === 0) return null;
  return (
    <Quiet role="status">
      {unclear === 0
        ? `${lines.length} of ${lines.length} lines are clear.`
        : `${unclear} of ${lines.length} lines ${unclear === 1 ? 'is' : 'are'} not clear and will be saved as ${unclear === 1 ? 'a note' : 'notes'}. To use ${unclear === 1 ? 'it' : 'them'} as readings, correct ${unclear === 1 ? 'it' : 'them'} above.`}
    </Quiet>
  );
}
