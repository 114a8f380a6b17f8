import { ROUTES, type KitKind } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import type { ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';
import { Linking } from 'react-native';
import { ApiFailure } from '../../api/client';
import { useImportKit } from '../../api/queries';
import { usePalette } from '../../ui/Look';
import { IfMay } from '../../ui/Role';
import { Body, Heading, Quiet } from '../../ui/words';
import { Row, Sheet } from '../../ui/parts';

const TABLES: { kind: KitKind; text: string }[] = [
  { kind: 'device', text: 'Devices' },
  { kind: 'title', text: 'Titles' },
  { kind: 'setup', text: 'Setups' },
  { kind: 'accessory', text: 'Accessories' },
  { kind: 'instrument', text: 'Instruments' },
];

/** The kit as files, out and in. */
export function KitFiles({ shelf }: { shelf: KitKind }): ReactNode {
  usePalette();
  const bring = useImportKit();
  const { getRootProps, getInputProps, open } = useDropzone({
    onDrop: ([file]) => void file?.text().then((text) => bring.mutate(text)),
    multiple: false,
    noClick: true,
    noKeyboard: true,
  });
  const problem = bring.error instanceof ApiFailure ? bring.error.problem : null;
  return (
    <div {...getRootProps()}>
      <input {...getInputProps()} aria-label="Kit file" />
      <Sheet padding={14} gap={8}>
        <Heading level={3}>Export</Heading>
        <Row gap={6} wrap>
          <Button
            type="outline"
            title="All records, JSON"
            onPress={() => void Linking.openURL('/api/kit/file')}
          />
          {TABLES.map(({ kind, text }) => (
            <Button
              key={kind}
              type={kind === shelf ? 'outline' : 'clear'}
              title={`${text}, CSV`}
              onPress={() => void Linking.openURL(`/api/kit/file?kind=${kind}`)}
            />
          ))}
        </Row>
        <IfMay route={ROUTES.importKit}>
          <Heading level={3}>Import</Heading>
          <Quiet>
            Choose a JSON or CSV file. Records with a known name are updated; no duplicates are created.
          </Quiet>
          <Row>
            <Button title="Choose a file" loading={bring.isPending} onPress={open} />
          </Row>
        </IfMay>
        {bring.data ? (
          <Body role="status">{`${bring.data.added} added, ${bring.data.updated} updated, ${bring.data.unchanged} unchanged.`}</Body>
        ) : null}
        {bring.error ? (
          <Body role="alert">{`${bring.error.message} ${problem?.remedy ?? ''} Nothing was stored.`}</Body>
        ) : null}
      </Sheet>
    </div>
  );
}
