import { useQueryClient } from '@tanstack/react-query';
import { usePathname } from 'expo-router';
import { useEffect, useRef, type ReactNode } from 'react';
import { View } from 'react-native';
import { ROUTES } from '@pace-check/contract';
import { ask } from '../api/client';
import { askAnew } from '../api/askAnew';
import { useLastSeen } from '../offline/lastSeen';
import { usePalette } from './Look';
import { Body } from './words';

/** While nobody answers the server is called again so often. */
const AGAIN_MS = 4000;

/** Says that the server does not answer and that what is shown is from before; asks for all of it anew once it answers again. */
export function LastSeen(): ReactNode {
  const { line, action } = usePalette();
  const client = useQueryClient();
  const lastSeen = useLastSeen();
  const was = useRef(lastSeen);
  useEffect(() => {
    if (was.current && !lastSeen) void askAnew(client, []);
    was.current = lastSeen;
  }, [lastSeen, client]);
  useEffect(() => {
    if (!lastSeen) return undefined;
    // what comes of it is noted with the answer
    const timer = setInterval(() => void ask(ROUTES.coolWatches, {}).catch(() => undefined), AGAIN_MS);
    return () => clearInterval(timer);
  }, [lastSeen]);
  // a run's own screen says so in its head
  const onRun = /^\/bench\/(?!new)/.test(usePathname());
  if (!lastSeen || onRun) return null;
  return (
    <View
      role="status"
      style={{ borderBottomWidth: 1, borderColor: line, paddingHorizontal: 14, paddingVertical: 8 }}
    >
      <Body small style={{ color: action }}>
        Offline: showing the last known data.
      </Body>
    </View>
  );
}
