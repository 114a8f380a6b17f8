import { ROUTES } from '@pace-check/contract';
import { useRouter } from 'expo-router';
import type { ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import { Icon, type IconName } from './Icon';
import { usePalette, useWide } from './Look';
import { Stack } from './parts';
import { IfMay } from './Role';
import { FONTS } from './theme';
import { Body, Quiet } from './words';

interface Way {
  title: string;
  /** What it is for, in a few words. */
  says: string;
  icon: IconName;
  href: '/quick' | '/typed' | '/import' | '/bench/new' | '/ladders?new=1' | '/outcomes?new=1';
}

const WAYS: Way[] = [
  { title: 'Quick result', says: 'a few numbers, by thumb', icon: 'zap', href: '/quick' },
  { title: 'Type or paste', says: 'notes or a table', icon: 'note', href: '/typed' },
  { title: 'Import log', says: 'a file of frame times', icon: 'file', href: '/import' },
  { title: 'Record live', says: 'a run on the clock', icon: 'watch', href: '/bench/new' },
  { title: 'Try a setting', says: 'which one still holds', icon: 'settings', href: '/ladders?new=1' },
  { title: 'Does it run?', says: 'starts, glitches, crashes', icon: 'check', href: '/outcomes?new=1' },
];

/** All ways to add a result, each in one tap. */
export function AddTiles(): ReactNode {
  const { sheet, line, ink, action } = usePalette();
  const router = useRouter();
  const columns = useWide() ? 3 : 2;
  return (
    <IfMay route={ROUTES.runChanges}>
      <View
        role="group"
        aria-label="Add a result"
        style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8, maxWidth: 720 }}
      >
        {WAYS.map(({ title, says, icon, href }) => (
          <Pressable
            key={title}
            role="link"
            aria-label={title}
            onPress={() => router.navigate(href)}
            style={{
              flexBasis: columns === 3 ? '31%' : '47%',
              flexGrow: 1,
              flexDirection: 'row',
              alignItems: 'center',
              gap: 10,
              minHeight: 62,
              paddingHorizontal: 10,
              borderWidth: 1,
              borderColor: line,
              borderRadius: 8,
              backgroundColor: sheet,
            }}
          >
            <Icon name={icon} size={22} color={action} />
            <Stack flex={1}>
              <Body style={{ fontFamily: FONTS.head, fontSize: 16, lineHeight: 20, color: ink }}>
                {title}
              </Body>
              <Quiet style={{ fontSize: 13, lineHeight: 17 }}>{says}</Quiet>
            </Stack>
          </Pressable>
        ))}
      </View>
    </IfMay>
  );
}
