import { zodResolver } from '@hookform/resolvers/zod';
import { LARGEST_LOG_BYTES, runFacts, type CardStep, type RunFactsInput } from '@pace-check/contract';
import { clock, type ColumnChoice, type TextLayout } from '@pace-check/core';
import { Button, LinearProgress } from '@rneui/themed';
import { useRouter } from 'expo-router';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { useForm, type UseFormReturn } from 'react-hook-form';
import { ScrollView, View } from 'react-native';
import { ApiFailure } from '../../../api/client';
import { useImport } from '../../../api/queries';
import { bytes, count, fps } from '../../../ui/figures';
import { LongText } from '../../../ui/LongText';
import { usePalette, useWide } from '../../../ui/Look';
import { Body, FigureText, Heading, Quiet } from '../../../ui/words';
import { useForStep } from '../../../forms/useForStep';
import { FactsFields } from '../../../forms/FactsFields';
import { ColumnsForm } from './ColumnsForm';
import { FileDrop } from './FileDrop';
import type { PreviewFigures, PreviewRequest } from './preview';
import { Refused, Rows } from './Refused';
import { usePreview, type Preview } from './usePreview';
import { Row, Stack } from '../../../ui/parts';

/** Brings a log in: choose it, see how it is understood, say what it was, keep it. */
export function ImportScreen(): ReactNode {
  const wide = useWide();
  const [file, setFile] = useState<File | null>(null);
  const form = useForm<RunFactsInput>({
    resolver: zodResolver(runFacts),
    defaultValues: { device: '', title: '', setup: null, target: null, refresh: null },
  });
  const { step, link } = useForStep();
  useFactsOfStep(form, step);
  return (
    <ScrollView
      keyboardShouldPersistTaps="handled"
      contentContainerStyle={{ padding: wide ? 24 : 14, gap: 16, maxWidth: 1100, width: '100%' }}
    >
      <Heading level={1}>Import log</Heading>
      {step ? (
        <Quiet>{`For the step “${step.title} on ${step.device ?? 'no device'}”. Its conditions are copied to the run.`}</Quiet>
      ) : null}
      {file === null ? (
        <NoFile onFile={setFile} />
      ) : (
        <Chosen
          key={`${file.name} ${file.size} ${file.lastModified}`}
          file={file}
          form={form}
          link={link}
          onOther={() => setFile(null)}
        />
      )}
    </ScrollView>
  );
}

function NoFile({ onFile }: { onFile: (file: File) => void }): ReactNode {
  const router = useRouter();
  return (
    <>
      <FileDrop onFile={onFile} />
      <Paste onFile={onFile} />
      <Stack gap={8} align="flex-start">
        <Heading>No log?</Heading>
        <Body>
          Some titles block loggers. Type or paste your readings: temperatures, battery percent, rates from a
          counter or by eye.
        </Body>
        <Button type="outline" title="Enter notes" onPress={() => router.navigate('/typed')} />
      </Stack>
    </>
  );
}

/** Text that is in the clipboard, of whatever kind a file may be. */
function Paste({ onFile }: { onFile: (file: File) => void }): ReactNode {
  const [text, setText] = useState<string | null>(null);
  if (text === null) {
    return (
      <Row>
        <Button type="outline" title="Paste text" onPress={() => setText('')} />
      </Row>
    );
  }
  return (
    <Stack role="group" aria-label="Paste text" gap={8}>
      <Quiet>Paste rows of a log, a run file, or output of the device’s shell.</Quiet>
      <LongText
        label="Log as text"
        value={text}
        onChange={setText}
        placeholder={'at 1795686223\nlevel: 87\nstatus: 3\nskin-therm 38400'}
      />
      <Row gap={8}>
        <Button
          title="Continue"
          disabled={text.trim() === ''}
          onPress={() => onFile(new File([text], 'pasted.txt', { type: 'text/plain' }))}
        />
        <Button type="clear" title="Cancel" onPress={() => setText(null)} />
      </Row>
    </Stack>
  );
}

