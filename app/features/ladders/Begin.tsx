import { Button } from '@rneui/themed';
import { useRouter } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { v4 as uuid } from 'uuid';
import type * as z from 'zod';
import { Row } from '../../ui/parts';
import { Body } from '../../ui/words';

/** How a search is made at the server. */
interface Create<D> {
  isPending: boolean;
  mutate: (
    input: { id: string; doc: D },
    told: { onSuccess: () => void; onError: (error: Error) => void },
  ) => void;
}

/** Begins a search: what was typed is checked first, and what is wrong with it stands above the button. */
export function Begin<S extends z.ZodType>({
  schema,
  written,
  create,
  leadTo,
  disabled,
}: {
  schema: S;
  /** The search as it was typed. */
  written: () => unknown;
  create: Create<z.output<S>>;
  leadTo: (id: string) => `/ladders/${string}` | `/ladders/titles/${string}` | `/choices/${string}`;
  disabled: boolean;
}): ReactNode {
  const router = useRouter();
  // sent twice it is made once
  const [id] = useState(() => uuid());
  const [problem, setProblem] = useState<string | null>(null);
  const begin = (): void => {
    const read = schema.safeParse(written());
    if (!read.success) {
      const [issue] = read.error.issues;
      setProblem(`${issue!.path.join(' ')}: ${issue!.message}`);
      return;
    }
    create.mutate(
      { id, doc: read.data },
      {
        onSuccess: () => router.navigate(leadTo(id)),
        onError: (error) => setProblem(error.message),
      },
    );
  };
  return (
    <>
      {problem ? (
        <Body role="alert" small>
          {problem}
        </Body>
      ) : null}
      <Row>
        <Button title="Start" loading={create.isPending} disabled={disabled} onPress={begin} />
      </Row>
    </>
  );
}
