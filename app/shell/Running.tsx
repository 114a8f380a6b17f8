import { ROUTES } from '@pace-check/contract';
import { clock, runClockMs } from '@pace-check/core';
import { useQuery } from '@tanstack/react-query';
import { Link, usePathname } from 'expo-router';
import type { ReactNode } from 'react';
import { Pressable } from 'react-native';
import { ask } from '../api/client';
import { useNow } from '../outbox';

import { Icon } from '../ui/Icon';
import { usePalette } from '../ui/Look';
import { FONTS } from '../ui/theme';
import { Body } from '../ui/words';

/** The list is asked for so often while another place is open, ms. */
const AGAIN_MS = 15_000;

/** A run that is being recorded, on every other place: its name and its clock, and the way back to it. */
export function Running(): ReactNode {
  const path = usePathname();
  const { line, sheet, action } = usePalette();
  const recordings = useQuery({
    queryKey: ['recordings'],
    queryFn: () => ask(ROUTES.recordings, {}),
    refetchInterval: AGAIN_MS,
    enabled: !path.startsWith('/bench'),
  });
  const going = (recordings.data ?? []).filter(({ status }) => status === 'running');
  const nowMs = useNow(1000);
  if (going.length === 0 || path.startsWith('/bench')) return null;
  return going.slice(0, 2).map((one) => (
    <Link key={one.runId} href={`/bench/${one.runId}`} asChild>
      <Pressable
        aria-label={`Recording ${one.name}: back to the bench`}
        style={{
          flexDirection: 'row',
          alignItems: 'center',
          gap: 8,
          minHeight: 40,
          paddingHorizontal: 14,
          borderBottomWidth: 1,
          borderColor: line,
          backgroundColor: sheet,
        }}
      >
        <Icon name="watch" size={18} color={action} />
        <Body numberOfLines={1} style={{ flex: 1 }}>
          {`Recording ${one.name}`}
        </Body>
        <Body style={{ fontFamily: FONTS.figure, color: action }}>
          {clock((runClockMs({ ...one, startedMs: one.startedAt }, nowMs) ?? 0) / 1000)}
        </Body>
      </Pressable>
    </Link>
  ));
}
