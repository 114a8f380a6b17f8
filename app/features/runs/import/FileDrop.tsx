import { Button } from '@rneui/themed';
import type { ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';
import { View } from 'react-native';
import { usePalette, useWide } from '../../../ui/Look';
import { Body, Quiet } from '../../../ui/words';
import { Icon } from '../../../ui/Icon';

/** Chooses a file, or takes one that is dropped. */
export function FileDrop({ onFile }: { onFile: (file: File) => void }): ReactNode {
  const { line, action, sheet } = usePalette();
  const wide = useWide();
  const { getRootProps, getInputProps, open, isDragActive } = useDropzone({
    onDrop: ([file]) => file && onFile(file),
    multiple: false,
    noClick: true,
    noKeyboard: true,
  });
  return (
    <div {...getRootProps()}>
      <input {...getInputProps()} aria-label="Frame log or run file" />
      <View
        style={{
          borderWidth: 2,
          borderStyle: 'dashed',
          borderColor: isDragActive ? action : line,
          backgroundColor: sheet,
          borderRadius: 8,
          padding: wide ? 32 : 20,
          gap: 10,
          alignItems: 'flex-start',
        }}
      >
        <Icon name="file" size={28} color={action} />
        <Body>{wide ? 'Drop a file here, or choose one' : 'Choose a file'}</Body>
        <Button title="Choose a file" onPress={open} />
        <Quiet>
          CSV with one frame time or timestamp per row (comma, semicolon or tab), a .pace.ndjson run file, or
          output of the device’s shell. Plain or gzipped, up to 256 MB.
        </Quiet>
      </View>
    </div>
  );
}
