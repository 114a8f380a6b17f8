import { Button, Skeleton } from '@rneui/themed';
import type { UseQueryResult } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { ApiFailure } from '../api/client';
import { usePalette } from './Look';
import { Guard } from './Guard';
import { Body, Heading } from './words';
import { Row, Sheet, Stack } from './parts';

/** A block that says how things stand and what to do next. */
export function Notice({
  title,
  children,
  action,
}: {
  title: string;
  children: ReactNode;
  action?: ReactNode;
}): ReactNode {
  usePalette();
  return (
    <Sheet padding={20} gap={10} style={{ maxWidth: 620 }}>
      <Heading>{title}</Heading>
      <Body>{children}</Body>
      {action ? <Row>{action}</Row> : null}
    </Sheet>
  );
}

/** Rows in grey while the real ones are on their way. */
export function Loading({ rows, height, label }: { rows: number; height: number; label: string }): ReactNode {
  const { track } = usePalette();
  return (
    <View aria-busy aria-label={label} role="status">
      {/* the bars have a label of their own, in another's words */}
      <Stack aria-hidden gap={10}>
        {Array.from({ length: rows }, (_, row) => (
          <Skeleton
            key={row}
            height={height}
            animation="none"
            style={{ backgroundColor: track, borderRadius: 8 }}
          />
        ))}
      </Stack>
    </View>
  );
}

const GONE = 404;

interface AnsweredProps<T> {
  query: UseQueryResult<T, Error>;
  loading: { rows: number; height: number; label: string };
  children: (answer: T) => ReactNode;
}

/** What was asked for, once it is there. A later attempt that fails takes nothing off the screen: something may have been typed there. */
export function Answered<T>({
  query: { data, error, refetch },
  loading,
  children,
}: AnsweredProps<T>): ReactNode {
  if (data !== undefined && !(error instanceof ApiFailure && error.status === GONE))
    return (
      <Guard what="This part">
        <Shown>{() => children(data)}</Shown>
      </Guard>
    );
  return error ? <Failed error={error} retry={() => void refetch()} /> : <Loading {...loading} />;
}

/** Drawn below the guard, so that what breaks in it is held there. */
const Shown = ({ children }: { children: () => ReactNode }): ReactNode => children();

/** Something was asked for and did not come: why, and the next thing to do. */
export function Failed({ error, retry }: { error: Error; retry: () => void }): ReactNode {
  const known = error instanceof ApiFailure ? error : null;
  return (
    <View role="alert">
      <Notice
        title={known?.offline ? 'Cannot reach the server' : 'Something went wrong'}
        action={<Button title="Try again" onPress={retry} />}
      >
        {known ? `${known.message} ${known.problem.remedy}` : error.message}
      </Notice>
    </View>
  );
}
