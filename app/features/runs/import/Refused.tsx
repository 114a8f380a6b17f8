import type { UnreadableRow } from '@pace-check/core';
import type { ReactNode } from 'react';
import { usePalette } from '../../../ui/Look';
import { Body, FigureText, Heading, Quiet } from '../../../ui/words';
import { Row, Stack } from '../../../ui/parts';

const SHOWN = 8;

/** Why a file is not taken: what, where, and what to do. */
export function Refused({
  title,
  message,
  remedy,
  rows = [],
  children,
}: {
  title: string;
  message: string;
  remedy: string;
  rows?: UnreadableRow[] | undefined;
  children?: ReactNode;
}): ReactNode {
  const { action, sheet } = usePalette();
  return (
    <Stack
      role="alert"
      gap={8}
      padding={16}
      style={{ backgroundColor: sheet, borderLeftWidth: 4, borderColor: action, borderRadius: 6 }}
    >
      <Heading level={3}>{title}</Heading>
      <Body>{message}</Body>
      <Body>{remedy}</Body>
      <Rows rows={rows} />
      {children}
    </Stack>
  );
}

/** Rows of the file that cannot be read. */
export function Rows({ rows }: { rows: UnreadableRow[] }): ReactNode {
  return (
    <>
      {rows.slice(0, SHOWN).map((row) => (
        <Row key={`${row.line} ${row.reason}`} gap={10}>
          <FigureText size={16} style={{ minWidth: 76 }}>{`line ${row.line}`}</FigureText>
          <Quiet style={{ flex: 1 }}>{row.reason}</Quiet>
        </Row>
      ))}
      {rows.length > SHOWN ? (
        <Quiet>{`and ${rows.length - SHOWN} more rows with similar errors.`}</Quiet>
      ) : null}
    </>
  );
}