/** A file is chosen. What was typed about the run outlives a change of the file: the form is the screen's. */
function Chosen({
  file,
  form,
  link,
  onOther,
}: {
  file: File;
  form: UseFormReturn<RunFactsInput>;
  link: (runId: string) => Promise<void>;
  onOther: () => void;
}): ReactNode {
  const wide = useWide();
  const [given, setGiven] = useState<PreviewRequest['given']>({});
  const [choice, setChoice] = useState<ColumnChoice | null>(null);
  const request = useMemo<PreviewRequest>(() => ({ file, given, choice }), [file, given, choice]);
  const preview = usePreview(request);
  useFactsOfFile(form, preview.figures);
  const layout = preview.head?.layout ?? null;
  const understood = preview.head?.choice ?? null;
  const why =
    choice === null && understood
      ? (preview.head?.guesses.find((guess) => guess.column === understood.column)?.why ?? null)
      : null;
  const split = (next: Partial<Pick<TextLayout, 'delimiter' | 'decimalMark'>>): void => {
    // other columns: the choice among the old ones means nothing
    setChoice(null);
    setGiven(next);
  };
  return (
    <>
      <Row gap={12} align="center" wrap>
        <Body style={{ flexShrink: 1 }}>{`${file.name}, ${bytes(file.size)}`}</Body>
        <Button type="outline" title="Choose another file" onPress={onOther} />
      </Row>
      <View
        style={{
          flexDirection: wide ? 'row' : 'column',
          gap: wide ? 32 : 18,
          alignItems: wide ? 'flex-start' : 'stretch',
        }}
      >
        <Stack gap={14} flex={wide ? 1.2 : undefined} style={{ minWidth: 0 }}>
          <Heading>Preview</Heading>
          <Understood preview={preview} onCancel={onOther} />
          {layout ? (
            <ColumnsForm
              layout={layout}
              guesses={preview.head?.guesses ?? []}
              choice={choice ?? understood}
              why={why}
              onChoice={setChoice}
              onSplit={split}
            />
          ) : null}
        </Stack>
        <Stack flex={wide ? 1 : undefined} style={{ minWidth: 0 }}>
          <Heading style={{ marginBottom: 10 }}>Title and device</Heading>
          <FactsFields form={form} isNew />
          <Keep
            file={file}
            form={form}
            link={link}
            preview={preview}
            reading={layout && (choice ?? understood) ? { layout, choice: (choice ?? understood)! } : null}
          />
        </Stack>
      </View>
    </>
  );
}

/** So does the step that it was played for. */
function useFactsOfStep(form: UseFormReturn<RunFactsInput>, step: CardStep | null): void {
  useEffect(() => {
    if (!step) return;
    const now = form.getValues();
    if (!now.device && step.device) form.setValue('device', step.device);
    if (!now.title) form.setValue('title', step.title);
    if (!now.setup && step.setup) form.setValue('setup', step.setup);
  }, [form, step]);
}

/** A run file says what was played: it fills what is still empty. */
function useFactsOfFile(form: UseFormReturn<RunFactsInput>, figures: PreviewFigures | null): void {
  const header = figures?.header ?? null;
  useEffect(() => {
    if (!header) return;
    const now = form.getValues();
    if (!now.device && header.device) form.setValue('device', header.device);
    if (!now.title && header.title) form.setValue('title', header.title);
    if (!now.setup && header.setup) form.setValue('setup', header.setup);
    if (now.target === null && header.target) form.setValue('target', header.target);
    if (now.refresh === null && header.refresh) form.setValue('refresh', header.refresh);
  }, [form, header]);
}

function Understood({ preview, onCancel }: { preview: Preview; onCancel: () => void }): ReactNode {
  const { action, track, sheet, line } = usePalette();
  const { figures, refused, progress } = preview;
  if (refused)
    return (
      <Refused
        title="This file cannot be imported yet"
        message={refused.message}
        remedy={refused.remedy}
        rows={refused.rows}
      />
    );
  if (!figures) {
    return (
      <Stack gap={8}>
        <Body role="status">{`Reading file, ${Math.round(progress * 100)} %`}</Body>
        <LinearProgress
          value={progress}
          variant="determinate"
          color={action}
          trackColor={track}
          aria-label="Reading file"
        />
        <Row>
          <Button type="outline" title="Cancel" onPress={onCancel} />
        </Row>
      </Stack>
    );
  }
  return (
    <Stack gap={10}>
      <Row
        role="status"
        wrap
        style={{
          columnGap: 26,
          rowGap: 8,
          backgroundColor: sheet,
          borderWidth: 1,
          borderColor: line,
          borderRadius: 6,
          padding: 12,
        }}
      >
        <Big figure={figures.frames.toLocaleString('en-GB')} label="frames" />
        <Big figure={clock(figures.seconds)} label="length" />
        <Big figure={fps(figures.average)} label="fps, average" />
        {figures.readings > 0 ? <Big figure={String(figures.readings)} label="readings and markers" /> : null}
      </Row>
      {figures.dropped > 0 ? (
        <>
          <Body>{`${count(figures.dropped, 'row')} cannot be read and will be skipped:`}</Body>
          <Rows rows={figures.rows} />
        </>
      ) : null}
    </Stack>
  );
}

