import type { Against as Suggestion, RunDetail } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { useRouter } from 'expo-router';
import type { ReactNode } from 'react';
import { v4 as uuid } from 'uuid';
import { useAgainst, useNewComparison } from '../../api/compare';
import { count } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { Row, Sheet, Stack } from '../../ui/parts';
import { Answered } from '../../ui/states';
import { useToast } from '../../ui/Toast';
import { Body, Heading, Quiet } from '../../ui/words';
import { startChoosing } from './chosen';

/** What this run may be set against, the likeliest first. */
export function Against({ run }: { run: RunDetail }): ReactNode {
  const suggestions = useAgainst(run.id);
  const router = useRouter();
  const toast = useToast();
  const create = useNewComparison();
  const compare = ({ why, runs }: Suggestion): void =>
    create.mutate(
      {
        id: uuid(),
        kind: why === 'with and without' || why === 'another setup' ? 'before-after' : 'pair',
        sides: [{ runs: [run.id] }, { runs: runs.map((other) => other.id) }],
      },
      {
        onSuccess: ({ id }) => router.navigate(`/compare/${id}`),
        onError: (error) => toast({ text: `Could not compare: ${error.message}` }),
      },
    );
  const others = (): void => {
    startChoosing(run);
    router.navigate('/');
  };
  return (
    <Sheet gap={8} role="region" aria-label="Compare with">
      <Heading>Compare with</Heading>
      <Answered query={suggestions} loading={{ rows: 2, height: 48, label: 'Looking for runs' }}>
        {(found) => (
          <>
            {found.map((suggestion) => (
              <Choice
                key={suggestion.why + suggestion.says}
                suggestion={suggestion}
                disabled={create.isPending}
                onPress={() => compare(suggestion)}
              />
            ))}
            {found.length === 0 ? <Body>No other run of this title yet.</Body> : null}
          </>
        )}
      </Answered>
      <Row>
        <Button type="outline" title="Choose other runs" onPress={others} />
      </Row>
    </Sheet>
  );
}

function Choice({
  suggestion: { why, says, runs },
  disabled,
  onPress,
}: {
  suggestion: Suggestion;
  disabled: boolean;
  onPress: () => void;
}): ReactNode {
  const { line } = usePalette();
  return (
    <Row apart align="center" gap={8} style={{ borderTopWidth: 1, borderColor: line, paddingTop: 6 }}>
      <Stack flex={1}>
        <Body>{says}</Body>
        <Quiet>{[why, count(runs.length, 'run')].join(' · ')}</Quiet>
      </Stack>
      <Button
        type="outline"
        title="Compare"
        aria-label={`Compare with ${says}`}
        disabled={disabled}
        onPress={onPress}
      />
    </Row>
  );
}
