import type { LadderSummary } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { Link } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { Pressable, ScrollView } from 'react-native';
import { useLadders } from '../../api/ladders';
import { BackTo } from '../../ui/BackTo';
import { count, day } from '../../ui/figures';
import { usePalette, useWide } from '../../ui/Look';
import { Row, Stack } from '../../ui/parts';
import { Answered, Notice } from '../../ui/states';
import { Heading, Quiet } from '../../ui/words';
import { NewLadder } from './NewLadder';

/** Searches for the highest setting that holds, and a new one. */
export function LaddersScreen(): ReactNode {
  const wide = useWide();
  const ladders = useLadders();
  const [making, setMaking] = useState(false);
  return (
    <ScrollView
      keyboardShouldPersistTaps="handled"
      contentContainerStyle={{ padding: wide ? 24 : 14, gap: 14, maxWidth: 820, width: '100%' }}
    >
      <BackTo href="/" title="Runs" />
      <Row apart align="center" style={{ marginTop: -10 }}>
        <Heading level={1}>Ladders</Heading>
        <Button
          title={making ? 'Close' : 'New ladder'}
          type={making ? 'clear' : 'solid'}
          onPress={() => setMaking(!making)}
        />
      </Row>
      {making ? <NewLadder /> : null}
      <Answered query={ladders} loading={{ rows: 3, height: 70, label: 'Loading the ladders' }}>
        {(all) =>
          all.length === 0 && !making ? (
            <Notice
              title="No ladder yet"
              action={<Button title="New ladder" onPress={() => setMaking(true)} />}
            >
              A ladder finds the highest setting that still holds full speed (a resolution, a tier, a cap, or
              the lowest power limit), and says which rung to try next.
            </Notice>
          ) : (
            <Stack gap={8} role="list" aria-label="Ladders">
              {all.map((ladder) => (
                <Stack key={ladder.id} role="listitem">
                  <LadderCard ladder={ladder} />
                </Stack>
              ))}
            </Stack>
          )
        }
      </Answered>
    </ScrollView>
  );
}

function LadderCard({ ladder }: { ladder: LadderSummary }): ReactNode {
  const { sheet, line } = usePalette();
  const { title, device, axis, scene, probes, changedAt } = ladder;
  return (
    <Link href={`/ladders/${ladder.id}`} asChild>
      <Pressable
        style={{
          backgroundColor: sheet,
          borderWidth: 1,
          borderColor: line,
          borderRadius: 8,
          padding: 12,
          gap: 2,
        }}
      >
        <Heading level={2} style={{ fontSize: 19 }}>
          {`${title} on ${device}`}
        </Heading>
        <Quiet>
          {[axis, scene || null, count(probes, 'probe'), day(changedAt)].filter(Boolean).join(' · ')}
        </Quiet>
        <Quiet>{standing(ladder)}</Quiet>
      </Pressable>
    </Link>
  );
}

function standing({ probes, best, sure, ended, confirmed }: LadderSummary): string {
  if (probes === 0) return 'not begun';
  const what = best === null ? 'none holds' : `${best} holds`;
  const how = `${Math.round(sure * 100)} % sure`;
  if (!ended) return `in the middle: ${what}, ${how}`;
  if (best === null) return `${what}, ${how}`;
  return `${what}, ${how}${confirmed ? ', confirmed by a sustained run' : ', not confirmed yet'}`;
}
