import { LinearProgress } from '@rneui/themed';
import type { ReactNode } from 'react';
import { useFiguresState } from '../../api/figuresState';
import { count } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { Stack } from '../../ui/parts';
import { Answered } from '../../ui/states';
import { Body, Quiet } from '../../ui/words';

/** Whether all runs have the figures of this version of the method, and how far those are that are computed anew. */
export function FiguresState(): ReactNode {
  const state = useFiguresState();
  const { action, track } = usePalette();
  return (
    <Answered query={state} loading={{ rows: 1, height: 30, label: 'Loading how far the figures are' }}>
      {({ methodVersion, runs, stale }) =>
        stale === 0 ? (
          <Body>{`${count(runs, 'run')}, all with the figures of version ${methodVersion} of the method.`}</Body>
        ) : (
          <Stack gap={6} role="status" aria-label="Figures being computed anew">
            <Body>{`${(runs - stale).toLocaleString('en-GB')} of ${count(runs, 'run')} have the figures of version ${methodVersion} of the method.`}</Body>
            <LinearProgress
              aria-label="How far the figures are"
              value={(runs - stale) / runs}
              animation={false}
              color={action}
              trackColor={track}
            />
            <Quiet>
              The rest follows in the background, one run after the other, and goes on after a restart. A run
              that is opened has its own at once.
            </Quiet>
          </Stack>
        )
      }
    </Answered>
  );
}
