import { NO_FILTER, type RunSummary } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { Pressable, ScrollView } from 'react-native';
import { useKit, useRuns } from '../../../api/queries';
import { NOT_ASKED } from '../../../forms/TargetNeed';
import { usePalette, useWide } from '../../../ui/Look';
import { NamePicker } from '../../../ui/PickOrAdd';
import { Heading, Quiet } from '../../../ui/words';
import { Row, Stack } from '../../../ui/parts';
import type { Played } from './keep';

/** Nothing is said yet of what was played. */
export const NOTHING: Played = {
  device: '',
  title: '',
  setup: null,
  scene: null,
  roomC: null,
  screen: null,
  asked: NOT_ASKED,
};

/** What was played last, each once. */
function lastPlayed(runs: RunSummary[]): RunSummary[] {
  const seen = new Set<string>();
  return runs.filter(({ device, title, setup }) => {
    const key = JSON.stringify([device, title, setup]);
    return seen.has(key) ? false : seen.add(key);
  });
}

/** Runs that are offered. */
const OFFERED = 8;

/** What a result is of: one that was played last, or something else. */
export function WhatWasPlayed({
  begin,
  onPlayed,
}: {
  begin: Played;
  onPlayed: (played: Played) => void;
}): ReactNode {
  const { sheet, line } = usePalette();
  const wide = useWide();
  const kit = useKit().data;
  const [own, setOwn] = useState(begin);
  const last = lastPlayed(useRuns(NO_FILTER).data?.pages.flat() ?? []).slice(0, OFFERED);
  const title = kit?.titles.find((one) => one.name.toLowerCase() === own.title.trim().toLowerCase());
  const setups = kit?.setups.filter((one) => one.titleId === title?.id).map((one) => one.name) ?? [];
  const device = own.device.trim() || (last[0]?.device ?? '');
  return (
    <ScrollView
      keyboardShouldPersistTaps="handled"
      contentContainerStyle={{ padding: wide ? 24 : 14, gap: 14, maxWidth: 720, width: '100%' }}
    >
      <Heading level={1}>Quick result</Heading>
      {last.length > 0 ? (
        <Stack gap={8} role="group" aria-label="Recently played">
          <Quiet>What did you play? Recent:</Quiet>
          {last.map((run) => (
            <Pressable
              key={run.id}
              role="button"
              onPress={() => onPlayed({ ...NOTHING, device: run.device, title: run.title, setup: run.setup })}
              style={{
                backgroundColor: sheet,
                borderWidth: 1,
                borderColor: line,
                borderRadius: 8,
                padding: 10,
                minHeight: 52,
              }}
            >
              <Heading level={2} style={{ fontSize: 18 }}>{`${run.title} on ${run.device}`}</Heading>
              <Quiet>{run.setup ?? 'no setup'}</Quiet>
            </Pressable>
          ))}
        </Stack>
      ) : null}
      <Stack>
        <Quiet style={{ marginBottom: 6 }}>Or enter something else:</Quiet>
        <NamePicker
          label="Title"
          what="title"
          known={kit?.titles.map((one) => one.name) ?? []}
          value={own.title}
          onChange={(value) => setOwn({ ...own, title: value })}
        />
        <NamePicker
          label="Device"
          what="device"
          known={kit?.devices.map((one) => one.name) ?? []}
          value={own.device || device}
          onChange={(value) => setOwn({ ...own, device: value })}
        />
        <NamePicker
          label="Setup (optional)"
          what="setup"
          known={setups}
          value={own.setup ?? ''}
          onChange={(value) => setOwn({ ...own, setup: value === '' ? null : value })}
        />
        <Row>
          <Button
            title="Continue to values"
            disabled={own.title.trim() === '' || device === ''}
            onPress={() =>
              onPlayed({ ...own, title: own.title.trim(), device, setup: own.setup?.trim() || null })
            }
          />
        </Row>
      </Stack>
    </ScrollView>
  );
}
