import { ROUTES, pathOf, type Brought, type PackProgress } from '@pace-check/contract';
import { useQueryClient } from '@tanstack/react-query';
import { Button, LinearProgress } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';
import { Linking } from 'react-native';
import { v4 as newId } from 'uuid';
import { ApiFailure, upload } from '../../api/client';
import { useProgress } from '../../api/progress';
import { useRecords } from '../../api/records';
import { usePalette } from '../../ui/Look';
import { Row, Stack } from '../../ui/parts';
import { Body, Quiet } from '../../ui/words';

const address = (job: string): string => `/api${pathOf(ROUTES.saveEverything, { query: { job } })}`;

/** Everything as open files: saved, and brought in from another Pace Check. */
export function Everything(): ReactNode {
  return (
    <Stack gap={14}>
      <Save />
      <BringIn />
    </Stack>
  );
}

function Save(): ReactNode {
  const [job, setJob] = useState<string | null>(null);
  const progress = useProgress(job);
  const start = (): void => {
    const id = newId();
    setJob(id);
    void Linking.openURL(address(id));
  };
  return (
    <Stack gap={6}>
      <Row>
        <Button type="outline" title="Export all data" onPress={start} />
      </Row>
      {progress?.at === 'done' ? (
        <Body role="status">{`Exported: ${progress.total} files in one zip.`}</Body>
      ) : progress ? (
        <HowFar label="Export progress" doing="Exporting" progress={progress} />
      ) : null}
    </Stack>
  );
}

function BringIn(): ReactNode {
  const client = useQueryClient();
  const [job, setJob] = useState<string | null>(null);
  const [sent, setSent] = useState(0);
  const [brought, setBrought] = useState<Brought | null>(null);
  const [error, setError] = useState<Error | null>(null);
  const progress = useProgress(job);
  const bring = async (file: File): Promise<void> => {
    const id = newId();
    setJob(id);
    setSent(0);
    setBrought(null);
    setError(null);
    try {
      setBrought(
        await upload<Brought>(address(id), file, { onSent: setSent, signal: new AbortController().signal }),
      );
      // anything may be other now
      await client.invalidateQueries();
    } catch (failed) {
      setError(failed instanceof Error ? failed : new Error(String(failed)));
    } finally {
      setJob(null);
    }
  };
  const { getRootProps, getInputProps, open } = useDropzone({
    onDrop: ([file]) => void (file && bring(file)),
    multiple: false,
    noClick: true,
    noKeyboard: true,
  });
  const remedy = error instanceof ApiFailure ? (error.problem.remedy ?? '') : '';
  return (
    <div {...getRootProps()}>
      <input {...getInputProps()} aria-label="Export file of another Pace Check" />
      <Stack gap={6}>
        <Row>
          <Button type="outline" title="Import all data…" loading={job !== null} onPress={open} />
        </Row>
        {job === null ? null : sent < 1 ? (
          <HowFar
            label="Import progress"
            doing="Uploading"
            progress={{ done: Math.round(sent * 100), total: 100, at: 'the file' }}
          />
        ) : progress ? (
          <HowFar label="Import progress" doing="Importing" progress={progress} />
        ) : null}
        {brought ? <WhatCame brought={brought} /> : null}
        {error ? <Body role="alert">{`${error.message} ${remedy}`}</Body> : null}
        <Quiet>The whole file is imported, or nothing. Existing records are never changed.</Quiet>
      </Stack>
    </div>
  );
}

function HowFar({
  label,
  doing,
  progress: { done, total, at },
}: {
  label: string;
  doing: string;
  progress: PackProgress;
}): ReactNode {
  const { action, track } = usePalette();
  const share = total > 0 ? done / total : 0;
  return (
    <Stack gap={6} role="status" aria-label={label}>
      <Body>{`${doing}: ${Math.round(share * 100)} %, ${at}`}</Body>
      <LinearProgress aria-label={label} value={share} animation={false} color={action} trackColor={track} />
    </Stack>
  );
}

function WhatCame({ brought: { kinds, deletedHere } }: { brought: Brought }): ReactNode {
  const records = useRecords();
  const added = kinds.filter((kind) => kind.added > 0);
  const there = kinds.reduce((sum, kind) => sum + kind.there, 0);
  const differ = kinds.reduce((sum, kind) => sum + kind.differ, 0);
  return (
    <Stack gap={4} role="status">
      <Body>
        {added.length === 0
          ? 'Nothing new in this file.'
          : `Added: ${added.map((kind) => `${kind.added} ${kind.what}`).join(', ')}.`}
      </Body>
      {there > 0 ? (
        <Body>
          {`${there} records already existed${differ > 0 ? `; ${differ} of them differ from the file and were not changed` : ''}.`}
        </Body>
      ) : null}
      {deletedHere.length > 0 && !records.isSuccess ? (
        <>
          <Body>{`Deleted here, and still deleted: ${deletedHere.map(({ name }) => name).join(', ')}.`}</Body>
          <Row>
            <Button
              type="outline"
              title="Bring them back"
              loading={records.isPending}
              onPress={() => records.mutate({ records: deletedHere, restore: true })}
            />
          </Row>
        </>
      ) : null}
      {records.isSuccess ? <Body>{`${deletedHere.length} brought back.`}</Body> : null}
      {records.error ? <Body role="alert">{`Not all brought back: ${records.error.message}`}</Body> : null}
    </Stack>
  );
}
