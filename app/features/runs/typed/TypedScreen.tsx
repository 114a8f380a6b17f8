import { Choices } from '../../../ui/Choices';
import { useWide } from '../../../ui/Look';
import { useKept } from '../../../forms/useKept';
import { Heading } from '../../../ui/words';
import { Row } from '../../../ui/parts';
import type { ReactNode } from 'react';
import { ScrollView } from 'react-native';
import { NotesOfRun } from './NotesOfRun';
import { TableOfResults } from './TableOfResults';
import { NO_TABLE, readTable, withPasted } from './tableState';

const KINDS = ['notes', 'table'] as const;
type Kind = (typeof KINDS)[number];

/** Results that are typed or pasted: notes of one run, or a table of several. What is there survives a reload. */
export function TypedScreen(): ReactNode {
  const wide = useWide();
  const [kind, setKind] = useKept<Kind>(
    'kind',
    'notes',
    (stored) => KINDS.find((one) => one === stored) ?? null,
  );
  const [table, setTable, forgetTable] = useKept('table', NO_TABLE, readTable);
  return (
    <ScrollView
      keyboardShouldPersistTaps="handled"
      contentContainerStyle={{ padding: wide ? 24 : 14, gap: 14, maxWidth: 1240, width: '100%' }}
    >
      <Heading level={1}>Type or paste</Heading>
      <Row>
        <Choices
          label="What you have"
          options={[
            { value: 'notes', text: 'notes of one run' },
            { value: 'table', text: 'a table of several' },
          ]}
          selected={kind}
          onSelect={(chosen) => setKind(() => chosen)}
        />
      </Row>
      {kind === 'notes' ? (
        <NotesOfRun
          onTable={(text) => {
            setTable((now) => withPasted(now, text, 'add'));
            setKind(() => 'table');
          }}
        />
      ) : (
        <TableOfResults table={table} onTable={setTable} onKept={forgetTable} />
      )}
    </ScrollView>
  );
}
