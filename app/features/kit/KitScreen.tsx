import { ROUTES, batteryWhOf, type Kit, type KitKind, type NamedItem } from '@pace-check/contract';
import { Button, Input } from '@rneui/themed';
import { Link, useRouter } from 'expo-router';
import { useMemo, useState, type ReactNode } from 'react';
import { FlatList, Pressable, View } from 'react-native';
import { useAddRecord, useKit } from '../../api/queries';
import { Choices } from '../../ui/Choices';
import { count } from '../../ui/figures';
import { usePalette, useWide } from '../../ui/Look';
import { Failed, Loading, Notice } from '../../ui/states';
import { FONTS, TARGET } from '../../ui/theme';
import { useToast } from '../../ui/Toast';
import { Body, Quiet } from '../../ui/words';
import { KitFiles } from './KitFiles';
import { KIND_WORDS } from './fields';
import { Icon } from '../../ui/Icon';
import { useMay } from '../../ui/Role';
import { PlaceHead } from '../../ui/PlaceHead';
import { Row, Stack } from '../../ui/parts';

type Shelf = Exclude<KitKind, 'setup'>;
const SHELVES: { value: Shelf; text: string }[] = [
  { value: 'device', text: 'Devices' },
  { value: 'title', text: 'Titles' },
  { value: 'accessory', text: 'Accessories' },
  { value: 'instrument', text: 'Instruments' },
];
const ONE: Record<Shelf, string> = {
  device: 'device',
  title: 'title',
  accessory: 'accessory',
  instrument: 'instrument',
};

interface Row extends NamedItem {
  says: string;
  lacks: string | null;
}

/** Everything that runs are made of, to be found or added by typing its name. */
export function KitScreen(): ReactNode {
  const kit = useKit();
  const wide = useWide();
  const [shelf, setShelf] = useState<Shelf>('device');
  const [typed, setTyped] = useState('');
  const [files, setFiles] = useState(false);
  const rows = useMemo(() => (kit.data ? rowsOf(kit.data, shelf) : []), [kit.data, shelf]);
  const shown = useMemo(() => found(rows, typed), [rows, typed]);
  return (
    <FlatList
      data={shown}
      initialNumToRender={24}
      keyboardShouldPersistTaps="handled"
      keyExtractor={(row) => row.id}
      contentContainerStyle={{ padding: wide ? 24 : 14, maxWidth: 900, width: '100%' }}
      ListHeaderComponent={
        <Stack gap={12} style={{ marginBottom: 8 }}>
          <PlaceHead title="Kit">
            <Button
              type="clear"
              title="Import and export"
              aria-label="Import or export the kit"
              aria-expanded={files}
              onPress={() => setFiles(!files)}
            />
          </PlaceHead>
          {files ? <KitFiles shelf={shelf} /> : null}
          <Choices
            label="Type of record"
            options={SHELVES}
            selected={shelf}
            onSelect={setShelf}
            maxWidth={560}
          />
          <FindOrAdd shelf={shelf} typed={typed} onTyped={setTyped} rows={rows} />
        </Stack>
      }
      renderItem={({ item }) => <KitRow row={item} shelf={shelf} />}
      ListEmptyComponent={<Nothing kit={kit} shelf={shelf} typed={typed} />}
    />
  );
}

/** Rows whose words all begin or hold what was typed; those whose name begins with it first. */
export function found<T extends { name: string; says: string }>(rows: T[], typed: string): T[] {
  const words = typed.trim().toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return rows;
  const rank = (row: T): number => (row.name.toLowerCase().startsWith(words[0]!) ? 0 : 1);
  return rows
    .filter((row) => words.every((word) => `${row.name} ${row.says}`.toLowerCase().includes(word)))
    .sort((a, b) => rank(a) - rank(b));
}

