import type { Recording } from '@pace-check/contract';
import { readShellText } from '@pace-check/core';
import { Button } from '@rneui/themed';
import { useMemo, useState, type ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';
import { useShellText } from '../../api/bench';
import { count } from '../../ui/figures';
import { LongText } from '../../ui/LongText';
import { useVoice } from '../../ui/Voice';
import { Body, Quiet } from '../../ui/words';
import { sayEntry } from './say';
import { steadyClock } from '../../outbox';
import { runClock } from './useBench';
import { Row, Stack } from '../../ui/parts';

const SHOWN = 6;

/** What the device's own shell printed, pasted or from a file, and how it is understood. */
export function ShellText({ recording, onDone }: { recording: Recording; onDone: () => void }): ReactNode {
  const { unit } = useVoice();
  const [text, setText] = useState('');
  const [now] = useState(() => runClock(recording, steadyClock.now()));
  const send = useShellText(recording.runId);
  const { getInputProps, open } = useDropzone({
    onDrop: ([file]) => void file?.text().then(setText),
    multiple: false,
    noClick: true,
    noKeyboard: true,
  });
  const { frames, entries, aside } = useMemo(() => readShellText(text, now, null), [text, now]);
  const total = frames.reduce((sum, line) => sum + line.us.length, 0);
  const found = [
    total > 0 ? count(total, 'frame') : null,
    ...entries.slice(0, SHOWN).map((line) => sayEntry(line, unit)),
    entries.length > SHOWN ? `${entries.length - SHOWN} more` : null,
  ].filter((one) => one !== null);
  return (
    <Stack role="group" aria-label="Shell output" gap={8}>
      <Quiet>
        Paste what the device’s shell printed: presentation timestamps in ns, battery status, current and
        voltage, thermal zones. Lines such as “at 1795686223623” set the time.
      </Quiet>
      <LongText
        label="Shell output"
        value={text}
        onChange={setText}
        placeholder={'level: 87\nstatus: 3\ncurrent_now: -1200000\nvoltage_now: 3987000\nskin-therm 38400'}
      />
      <input {...getInputProps()} aria-label="File with shell output" />
      {text.trim() === '' ? null : (
        <Body role="status">
          {found.length === 0
            ? 'No readings found in this text.'
            : `Found: ${found.join(', ')}.${aside.length > 0 ? ` ${count(aside.length, 'line')} ignored.` : ''}`}
        </Body>
      )}
      {send.error ? (
        <Body role="alert">{`Not added: ${send.error.message} Your text is still here.`}</Body>
      ) : null}
      <Row gap={8}>
        <Button
          title="Add readings"
          disabled={found.length === 0}
          loading={send.isPending}
          onPress={() => send.mutate(text, { onSuccess: onDone })}
        />
        <Button type="outline" title="Choose a file" onPress={open} />
        <Button type="clear" title="Cancel" onPress={onDone} />
      </Row>
    </Stack>
  );
}
