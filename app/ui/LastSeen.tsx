import { useQueryClient } from '@tanstack/react-query';
import { usePathname } from 'expo-router';
import { useEffect, useRef, type ReactNode } from 'react';
import { View } from 'react-native';
import { useLastSeen } from '../offline/lastSeen';
import { usePalette } from './Look';
import { Body } from './words';

/** Says that what is shown was kept from before, and asks anew once the server answers again. */
export function LastSeen(): ReactNode {
  const { line, action } = usePalette();
  const client = useQueryClient();
  const lastSeen = useLastSeen();
  const was = useRef(lastSeen);
  useEffect(() => {
    if (was.current && !lastSeen) void client.invalidateQueries();
    was.current = lastSeen;
  }, [lastSeen, client]);
  // a run's own screen says so in its head
  const onRun = /^\/bench\/(?!new)/.test(usePathname());
  if (!lastSeen || onRun) return null;
  return (
    <View role="status" style={{ borderBottomWidth: 1, borderColor: line, paddingHorizontal: 14, paddingVertical: 8 }}>
      <Body style={{ fontSize: 15, color: action }}>The server does not answer: lists are as last seen. What you do is kept here.</Body>
    </View>
  );
}
