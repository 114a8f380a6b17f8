import { NO_FILTER, RUN_ORDERS, type RunFilter, type RunOrder } from '@pace-check/contract';
import { STAMINA_WORDS, type StaminaWord } from '@pace-check/core';
import { Button, SearchBar } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { useKit } from '../../api/queries';
import { usePalette } from '../../ui/Look';
import { Select } from '../../ui/Select';
import { FONTS, TARGET } from '../../ui/theme';
import { Icon } from '../../ui/Icon';
import { Row, Stack } from '../../ui/parts';

const ORDER_WORDS: Record<RunOrder, string> = {
  latest: 'Newest first',
  name: 'Name A–Z',
  pace: 'Fastest first',
  warmth: 'Hottest first',
};

interface Props {
  filter: RunFilter;
  onChange: (change: Partial<RunFilter>) => void;
}

/** Which runs are shown, and in which order; out of the way until it is asked for. */
export function RunFilters({ filter, onChange, children }: Props & { children?: ReactNode }): ReactNode {
  const chosen = [filter.device, filter.title, filter.stamina].filter((one) => one !== null).length;
  const [open, setOpen] = useState(false);
  return (
    <Stack gap={8} style={{ marginVertical: -8 }}>
      <Row wrap style={{ columnGap: 18 }}>
        <Button
          type="clear"
          title={`Filter${chosen > 0 || filter.sort !== NO_FILTER.sort ? ` · ${says(filter)}` : ''}`}
          aria-label="Filter and sort"
          aria-expanded={open}
          onPress={() => setOpen(!open)}
          buttonStyle={{ paddingHorizontal: 0 }}
        />
        {children}
      </Row>
      {open ? <Fields filter={filter} onChange={onChange} /> : null}
    </Stack>
  );
}

const says = ({ device, title, stamina, sort }: RunFilter): string =>
  [device, title, stamina, sort === NO_FILTER.sort ? null : ORDER_WORDS[sort].toLowerCase()]
    .filter(Boolean)
    .join(', ');

function Fields({ filter, onChange }: Props): ReactNode {
  const kit = useKit().data;
  const played = (records: { name: string; runs: number }[] = []): { value: string; text: string }[] =>
    records.flatMap(({ name, runs }) => (runs > 0 ? [{ value: name, text: name }] : []));
  return (
    <Row gap={10} wrap>
      <Select
        label="Device"
        none="Any device"
        options={played(kit?.devices)}
        value={filter.device}
        onChange={(device) => onChange({ device })}
      />
      <Select
        label="Title"
        none="Any title"
        options={played(kit?.titles)}
        value={filter.title}
        onChange={(title) => onChange({ title })}
      />
      <Select<StaminaWord>
        label="Stamina"
        none="Any stamina"
        options={STAMINA_WORDS.map((value) => ({ value, text: value }))}
        value={filter.stamina}
        onChange={(stamina) => onChange({ stamina })}
      />
      <Select<RunOrder>
        label="Sort by"
        options={RUN_ORDERS.map((value) => ({ value, text: ORDER_WORDS[value] }))}
        value={filter.sort}
        onChange={(sort) => onChange({ sort: sort ?? NO_FILTER.sort })}
      />
    </Row>
  );
}

/** Where the field is found by the key that leads to it. */
export const SEARCH_ID = 'search';

/** @param of what is searched for, by its name */
export function Search({
  of = 'run',
  value,
  onChange,
}: {
  of?: 'run' | 'device' | 'title';
  value: string;
  onChange: (value: string) => void;
}): ReactNode {
  const { sheet, quiet, ink } = usePalette();
  return (
    <SearchBar
      value={value}
      onChangeText={onChange}
      id={SEARCH_ID}
      placeholder={of === 'run' ? 'Search device or title' : `Search ${of}s`}
      aria-label={of === 'run' ? 'Search runs by device or title' : `Search ${of}s`}
      searchIcon={<Icon name="search" size={18} color={quiet} />}
      clearIcon={
        value === '' ? (
          <View />
        ) : (
          <Button
            type="clear"
            title="×"
            aria-label="Clear search"
            onPress={() => onChange('')}
            buttonStyle={{ minWidth: TARGET, paddingHorizontal: 0 }}
          />
        )
      }
      containerStyle={{
        backgroundColor: 'transparent',
        borderTopWidth: 0,
        borderBottomWidth: 0,
        padding: 0,
        flex: 1,
        maxWidth: 360,
      }}
      inputContainerStyle={{
        backgroundColor: sheet,
        borderWidth: 1,
        borderBottomWidth: 1,
        borderColor: quiet,
        borderRadius: 6,
        height: TARGET,
      }}
      inputStyle={{
        fontFamily: FONTS.text,
        fontSize: 16,
        color: ink,
        minHeight: TARGET - 4,
        paddingHorizontal: 6,
      }}
      placeholderTextColor={quiet}
    />
  );
}
