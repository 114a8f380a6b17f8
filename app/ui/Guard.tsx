import { Button } from '@rneui/themed';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { ErrorBoundary, type FallbackProps } from 'react-error-boundary';
import { Row, Sheet } from './parts';
import { Body, Heading, Quiet } from './words';

/**
 * Holds what breaks while it is drawn: one record that cannot be read takes
 * down its own part of a page, says so, and nothing else.
 */
export function Guard({
  children,
  what,
  again,
}: {
  children: ReactNode;
  what: string;
  /** Where this is another, what broke is tried again: another page, say. */
  again?: string;
}): ReactNode {
  return (
    <ErrorBoundary
      resetKeys={[again]}
      fallbackRender={(broken) => <Broken {...broken} what={what} />}
      onError={(error) => console.error(error)}
    >
      {children}
    </ErrorBoundary>
  );
}

/** Leaves by a whole new page: what broke may be what leads through this one. */
function Broken({ error, resetErrorBoundary, what }: FallbackProps & { what: string }): ReactNode {
  return (
    <View role="alert">
      <Sheet padding={20} gap={10} style={{ maxWidth: 620 }}>
        <Heading>{`${what} cannot be shown`}</Heading>
        <Body>
          A record in it cannot be read. The rest works, and nothing is lost. If trying again does not help,
          look in the settings: they list the records that cannot be read.
        </Body>
        <Quiet>{`For whoever looks after the server: ${error instanceof Error ? error.message : String(error)}`}</Quiet>
        <Row gap={8} wrap>
          <Button title="Try again" onPress={resetErrorBoundary} />
          <Button type="clear" title="Open settings" onPress={() => window.location.assign('/settings')} />
        </Row>
      </Sheet>
    </View>
  );
}
