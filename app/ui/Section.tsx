import type { ReactNode } from 'react';
import { usePalette } from './Look';
import { Guard } from './Guard';
import { Heading } from './words';
import { Row, Stack } from './parts';

/** A part of the run's page. */
export function Section({
  title,
  children,
  aside,
}: {
  title: string;
  children: ReactNode;
  aside?: ReactNode;
}): ReactNode {
  const { line } = usePalette();
  return (
    <Stack gap={8} style={{ borderTopWidth: 1, borderColor: line, paddingTop: 12 }}>
      <Row gap={12} align="center" apart>
        <Heading>{title}</Heading>
        {aside}
      </Row>
      <Guard what={title}>{children}</Guard>
    </Stack>
  );
}
