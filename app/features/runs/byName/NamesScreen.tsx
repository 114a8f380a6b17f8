import { Button } from '@rneui/themed';
import { Link, useRouter } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { FlatList, Pressable } from 'react-native';
import { useKit } from '../../../api/queries';
import { count } from '../../../ui/figures';
import { usePalette, useWide } from '../../../ui/Look';
import { Row, Stack } from '../../../ui/parts';
import { PlaceHead } from '../../../ui/PlaceHead';
import { ResultsTabs } from '../../../ui/ResultsTabs';
import { Failed, Loading, Notice } from '../../../ui/states';
import { TARGET } from '../../../ui/theme';
import { Body, Quiet } from '../../../ui/words';
import { Search } from '../RunFilters';
import type { ByName } from './rowsOf';

/** From so many names on it pays to search. */
const MANY = 8;

/** All devices, or all titles, that have a run; each leads to its page. */
export function NamesScreen({ of }: { of: ByName }): ReactNode {
  const wide = useWide();
  const { line } = usePalette();
  const router = useRouter();
  const kit = useKit();
  const [typed, setTyped] = useState('');
  const known = ((of === 'device' ? kit.data?.devices : kit.data?.titles) ?? []).filter(
    ({ runs }) => runs > 0,
  );
  const shown = known
    .filter(({ name }) => name.toLowerCase().includes(typed.trim().toLowerCase()))
    .sort((a, b) => b.runs - a.runs || a.name.localeCompare(b.name));
  return (
    <FlatList
      data={shown}
      keyExtractor={({ id }) => id}
      keyboardShouldPersistTaps="handled"
      contentContainerStyle={{ padding: wide ? 24 : 14, maxWidth: 820, width: '100%' }}
      ListHeaderComponent={
        <Stack gap={10} style={{ marginBottom: 8 }}>
          <PlaceHead title="Results" />
          <ResultsTabs here={of === 'device' ? 'Devices' : 'Titles'} />
          {known.length >= MANY ? <Search of={of} value={typed} onChange={setTyped} /> : null}
        </Stack>
      }
      ListEmptyComponent={
        kit.isPending ? (
          <Loading rows={4} height={48} label={`Loading ${of}s`} />
        ) : kit.error ? (
          <Failed error={kit.error} retry={() => void kit.refetch()} />
        ) : (
          <Notice
            title={known.length === 0 ? `No ${of} with a run yet` : `No matching ${of}`}
            action={
              known.length === 0 ? (
                <Button title="Add a result" onPress={() => router.navigate('/bench')} />
              ) : (
                <Button title="Clear search" onPress={() => setTyped('')} />
              )
            }
          >
            {known.length === 0 ? `Each ${of} with a run has a page here.` : 'Try another name.'}
          </Notice>
        )
      }
      renderItem={({ item }) => (
        <Link href={`/${of}s/${encodeURIComponent(item.name)}`} asChild>
          <Pressable
            style={{
              minHeight: TARGET + 6,
              justifyContent: 'center',
              borderBottomWidth: 1,
              borderColor: line,
            }}
          >
            <Row apart align="center" gap={10}>
              <Body style={{ flex: 1 }}>{item.name}</Body>
              <Quiet>{count(item.runs, 'run')}</Quiet>
            </Row>
          </Pressable>
        </Link>
      )}
    />
  );
}
