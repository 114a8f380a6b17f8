import type { ComparisonSummary } from '@pace-check/contract';
import type { ComparisonKind } from '@pace-check/core';
import { Button } from '@rneui/themed';
import { Link, useRouter } from 'expo-router';
import type { ReactNode } from 'react';
import { Pressable, ScrollView } from 'react-native';
import { useComparisons } from '../../api/compare';
import { count, day } from '../../ui/figures';
import { usePalette, useWide } from '../../ui/Look';
import { Stack } from '../../ui/parts';
import { CompareDevices } from './CompareDevices';
import { PlaceHead } from '../../ui/PlaceHead';
import { Answered, Notice } from '../../ui/states';
import { Heading, Quiet } from '../../ui/words';

export const KIND_WORDS: Record<ComparisonKind, string> = {
  pair: 'two sides',
  'before-after': 'before and after',
  field: 'several devices',
  matrix: 'titles and devices',
};

/** All comparisons: those that are kept, then the latest. */
export function ComparisonsScreen(): ReactNode {
  const wide = useWide();
  const comparisons = useComparisons();
  const router = useRouter();
  return (
    <ScrollView contentContainerStyle={{ padding: wide ? 24 : 14, gap: 16, maxWidth: 820, width: '100%' }}>
      <PlaceHead title="Compare" />
      <CompareDevices />
      <Answered query={comparisons} loading={{ rows: 4, height: 70, label: 'Loading comparisons' }}>
        {(all) =>
          all.length === 0 ? (
            <Notice
              title="No comparisons yet"
              action={<Button title="Select runs" onPress={() => router.navigate('/?choose=1')} />}
            >
              Select two or more runs in the list: one against another, several devices on one title, or
              several titles on several devices.
            </Notice>
          ) : (
            <>
              <Group title="Saved" all={all.filter((one) => one.kept)} />
              <Group title="Not saved, deleted after one month" all={all.filter((one) => !one.kept)} />
            </>
          )
        }
      </Answered>
    </ScrollView>
  );
}

function Group({ title, all }: { title: string; all: ComparisonSummary[] }): ReactNode {
  if (all.length === 0) return null;
  return (
    <Stack gap={8} role="list" aria-label={title}>
      <Quiet>{title}</Quiet>
      {all.map((comparison) => (
        <Stack key={comparison.id} role="listitem">
          <Comparison comparison={comparison} />
        </Stack>
      ))}
    </Stack>
  );
}

function Comparison({ comparison }: { comparison: ComparisonSummary }): ReactNode {
  const { sheet, line } = usePalette();
  return (
    <Link href={`/compare/${comparison.id}`} asChild>
      <Pressable
        style={{
          backgroundColor: sheet,
          borderWidth: 1,
          borderColor: line,
          borderRadius: 8,
          padding: 12,
          gap: 2,
        }}
      >
        <Heading level={2} style={{ fontSize: 19 }}>
          {comparison.name}
        </Heading>
        <Quiet>
          {[KIND_WORDS[comparison.kind], count(comparison.runs, 'run'), day(comparison.changedAt)].join(
            ' · ',
          )}
        </Quiet>
      </Pressable>
    </Link>
  );
}
