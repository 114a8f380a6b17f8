import { Link } from 'expo-router';
import type { ReactNode } from 'react';
import { Pressable, ScrollView } from 'react-native';
import { usePalette } from './Look';
import { FONTS, TARGET } from './theme';
import { Body } from './words';

const TABS = [
  ['/', 'Runs'],
  ['/ladders', 'Best settings'],
  ['/outcomes', 'Compatibility'],
  ['/devices', 'Devices'],
  ['/titles', 'Titles'],
] as const;
export type ResultsTab = (typeof TABS)[number][1];

/** What Results has: runs, searches for settings, what runs at all, and all of it by device or title. */
export function ResultsTabs({ here }: { here: ResultsTab }): ReactNode {
  const { ink, action, line } = usePalette();
  return (
    <ScrollView
      horizontal
      role="navigation"
      aria-label="Results"
      showsHorizontalScrollIndicator={false}
      style={{ flexGrow: 0, borderBottomWidth: 1, borderColor: line }}
      contentContainerStyle={{ gap: 14 }}
    >
      {TABS.map(([href, title]) => (
        <Link key={href} href={href} asChild>
          <Pressable
            aria-current={title === here ? 'page' : undefined}
            style={{
              minHeight: TARGET - 4,
              justifyContent: 'center',
              borderBottomWidth: 3,
              borderColor: title === here ? action : 'transparent',
            }}
          >
            <Body style={{ fontFamily: FONTS.head, fontSize: 15, color: title === here ? action : ink }}>
              {title}
            </Body>
          </Pressable>
        </Link>
      ))}
    </ScrollView>
  );
}
