import { Input, ListItem } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { Controller, type Control, type FieldPath, type FieldValues } from 'react-hook-form';
import { View } from 'react-native';
import { usePalette } from './Look';
import { FONTS, TARGET } from './theme';

const SHOWN = 6;

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
}: {
  label: string;
  known: string[];
  what: string;
  value: string;
  onChange: (value: string) => void;
  error?: string | undefined;
}): ReactNode {
  const { sheet, line, ink, action } = usePalette();
  const [open, setOpen] = useState(false);
  const typed = value.trim().toLowerCase();
  const matches = known
    .filter((one) => one.toLowerCase().includes(typed) && one.toLowerCase() !== typed)
    .slice(0, SHOWN);
  const isNew = typed !== '' && !known.some((one) => one.toLowerCase() === typed);
  const take = (chosen: string): void => {
    onChange(chosen);
    setOpen(false);
  };
  const row = (text: string, color: string, onPress: () => void): ReactNode => (
    <ListItem
      key={text}
      onPress={onPress}
      containerStyle={{ backgroundColor: sheet, paddingVertical: 8, minHeight: TARGET }}
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
        aria-expanded={open}
        autoComplete="off"
        value={value}
        placeholder={`Choose a ${what} or type a new one`}
        onChangeText={(text) => {
          onChange(text);
          setOpen(true);
        }}
        onFocus={() => setOpen(true)}
        // a tap on a row takes the focus first: let it arrive
        onBlur={() => setTimeout(() => setOpen(false), 200)}
        errorMessage={error}
      />
      {open && (matches.length > 0 || isNew) ? (
        <View
          role="list"
          aria-label={`${label}: known names`}
          style={{
            borderWidth: 1,
            borderColor: line,
            borderRadius: 6,
            overflow: 'hidden',
            marginTop: -8,
            marginBottom: 12,
          }}
        >
          {matches.map((one) => row(one, ink, () => take(one)))}
          {isNew ? row(`Add “${value.trim()}”`, action, () => take(value.trim())) : null}
        </View>
      ) : null}
    </View>
  );
}
