import { Button, Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { useNoteOutcomes } from '../../api/outcomes';
import { Row, Sheet } from '../../ui/parts';
import { NamePicker } from '../../ui/PickOrAdd';
import { useToast } from '../../ui/Toast';
import { today } from './today';

/** A new version of an emulator or a layer: what was seen with an older one is to be tested again. */
export function NoteVersion({ layers }: { layers: string[] }): ReactNode {
  const [layer, setLayer] = useState('');
  const [version, setVersion] = useState('');
  const [forkOf, setForkOf] = useState('');
  const note = useNoteOutcomes();
  const toast = useToast();
  const take = (): void =>
    note.mutate(
      {
        versions: [
          { with: layer.trim(), version: version.trim(), date: today(), forkOf: forkOf.trim() || null },
        ],
      },
      {
        onSuccess: () => {
          toast({
            text: `${layer.trim()} ${version.trim()} saved. Results with older versions are now due for a new test.`,
          });
          setVersion('');
          setForkOf('');
        },
        onError: (error) => toast({ text: `Not saved: ${error.message}` }),
      },
    );
  return (
    <Sheet gap={8} role="form" aria-label="Add version">
      <NamePicker
        label="Emulator or layer"
        known={layers}
        what="emulator or layer"
        value={layer}
        onChange={setLayer}
      />
      <Input
        label="New version"
        aria-label="New version"
        value={version}
        onChangeText={setVersion}
        maxLength={60}
        renderErrorMessage={false}
      />
      <NamePicker
        label="A fork of, if it is one"
        known={layers.filter((one) => one !== layer.trim())}
        what="emulator or layer"
        value={forkOf}
        onChange={setForkOf}
      />
      <Row>
        <Button
          title="Save version"
          disabled={layer.trim() === '' || version.trim() === ''}
          loading={note.isPending}
          onPress={take}
        />
      </Row>
    </Sheet>
  );
}
