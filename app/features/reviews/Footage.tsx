import { Button } from '@rneui/themed';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { Row, Stack } from '../../ui/parts';
import { Quiet } from '../../ui/words';

/** The footage beside its clip: it stays in this browser, and gives the time at which it stands. */
export function Footage({
  onTime,
  onLength,
}: {
  /** Told the time that it shows, s. */
  onTime: (seconds: number) => void;
  onLength: (seconds: number) => void;
}): ReactNode {
  const input = useRef<HTMLInputElement>(null);
  const video = useRef<HTMLVideoElement>(null);
  const [source, setSource] = useState<string | null>(null);
  useEffect(() => () => void (source !== null && URL.revokeObjectURL(source)), [source]);
  return (
    <Stack gap={6}>
      <input
        ref={input}
        type="file"
        accept="video/*"
        aria-label="Footage of the clip"
        style={{ display: 'none' }}
        onChange={({ target }) => {
          const file = target.files?.[0];
          if (file) setSource(URL.createObjectURL(file));
        }}
      />
      <Row gap={8} wrap>
        <Button
          type="outline"
          title={source === null ? 'Open video file' : 'Choose another file'}
          onPress={() => input.current?.click()}
        />
        {source === null ? null : (
          <Button title="Use the current time" onPress={() => onTime(video.current?.currentTime ?? 0)} />
        )}
      </Row>
      {source === null ? (
        <Quiet>Stop the video at a flash, a clap or readable digits. The file stays on this device.</Quiet>
      ) : (
        <video
          ref={video}
          src={source}
          controls
          muted
          playsInline
          aria-label="Video of the clip"
          style={{ width: '100%', maxWidth: 560, maxHeight: 320, background: 'black' }}
          onLoadedMetadata={({ currentTarget }) => onLength(currentTarget.duration)}
        />
      )}
    </Stack>
  );
}
