import { ROUTES } from '@pace-check/contract';
import { IfMay } from '../../ui/Role';
import { arrange } from '@pace-check/core';
import { Button } from '@rneui/themed';
import { useRouter } from 'expo-router';
import type { ReactNode } from 'react';
import { v4 as uuid } from 'uuid';
import { useNewComparison } from '../../api/compare';
import { useJoinRuns } from '../../api/queries';
import { count } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { Row, Stack } from '../../ui/parts';
import { useToast } from '../../ui/Toast';
import { Body, Quiet } from '../../ui/words';
import { stopChoosing, type ChosenRun } from './chosen';

const KINDS = {
  pair: 'a pair',
  'before-after': 'before and after',
  field: 'several devices, one title',
  matrix: 'several titles, several devices',
};

/** While runs are being chosen: how many, what they make, and the way on. */
export function ChooseBar({ chosen }: { chosen: ChosenRun[] }): ReactNode {
  const { sheet, line } = usePalette();
  const router = useRouter();
  const toast = useToast();
  const create = useNewComparison();
  const join = useJoinRuns();
  const arrangement = arrange(chosen);
  // of one device, and each began at a time of its own
  const joinable =
    chosen.length > 1 &&
    new Set(chosen.map((run) => run.device)).size === 1 &&
    chosen.every((run) => run.startedAt !== null);
  const joinThem = (): void =>
    join.mutate(
      { runs: chosen.map((run) => run.id) },
      {
        onSuccess: ({ id }) => {
          stopChoosing();
          router.navigate(`/runs/${id}/sitting`);
          toast({
            text: `${count(chosen.length, 'run')} joined into one session. You can split the session again on its page.`,
          });
        },
        onError: (error) => toast({ text: `Not joined: ${error.message}` }),
      },
    );
  const compare = (): void => {
    if (!arrangement) return;
    create.mutate(
      { id: uuid(), kind: arrangement.kind, sides: arrangement.sides.map((runs) => ({ runs })) },
      {
        onSuccess: ({ id }) => {
          stopChoosing();
          router.navigate(`/compare/${id}`);
        },
        onError: (error) => toast({ text: `Could not compare: ${error.message}` }),
      },
    );
  };
  return (
    <Row
      role="region"
      aria-label="Select runs to compare"
      apart
      align="center"
      gap={8}
      style={{
        backgroundColor: sheet,
        borderTopWidth: 1,
        borderColor: line,
        paddingHorizontal: 14,
        paddingVertical: 8,
      }}
    >
      <Stack flex={1} role="status">
        <Body head>
          {chosen.length === 0 ? 'Tap the runs to compare.' : `${count(chosen.length, 'run')} selected`}
        </Body>
        <Quiet>
          {arrangement
            ? KINDS[arrangement.kind]
            : chosen.length > 1
              ? 'No more than 12 devices at once.'
              : 'Select at least two runs.'}
        </Quiet>
      </Stack>
      <Button type="clear" title="Cancel" onPress={stopChoosing} />
      {joinable ? (
        <IfMay route={ROUTES.joinRuns}>
          <Button
            type="outline"
            title="Join"
            aria-label="Join into one session"
            loading={join.isPending}
            onPress={joinThem}
          />
        </IfMay>
      ) : null}
      <Button title="Compare" disabled={!arrangement} loading={create.isPending} onPress={compare} />
    </Row>
  );
}
