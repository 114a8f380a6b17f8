import { Button, Input } from '@rneui/themed';
import type { ReactNode } from 'react';
import { useKit } from '../../api/queries';
import { Row, Stack } from '../../ui/parts';
import { linesOf } from './SearchOf';

/** Names of a list that are not among others, whatever their case; each once. */
export function newNames(names: readonly string[], taken: readonly string[]): string[] {
  const seen = new Set(taken.map((name) => name.trim().toLowerCase()));
  return names.filter((name) => {
    const key = name.trim().toLowerCase();
    if (key === '' || seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}

/** More titles for the same rungs, one a line; those of the kit's system by one tap. */
export function OtherTitles({
  taken,
  system,
  value,
  onChange,
}: {
  /** Titles that are there already. */
  taken: readonly string[];
  /** System whose titles are offered; undefined for none. */
  system: string | undefined;
  value: string;
  onChange: (text: string) => void;
}): ReactNode {
  const titles = useKit().data?.titles ?? [];
  const own = system === undefined ? [] : titles.filter((one) => one.facts.system === system);
  const offered = newNames(
    own.map((one) => one.name),
    [...taken, ...linesOf(value)],
  );
  return (
    <Stack gap={4}>
      <Input
        multiline
        label="More titles on the same ladder, one per line"
        aria-label="More titles"
        value={value}
        onChangeText={onChange}
        numberOfLines={Math.min(10, value.split('\n').length + 1)}
        inputStyle={{ paddingVertical: 8 }}
        renderErrorMessage={false}
      />
      {offered.length > 0 ? (
        <Row>
          <Button
            type="clear"
            title={`All of ${system} in the kit: ${offered.length} more`}
            onPress={() => onChange([...linesOf(value), ...offered].join('\n'))}
          />
        </Row>
      ) : null}
    </Stack>
  );
}
