import type { BackupFile } from '@pace-check/contract';
import { Button, LinearProgress } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { Linking } from 'react-native';
import { backupAddress, useBackupHabit, useBackups, useDeleteBackup, useMakeBackup } from '../../api/backups';
import { Flag } from '../../forms/Flag';
import { bytes, dayAndTime } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { Row, Stack } from '../../ui/parts';
import { Answered } from '../../ui/states';
import { Body, Quiet } from '../../ui/words';

/** Backups that the server keeps: made now, or by themselves at night. */
export function BackupsSection(): ReactNode {
  const backups = useBackups();
  const make = useMakeBackup();
  const habit = useBackupHabit();
  const { action, track } = usePalette();
  return (
    <Answered query={backups} loading={{ rows: 2, height: 44, label: 'Loading the backups' }}>
      {({ kept, nightly, files, going, failed }) =>
        kept ? (
          <Stack gap={8}>
            {going ? (
              <Stack gap={6} role="status" aria-label="Backup being made">
                <Body>{`${Math.round(going.share * 100)} %: ${going.doing}`}</Body>
                <LinearProgress
                  aria-label="How far the backup is"
                  value={going.share}
                  animation={false}
                  color={action}
                  trackColor={track}
                />
              </Stack>
            ) : (
              <Row>
                <Button title="Back up now" loading={make.isPending} onPress={() => make.mutate()} />
              </Row>
            )}
            {failed && !going ? <Body role="alert">{`The last one was not made: ${failed}`}</Body> : null}
            {make.error ? <Body role="alert">{make.error.message}</Body> : null}
            <Flag
              label="One each night; seven of them stay"
              value={nightly}
              onChange={(wanted) => habit.mutate(wanted)}
            />
            {habit.error ? <Body role="alert">{`Not changed: ${habit.error.message}`}</Body> : null}
            <Files files={files} />
            <Quiet>
              A backup lies on the server’s own disk until you save it elsewhere. “npm run restore FILE” makes
              the database of it, and never over data that is there.
            </Quiet>
          </Stack>
        ) : (
          <Quiet>This server keeps none by itself: “npm run backup FILE” on its machine makes one.</Quiet>
        )
      }
    </Answered>
  );
}

function Files({ files }: { files: BackupFile[] }): ReactNode {
  const { line } = usePalette();
  const remove = useDeleteBackup();
  // what cannot be brought back is asked for twice
  const [sure, setSure] = useState<string | null>(null);
  if (files.length === 0) return <Quiet>None yet.</Quiet>;
  return (
    <Stack role="list" aria-label="Backups">
      {files.map(({ id, madeAt, bytes: size, nightly }) => (
        <Row
          key={id}
          role="listitem"
          apart
          wrap
          align="center"
          gap={8}
          style={{ borderTopWidth: 1, borderColor: line, paddingVertical: 6 }}
        >
          <Stack style={{ flexShrink: 1 }}>
            <Body>{dayAndTime(madeAt)}</Body>
            <Quiet>{`${bytes(size)}${nightly ? ', by night' : ''}`}</Quiet>
          </Stack>
          <Row gap={4}>
            <Button
              type="outline"
              title="Save"
              aria-label={`Save the backup of ${dayAndTime(madeAt)}`}
              onPress={() => void Linking.openURL(backupAddress(id))}
            />
            <Button
              type="clear"
              title={sure === id ? 'Remove for good' : 'Remove'}
              aria-label={`${sure === id ? 'Remove for good' : 'Remove'} the backup of ${dayAndTime(madeAt)}`}
              loading={remove.isPending && remove.variables === id}
              onPress={() => (sure === id ? remove.mutate(id) : setSure(id))}
            />
          </Row>
        </Row>
      ))}
      {remove.error ? <Body role="alert">{`Not removed: ${remove.error.message}`}</Body> : null}
    </Stack>
  );
}