function FindOrAdd({
  shelf,
  typed,
  onTyped,
  rows,
}: {
  shelf: Shelf;
  typed: string;
  onTyped: (typed: string) => void;
  rows: Row[];
}): ReactNode {
  const add = useAddRecord();
  const toast = useToast();
  const router = useRouter();
  const name = typed.trim();
  const may = useMay(ROUTES.addRecord);
  const asks = `Search by name${may ? ', or add one by name' : ''}`;
  const isNew = may && name !== '' && !rows.some((row) => row.name.toLowerCase() === name.toLowerCase());
  const onAdd = (): void =>
    add.mutate(
      { kind: shelf, record: { name, facts: {} } },
      {
        onSuccess: ({ id }) => {
          onTyped('');
          router.navigate(`/kit/${shelf}/${id}`);
        },
        onError: (error) => toast({ text: `“${name}” not added: ${error.message}` }),
      },
    );
  return (
    <View>
      <Input
        aria-label={asks}
        placeholder={asks}
        value={typed}
        onChangeText={onTyped}
        onSubmitEditing={() => isNew && onAdd()}
        renderErrorMessage={false}
      />
      {isNew ? (
        <Row style={{ marginTop: 8 }}>
          <Button title={`Add “${name}”`} loading={add.isPending} onPress={onAdd} />
        </Row>
      ) : null}
    </View>
  );
}

function KitRow({ row, shelf }: { row: Row; shelf: Shelf }): ReactNode {
  const { line, quiet } = usePalette();
  return (
    <Link href={`/kit/${shelf}/${row.id}`} asChild>
      <Pressable
        style={{
          borderTopWidth: 1,
          borderColor: line,
          minHeight: TARGET + 12,
          paddingVertical: 8,
          flexDirection: 'row',
          alignItems: 'center',
          gap: 10,
        }}
      >
        <Stack flex={1}>
          <Body style={{ fontFamily: FONTS.head, fontSize: 18 }}>{row.name}</Body>
          <Quiet>{[row.says, row.lacks].filter(Boolean).join(' · ') || 'name only'}</Quiet>
        </Stack>
        <Icon name="next" size={18} color={quiet} />
      </Pressable>
    </Link>
  );
}

function Nothing({
  kit,
  shelf,
  typed,
}: {
  kit: ReturnType<typeof useKit>;
  shelf: Shelf;
  typed: string;
}): ReactNode {
  if (kit.isPending) return <Loading rows={5} height={52} label="Loading devices and titles" />;
  if (kit.error) return <Failed error={kit.error} retry={() => void kit.refetch()} />;
  if (typed !== '') return <Quiet>{`No ${ONE[shelf]} found.`}</Quiet>;
  return (
    <Notice title={`No ${ONE[shelf]} yet`}>
      Type a name above to add one. You can fill in the rest later.
    </Notice>
  );
}

const joined = (...parts: (string | number | null | undefined | false)[]): string =>
  parts.filter(Boolean).join(', ');
const word = (value: string | undefined): string | undefined => value && (KIND_WORDS[value] ?? value);

function rowsOf(kit: Kit, shelf: Shelf): Row[] {
  switch (shelf) {
    case 'device':
      return kit.devices.map(({ id, name, facts, runs }) => {
        const wh = batteryWhOf(facts);
        return {
          id,
          name,
          says: joined(
            word(facts.kind),
            facts.chip,
            wh !== null && `${wh.toFixed(1)} Wh`,
            runs > 0 && count(runs, 'run'),
          ),
          lacks: facts.kind === undefined ? 'kind unknown' : wh === null ? 'battery unknown' : null,
        };
      });
    case 'title':
      return kit.titles.map(({ id, name, facts, runs }) => ({
        id,
        name,
        says: joined(
          facts.kind,
          facts.demand,
          facts.system,
          facts.nativeFps && `native ${facts.nativeFps}`,
          count(kit.setups.filter((setup) => setup.titleId === id).length, 'setup'),
          runs > 0 && count(runs, 'run'),
        ),
        lacks: facts.demand === undefined ? 'demand not set' : null,
      }));
    case 'accessory':
      return kit.accessories.map(({ id, name, facts }) => ({
        id,
        name,
        says: joined(
          facts.kind,
          facts.contactSpot && `on ${facts.contactSpot}`,
          facts.watts && `${facts.watts} W`,
          facts.fits && `fits ${facts.fits.join(', ')}`,
        ),
        lacks: null,
      }));
    case 'instrument':
      return kit.instruments.map(({ id, name, facts }) => ({
        id,
        name,
        says: joined(word(facts.kind), facts.emissivity && `emissivity ${facts.emissivity}`),
        lacks: null,
      }));
  }
}
