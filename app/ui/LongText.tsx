import { Button, Input } from '@rneui/themed';
import { useMemo, type ClipboardEvent, type ReactNode } from 'react';
import { count } from './figures';
import { Body, Quiet } from './words';
import { Row, Stack } from './parts';

interface Props {
  label: string;
  placeholder: string;
  value: string;
  onChange: (text: string) => void;
}

/** A browser's field takes seconds for a thousand lines and minutes for more. */
const MOST_LINES = 200;
const SHOWN_LINES = 4;

const linesOf = (text: string): number => text.split('\n').length;

/** A field for text that may be pasted by the thousand lines: more than one would type is shown by its beginning. */
export function LongText({ label, placeholder, value, onChange }: Props): ReactNode {
  const lines = useMemo(() => linesOf(value), [value]);
  if (lines > MOST_LINES) {
    return (
      <Stack role="group" aria-label={label} gap={2}>
        {value.split('\n', SHOWN_LINES).map((line, i) => (
          <Quiet key={i} numberOfLines={1}>
            {line}
          </Quiet>
        ))}
        <Row gap={12} align="center">
          <Body>{`… ${count(lines, 'line')}`}</Body>
          <Button type="clear" title="Replace text" onPress={() => onChange('')} />
        </Row>
      </Stack>
    );
  }
  const onPaste = (event: ClipboardEvent): void => {
    const pasted = event.clipboardData.getData('text/plain');
    if (linesOf(pasted) <= MOST_LINES) return;
    event.preventDefault();
    onChange(value === '' ? pasted : `${value}\n${pasted}`);
  };
  return (
    <div onPaste={onPaste}>
      <Input
        aria-label={label}
        multiline
        numberOfLines={6}
        value={value}
        onChangeText={onChange}
        placeholder={placeholder}
        inputStyle={{ minHeight: 120, textAlignVertical: 'top', paddingVertical: 8 }}
        renderErrorMessage={false}
      />
    </div>
  );
}
