import { ROUTES, type Evidence as Picture, type RunDetail } from '@pace-check/contract';
import { atWholeSeconds, sayLine } from '@pace-check/core';
import { Button, Image, Overlay } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { Linking, Pressable, View } from 'react-native';
import { useDeletePicture } from '../../api/queries';
import { PictureInput } from '../../forms/PictureInput';
import { outbox, toRun, useOutbox, waitingFor } from '../../outbox';
import { dayAndTime } from '../../ui/figures';
import { usePalette, useWide } from '../../ui/Look';
import { IfMay, useMay } from '../../ui/Role';
import { Section } from '../../ui/Section';
import { Select } from '../../ui/Select';
import { useToast } from '../../ui/Toast';
import { useVoice } from '../../ui/Voice';
import { Body, Quiet } from '../../ui/words';
import { Row, Stack } from '../../ui/parts';

const SMALL = 104;

/** Pictures that show what was read: a thumbnail each, full on a tap. */
export function Evidence({ run }: { run: RunDetail }): ReactNode {
  const { line } = usePalette();
  const { waiting } = useOutbox();
  const [open, setOpen] = useState<Picture | null>(null);
  const [of, setOf] = useState<string | null>(null);
  const { unit } = useVoice();
  const may = useMay(ROUTES.runChanges);
  const lines = run.entries.filter(({ line }) => line.type !== 'span');
  const saidOf = (entryId: string | null): string | null => {
    const entry = run.entries.find((one) => one.id === entryId);
    return entry ? sayLine(atWholeSeconds(entry.line), unit) : null;
  };
  const own = waitingFor(waiting, 'run', run.id).filter((one) => one.change.kind === 'picture');
  return (
    <Section title="Photos and screenshots">
      <Row wrap gap={10} role="list" aria-label="Pictures">
        {run.evidence.map((picture, i) => (
          <Pressable
            key={picture.id}
            role="button"
            aria-label={`Picture ${i + 1}${picture.entryId ? ` of ${saidOf(picture.entryId) ?? 'an entry'}` : ''}: enlarge`}
            onPress={() => setOpen(picture)}
            style={{ borderWidth: 1, borderColor: line, borderRadius: 6, overflow: 'hidden' }}
          >
            <Image
              source={{ uri: `/api/runs/${run.id}/pictures/${picture.id}?size=small` }}
              style={{ width: SMALL, height: SMALL }}
              resizeMode="cover"
            />
            {picture.entryId ? (
              <Quiet numberOfLines={2} style={{ width: SMALL, fontSize: 13, padding: 3 }}>
                {saidOf(picture.entryId) ?? ''}
              </Quiet>
            ) : null}
          </Pressable>
        ))}
        {own.map((one) => (
          <View
            key={one.n}
            style={{
              width: SMALL,
              minHeight: SMALL,
              borderWidth: 1,
              borderStyle: 'dashed',
              borderColor: line,
              borderRadius: 6,
              padding: 6,
            }}
          >
            <Quiet>{one.refused ?? 'saved here, waiting to send'}</Quiet>
            {one.refused ? (
              <Button type="clear" title="Discard" onPress={() => void outbox.drop(one.n)} />
            ) : null}
          </View>
        ))}
      </Row>
      <Row gap={8} wrap align="center">
        <IfMay route={ROUTES.runChanges}>
          <PictureInput
            onPicture={(picture) =>
              outbox.add(toRun(run.id, { kind: 'picture', picture, entryId: of, note: '' }))
            }
          />
          {lines.length > 0 ? (
            <View style={{ minWidth: 200 }}>
              <Select
                label="What the picture shows"
                options={lines.map((entry) => ({
                  value: entry.id,
                  text: sayLine(atWholeSeconds(entry.line), unit),
                }))}
                value={of}
                onChange={setOf}
                none="the run"
              />
            </View>
          ) : null}
        </IfMay>
        {run.evidence.length > 0 ? (
          <Button
            type="clear"
            title="Export run and pictures (.zip)"
            onPress={() => void Linking.openURL(`/api/runs/${run.id}/bundle`)}
          />
        ) : null}
      </Row>
      {run.evidence.length > 0 ? null : may ? (
        <Quiet>
          Add a photo or screenshot of a reading: choose, drop or paste it. Location and camera data are
          removed.
        </Quiet>
      ) : (
        <Quiet>No pictures yet.</Quiet>
      )}
      {open ? <Large run={run} picture={open} onClose={() => setOpen(null)} /> : null}
    </Section>
  );
}

function Large({
  run,
  picture,
  onClose,
}: {
  run: RunDetail;
  picture: Picture;
  onClose: () => void;
}): ReactNode {
  const { sheet } = usePalette();
  const wide = useWide();
  const toast = useToast();
  const remove = useDeletePicture(run.id);
  const width = Math.min(picture.width, window.innerWidth - (wide ? 120 : 40));
  const height = Math.min((width / picture.width) * picture.height, window.innerHeight - 180);
  return (
    <Overlay
      isVisible
      onBackdropPress={onClose}
      overlayStyle={{ backgroundColor: sheet, padding: 10, borderRadius: 8 }}
    >
      <Stack gap={8}>
        <Image
          source={{ uri: `/api/runs/${run.id}/pictures/${picture.id}` }}
          accessibilityLabel={picture.note || `Picture of ${run.name}`}
          style={{ width, height }}
          resizeMode="contain"
        />
        {picture.note ? <Body>{picture.note}</Body> : null}
        <Row gap={8} align="center" apart>
          <Quiet>{`added ${dayAndTime(picture.addedAt)}`}</Quiet>
          <Row gap={8}>
            <IfMay route={ROUTES.deletePicture}>
              <Button
                type="clear"
                title="Remove picture"
                loading={remove.isPending}
                onPress={() =>
                  remove.mutate(picture.id, {
                    onSuccess: onClose,
                    onError: (error) => toast({ text: `Not removed: ${error.message}` }),
                  })
                }
              />
            </IfMay>
            <Button title="Close" aria-label="Close the picture" onPress={onClose} />
          </Row>
        </Row>
      </Stack>
    </Overlay>
  );
}
