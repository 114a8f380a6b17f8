import { Button, Input, ListItem } from '@rneui/themed';
import { useId, useState, type ReactNode } from 'react';
import { Controller, type Control, type FieldPath, type FieldValues } from 'react-hook-form';
import { View, type TextInputKeyPressEvent } from 'react-native';
import { afterTap } from './afterTap';
import { usePalette } from './Look';
import { FONTS, TARGET } from './theme';

const SHOWN = 6;

const begins = (name: string, typed: string): boolean => name.toLowerCase().startsWith(typed);

/** Picks one of the names that are known, or takes a new one as it is typed. */
export function PickOrAdd<T extends FieldValues>({
  control,
  name,
  label,
  known,
  what,
  optional = false,
}: {
  control: Control<T>;
  name: FieldPath<T>;
  label: string;
  known: string[];
  what: string;
  optional?: boolean;
}): ReactNode {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => (
        <NamePicker
          label={label}
          known={known}
          what={what}
          value={field.value ?? ''}
          onChange={(text) => field.onChange(optional && text === '' ? null : text)}
          error={fieldState.error?.message}
        />
      )}
    />
  );
}

/** The same, for a value that no form holds. */
export function NamePicker({
  label,
  known,
  what,
  value,
  onChange,
  error,
  onPick,
}: {
  label: string;
  known: string[];
  what: string;
  value: string;
  onChange: (value: string) => void;
  error?: string | undefined;
  /** Takes a row that is tapped, or chosen by Enter, instead of `onChange`; only known names are offered then. */
  onPick?: (name: string) => void;
}): ReactNode {
  const { sheet, line, ink, action } = usePalette();
  const [open, setOpen] = useState(false);
  // the row that the arrow keys have come to
  const [active, setActive] = useState<number | null>(null);
  const id = useId();
  const typed = value.trim().toLowerCase();
  const longer = known
    .filter((one) => one.toLowerCase().includes(typed) && one.toLowerCase() !== typed)
    .sort((a, b) => Number(begins(b, typed)) - Number(begins(a, typed)));
  // one that is called just so comes before any that is called more
  const same = longer.length > 0 || onPick ? known.filter((one) => one.toLowerCase() === typed) : [];
  const matches = [...same, ...longer].slice(0, SHOWN);
  const isNew = !onPick && typed !== '' && !known.some((one) => one.toLowerCase() === typed);
  const take = (chosen: string): void => {
    (onPick ?? onChange)(chosen);
    setOpen(false);
    setActive(null);
  };
  const rows = [
    ...matches.map((one) => ({ text: one, name: one, color: ink })),
    ...(isNew ? [{ text: `Add “${value.trim()}”`, name: value.trim(), color: action }] : []),
  ];
  const shown = open && rows.length > 0;
  const onKey = (event: TextInputKeyPressEvent): void => {
    const { key } = event.nativeEvent;
    if (key === 'Escape') setOpen(false);
    else if (key === 'ArrowDown' || key === 'ArrowUp') {
      event.preventDefault();
      setOpen(true);
      const step = key === 'ArrowDown' ? 1 : -1;
      const from = active ?? (step > 0 ? -1 : 0);
      if (rows.length > 0) setActive((from + step + rows.length) % rows.length);
    } else if (key === 'Enter' && shown && active !== null && rows[active]) {
      event.preventDefault();
      take(rows[active].name);
    }
  };
  const row = ({ text, name, color }: (typeof rows)[number], i: number): ReactNode => (
    <ListItem
      key={text}
      id={`${id}-${i}`}
      role="option"
      aria-selected={i === active}
      tabIndex={-1}
      onPress={() => take(name)}
      containerStyle={{
        backgroundColor: i === active ? line : sheet,
        paddingVertical: 8,
        minHeight: TARGET,
      }}
    >
      <ListItem.Content>
        <ListItem.Title style={{ fontFamily: FONTS.text, fontSize: 16, color }}>{text}</ListItem.Title>
      </ListItem.Content>
    </ListItem>
  );
  return (
    <View>
      <Input
        label={label}
        aria-label={label}
        role="combobox"
        aria-expanded={shown}
        aria-autocomplete="list"
        {...(shown ? { 'aria-controls': `${id}-list` } : {})}
        {...(shown && active !== null ? { 'aria-activedescendant': `${id}-${active}` } : {})}
        onKeyPress={onKey}
        autoComplete="off"
        value={value}
        placeholder={`Choose ${/^[aeiou]/i.test(what) ? 'an' : 'a'} ${what}${onPick ? '' : ' or type a new one'}`}
        onChangeText={(text) => {
          onChange(text);
          setOpen(true);
          setActive(null);
        }}
        onFocus={() => setOpen(true)}
        // a tap on a row takes the focus first: let it arrive, and move nothing under a finger
        onBlur={() => afterTap(() => setOpen(false))}
        errorMessage={error}
        {...(value === ''
          ? {}
          : {
              rightIcon: <Button type="clear" title="✕" aria-label="Clear" onPress={() => take('')} />,
            })}
      />
      {shown ? (
        <View
          // the web's role, which React Native's types do not name
          role={'listbox' as 'list'}
          id={`${id}-list`}
          aria-label={`${label}: suggestions`}
          style={{
            borderWidth: 1,
            borderColor: line,
            borderRadius: 6,
            overflow: 'hidden',
            marginTop: -8,
            marginBottom: 12,
          }}
        >
          {rows.map(row)}
        </View>
      ) : null}
    </View>
  );
}
