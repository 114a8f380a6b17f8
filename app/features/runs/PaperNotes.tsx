import { readPaper, type PaperLine } from '@pace-check/core';
import { Input } from '@rneui/themed';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { usePalette } from '../../ui/Look';
import { useVoice } from '../../ui/Voice';
import { Body, FigureText, Quiet } from '../../ui/words';
import { Row, Stack } from '../../ui/parts';

/** What a notebook page was understood as, in the reader's scale. */
export function usePaper(text: string): PaperLine[] {
  const { unit } = useVoice();
  return readPaper(text, unit);
}

/** A page of the notebook, typed or pasted, and how each of its lines is understood. */
export function PaperNotes({
  text,
  onText,
  lines,
}: {
  text: string;
  onText: (text: string) => void;
  lines: PaperLine[];
}): ReactNode {
  const { unit } = useVoice();
  return (
    <View>
      <Input
        label="Readings, a line each"
        aria-label="Readings, a line each"
        multiline
        numberOfLines={7}
        value={text}
        onChangeText={onText}
        placeholder={
          unit === 'F'
            ? '8:00 back 97.7\n13 min front 106 F\n100% 0:00\n5:00 about 40 fps'
            : '8:00 back 36.5\n13 min front 106 F\n100% 0:00\n5:00 about 40 fps'
        }
        inputContainerStyle={{ paddingHorizontal: 0 }}
        inputStyle={{
          minHeight: 160,
          paddingHorizontal: 10,
          textAlignVertical: 'top',
          paddingVertical: 10,
          lineHeight: 23,
        }}
        renderErrorMessage={false}
      />
      <Stack role="list" aria-label="How each line is understood" gap={2} style={{ marginTop: 8 }}>
        {lines.map((line) => (
          <UnderstoodLine key={line.line} line={line} />
        ))}
      </Stack>
    </View>
  );
}

function UnderstoodLine({ line }: { line: PaperLine }): ReactNode {
  const { action } = usePalette();
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
        {clear ? null : <Body small>{`“${line.text}” is unclear. ${line.problem}`}</Body>}
      </Stack>
    </Row>
  );
}

/** Says how many lines are clear, and that the unclear ones are not lost. */
export function PaperCount({ lines }: { lines: PaperLine[] }): ReactNode {
  const unclear = lines.filter((line) => line.problem !== null).length;
  if (lines.length === 0) return null;
  return (
    <Quiet role="status">
      {unclear === 0
        ? `${lines.length} of ${lines.length} lines are clear.`
        : `${unclear} of ${lines.length} lines ${unclear === 1 ? 'is' : 'are'} unclear: mend ${unclear === 1 ? 'it' : 'them'} above, or put a # in front to keep ${unclear === 1 ? 'it' : 'them'} as a note.`}
    </Quiet>
  );
}
