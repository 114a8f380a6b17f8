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
    <Answered query={state} loading={{ rows: 1, height: 30, label: 'Loading calculation status' }}>
      {({ methodVersion, runs, stale }) =>
        stale === 0 ? (
          <Body>{`${count(runs, 'run')}, all calculated with method version ${methodVersion}.`}</Body>
        ) : (
          <Stack gap={6} role="status" aria-label="Recalculating figures">
            <Body>{`${(runs - stale).toLocaleString('en-GB')} of ${count(runs, 'run')} calculated with method version ${methodVersion}.`}</Body>
            <LinearProgress
              aria-label="Recalculation progress"
              value={(runs - stale) / runs}
              animation={false}
              color={action}
              trackColor={track}
            />
            <Quiet>
              The other runs are recalculated in the background, also after a restart. Open a run to
              recalculate it first.
            </Quiet>
          </Stack>
        )
      }
    </Answered>
  );
}