function Big({ figure, label }: { figure: string; label: string }): ReactNode {
  return (
    <View>
      <FigureText size={28}>{figure}</FigureText>
      <Quiet>{label}</Quiet>
    </View>
  );
}

interface KeepProps {
  file: File;
  form: UseFormReturn<RunFactsInput>;
  link: (runId: string) => Promise<void>;
  preview: Preview;
  reading: { layout: TextLayout; choice: ColumnChoice } | null;
}

/** Sends the file, says how far it is, and what became of it. */
function Keep({ file, form, link, preview, reading }: KeepProps): ReactNode {
  const router = useRouter();
  const { action, track } = usePalette();
  const store = useImport();
  const [sent, setSent] = useState(0);
  const cancel = useRef<AbortController | null>(null);
  // whoever leaves the screen has cancelled
  useEffect(() => () => cancel.current?.abort(), []);

  const send = (again: boolean): Promise<void> =>
    form.handleSubmit((facts) => {
      cancel.current = new AbortController();
      setSent(0);
      const { layout, choice } = reading ?? {};
      store.mutate(
        {
          file,
          details: {
            fileName: file.name,
            name: null,
            facts,
            reading:
              layout && choice
                ? {
                    layout: {
                      delimiter: layout.delimiter,
                      decimalMark: layout.decimalMark,
                      firstLine: layout.firstLine,
                    },
                    choice: { column: choice.column, kind: choice.kind, unit: choice.unit },
                  }
                : null,
            again,
          },
          onSent: setSent,
          signal: cancel.current.signal,
        },
        // the run is kept whether or not it can be linked; the card says so where it is not
        {
          onSuccess: (run) =>
            void link(run.id)
              .catch(() => undefined)
              .then(() => router.navigate(`/runs/${run.id}`)),
        },
      );
    })();

  if (store.isPending) {
    return (
      <Stack gap={8}>
        <Body role="status">
          {sent < 1
            ? `Uploading, ${Math.round(sent * 100)} %`
            : 'Uploaded. The server is calculating the figures…'}
        </Body>
        <LinearProgress
          {...(sent < 1 ? { value: sent, variant: 'determinate' } : { variant: 'indeterminate' })}
          color={action}
          trackColor={track}
          aria-label="Uploading"
        />
        <Row>
          <Button type="outline" title="Cancel" onPress={() => cancel.current?.abort()} />
        </Row>
      </Stack>
    );
  }
  return (
    <Stack gap={12}>
      <Outcome error={store.error} onAgain={() => void send(true)} />
      <Row>
        <Button
          title="Import run"
          disabled={preview.figures === null || file.size > LARGEST_LOG_BYTES}
          onPress={() => void send(false)}
        />
      </Row>
    </Stack>
  );
}

function Outcome({ error, onAgain }: { error: Error | null; onAgain: () => void }): ReactNode {
  const router = useRouter();
  if (error === null) return null;
  if (error.name === 'AbortError') return <Body role="status">Import cancelled. Nothing was stored.</Body>;
  if (!(error instanceof ApiFailure))
    return <Refused title="Not imported" message={error.message} remedy="Try again." />;
  const { problem } = error;
  if (problem.code === 'same-file' && problem.runId) {
    return (
      <Refused title="This file is already imported" message={problem.message} remedy={problem.remedy}>
        <Row gap={8} wrap>
          <Button title="Open existing run" onPress={() => router.navigate(`/runs/${problem.runId!}`)} />
          <Button type="outline" title="Import again" onPress={onAgain} />
        </Row>
      </Refused>
    );
  }
  return (
    <Refused
      title="Not imported: nothing was stored"
      message={problem.message}
      remedy={problem.remedy}
      rows={problem.rows}
    />
  );
}
