import { ROUTES, type Claim } from '@pace-check/contract';
import { CLAIM_LEVELS, type ClaimLevel } from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { v4 as uuid } from 'uuid';
import { useDeleteClaim, useNoteOutcomes } from '../../api/outcomes';
import { Choices } from '../../ui/Choices';
import { count } from '../../ui/figures';
import { Row, Sheet, Stack } from '../../ui/parts';
import { NamePicker } from '../../ui/PickOrAdd';
import { IfMay } from '../../ui/Role';
import { useToast } from '../../ui/Toast';
import { Body, Quiet } from '../../ui/words';
import { today } from './today';

const LEVELS = CLAIM_LEVELS.map((value) => ({ value, text: value }));

/** What a list or a maker says: titles typed or pasted, a line each, at one level and from one source. */
export function NoteClaims({ claims, layers }: { claims: Claim[]; layers: string[] }): ReactNode {
  const [level, setLevel] = useState<ClaimLevel>('runs well');
  const [source, setSource] = useState('');
  const [layer, setLayer] = useState('');
  const [titles, setTitles] = useState('');
  const note = useNoteOutcomes();
  const remove = useDeleteClaim();
  const toast = useToast();
  const named = [
    ...new Set(
      titles
        .split('\n')
        .map((line) => line.trim())
        .filter((line) => line !== ''),
    ),
  ];
  const take = (): void =>
    note.mutate(
      {
        claims: named.map((title) => ({
          id: uuid(),
          title,
          with: layer.trim(),
          level,
          source: source.trim(),
          date: today(),
        })),
      },
      {
        onSuccess: () => {
          toast({ text: `${count(named.length, 'claim')} saved.` });
          setTitles('');
        },
        onError: (error) => toast({ text: `Not saved: ${error.message}` }),
      },
    );
  return (
    <Sheet gap={8} role="form" aria-label="Add claims">
      <Input
        label="Source of the claim"
        aria-label="Source of the claim"
        placeholder="the maker’s compatibility list, spring edition"
        value={source}
        onChangeText={setSource}
        maxLength={200}
        renderErrorMessage={false}
      />
      <NamePicker
        label="Emulator or layer (optional)"
        known={layers}
        what="emulator or layer"
        value={layer}
        onChange={setLayer}
      />
      <Choices label="Claimed status" options={LEVELS} selected={level} onSelect={setLevel} maxWidth={420} />
      <Input
        multiline
        label="Titles, one per line"
        aria-label="Titles of the claims"
        value={titles}
        onChangeText={setTitles}
        numberOfLines={6}
        inputStyle={{ paddingVertical: 8 }}
        renderErrorMessage={false}
      />
      <Row>
        <Button
          title={named.length === 0 ? 'Save' : `Save ${count(named.length, 'claim')}`}
          disabled={named.length === 0 || source.trim() === ''}
          loading={note.isPending}
          onPress={take}
        />
      </Row>
      {claims.length > 0 ? (
        <Stack role="list" aria-label="Claims" gap={2}>
          {claims.map(({ id, title, level: said, source: by }) => (
            <Row key={id} role="listitem" apart align="center" gap={8}>
              <Stack style={{ flexShrink: 1 }}>
                <Body small>{`${title}: ${said}`}</Body>
                <Quiet>{by}</Quiet>
              </Stack>
              <IfMay route={ROUTES.deleteClaim}>
                <Button
                  type="clear"
                  title="Remove"
                  aria-label={`Remove the claim for ${title}`}
                  onPress={() =>
                    remove.mutate(id, {
                      onError: (error) => toast({ text: `Not done: ${error.message}` }),
                    })
                  }
                />
              </IfMay>
            </Row>
          ))}
        </Stack>
      ) : null}
    </Sheet>
  );
}
