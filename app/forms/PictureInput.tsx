import { Button } from '@rneui/themed';
import { useEffect, useRef, useState, type ChangeEvent, type DragEvent, type ReactNode } from 'react';
import { Body } from '../ui/words';
import { Stack } from '../ui/parts';
import { PictureRefused, smallPicture } from './picture';

/**
 * Takes a picture: chosen, taken with the camera of a phone, dropped, or pasted.
 *
 * @param onPicture given a JPEG in base64, small enough to be kept
 */
export function PictureInput({
  label = 'Add a picture',
  onPicture,
}: {
  label?: string;
  onPicture: (base64: string) => void | Promise<void>;
}): ReactNode {
  const input = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const take = async (files: Iterable<File> | null | undefined): Promise<void> => {
    setProblem(null);
    for (const file of files ?? []) {
      setBusy(true);
      try {
        await onPicture(await smallPicture(file));
      } catch (error) {
        if (!(error instanceof PictureRefused)) throw error;
        setProblem(error.message);
      } finally {
        setBusy(false);
      }
    }
  };
  const latest = useRef(take);
  useEffect(() => {
    latest.current = take;
  });
  // a screenshot that was copied is pasted anywhere on the page
  useEffect(() => {
    const onPaste = (event: ClipboardEvent): void => {
      const pictures = [...(event.clipboardData?.files ?? [])].filter((file) =>
        file.type.startsWith('image/'),
      );
      if (pictures.length > 0) void latest.current(pictures);
    };
    document.addEventListener('paste', onPaste);
    return () => document.removeEventListener('paste', onPaste);
  }, []);
  return (
    <div
      onDragOver={(event: DragEvent) => event.preventDefault()}
      onDrop={(event: DragEvent) => {
        event.preventDefault();
        void take(event.dataTransfer.files);
      }}
    >
      <input
        ref={input}
        type="file"
        accept="image/*"
        multiple
        aria-label={label}
        style={{ display: 'none' }}
        onChange={(event: ChangeEvent<HTMLInputElement>) => {
          void take([...(event.target.files ?? [])]);
          event.target.value = '';
        }}
      />
      <Stack gap={6}>
        <Button
          type="outline"
          title={busy ? 'Reducing picture size…' : label}
          disabled={busy}
          onPress={() => input.current?.click()}
        />
        {problem ? <Body role="alert">{problem}</Body> : null}
      </Stack>
    </div>
  );
}
