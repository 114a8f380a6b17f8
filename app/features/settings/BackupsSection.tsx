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
    <Answered query={backups} loading={{ rows: 2, height: 44, label: 'Loading backups' }}>
      {({ kept, nightly, files, going, failed }) =>
        kept ? (
          <Stack gap={8}>
            {going ? (
              <Stack gap={6} role="status" aria-label="Creating backup">
                <Body>{`${Math.round(going.share * 100)} %: ${going.doing}`}</Body>
                <LinearProgress
                  aria-label="Backup progress"
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
            {failed && !going ? <Body role="alert">{`The last backup failed: ${failed}`}</Body> : null}
            {make.error ? <Body role="alert">{make.error.message}</Body> : null}
            <Flag
              label="Back up every night and keep the last seven"
              value={nightly}
              onChange={(wanted) => habit.mutate(wanted)}
            />
            {habit.error ? <Body role="alert">{`Not changed: ${habit.error.message}`}</Body> : null}
            <Files files={files} />
            <Quiet>
              Backups are stored on the server’s disk until you download them. “npm run restore FILE” restores
              one into an empty database only.
            </Quiet>
          </Stack>
        ) : (
          <Quiet>This server stores no backups. Run “npm run backup FILE” on its machine to make one.</Quiet>
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
            <Quiet>{`${bytes(size)}${nightly ? ', automatic' : ''}`}</Quiet>
          </Stack>
          <Row gap={4}>
            <Button
              type="outline"
              title="Download"
              aria-label={`Download the backup of ${dayAndTime(madeAt)}`}
              onPress={() => void Linking.openURL(backupAddress(id))}
            />
            <Button
              type="clear"
              title={sure === id ? 'Delete permanently' : 'Delete'}
              aria-label={`${sure === id ? 'Delete permanently' : 'Delete'} the backup of ${dayAndTime(madeAt)}`}
              loading={remove.isPending && remove.variables === id}
              onPress={() => (sure === id ? remove.mutate(id) : setSure(id))}
            />
          </Row>
        </Row>
      ))}
      {remove.error ? <Body role="alert">{`Not deleted: ${remove.error.message}`}</Body> : null}
    </Stack>
  );
}
