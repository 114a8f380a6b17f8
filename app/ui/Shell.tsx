import { Link, usePathname, useRouter } from 'expo-router';
import { useEffect, useState, type ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import { useSafeAreaInsets } from 'react-native-safe-area-context';
import { isTyping, useScreenKeys } from './Keys';
import { LastSeen } from './LastSeen';
import { HereAs } from './HereAs';
import { useLook, useWide } from './Look';
import { Shortcuts } from './Shortcuts';
import { FONTS, TARGET } from './theme';
import { Body, Heading, Quiet } from './words';
import { Icon, type IconName } from './Icon';
import { Row, Stack } from './parts';

interface Place {
  href: '/' | '/cards' | '/bench' | '/compare' | '/reviews' | '/kit' | '/settings';
  /** Addresses that belong to it as well. */
  also?: string[];
  title: string;
  icon: IconName;
  key: string;
}

/** Places in the order of the work, each with its number key; the bar has the first five, kit and settings stand apart. */
const PLACES: Place[] = [
  { href: '/cards', title: 'Plan', icon: 'clipboard', key: '1' },
  { href: '/bench', title: 'Bench', icon: 'watch', key: '2', also: ['/quick', '/typed', '/import'] },
  {
    href: '/',
    title: 'Results',
    icon: 'list',
    key: '3',
    also: ['/runs', '/ladders', '/choices', '/outcomes', '/synthetic', '/devices', '/titles'],
  },
  { href: '/compare', title: 'Compare', icon: 'compare', key: '4' },
  { href: '/reviews', title: 'Reviews', icon: 'note', key: '5' },
  { href: '/kit', title: 'Kit', icon: 'phone', key: '6' },
  { href: '/settings', title: 'Settings', icon: 'settings', key: '7' },
];

const IN_BAR = PLACES.slice(0, 5);
const APART = PLACES.slice(5);

/** Navigation around every screen: a bar under the thumb, or a rail where there is room. */
export function Shell({ running, children }: { running: ReactNode; children: ReactNode }): ReactNode {
  const { palette } = useLook();
  const wide = useWide();
  const insets = useSafeAreaInsets();
  const own = useScreenKeys();
  const help = useShortcuts(own.map(({ key }) => key));
  // a page for paper stands alone
  if (usePathname().endsWith('/print')) return children;
  return (
    <View
      style={{
        flex: 1,
        flexDirection: wide ? 'row' : 'column',
        backgroundColor: palette.paper,
        paddingTop: insets.top,
      }}
    >
      {wide ? <Rail onHelp={help.open} /> : null}
      <Stack role="main" flex={1} style={{ minHeight: 0 }}>
        <LastSeen />
        <HereAs />
        {running}
        {children}
      </Stack>
      {wide ? null : <Bar bottom={insets.bottom} />}
      <Shortcuts
        visible={help.visible}
        onClose={help.close}
        shortcuts={[
          ...own
            .filter(({ does }) => does !== '')
            .map(({ key, does }) => ({ key: key.length > 1 ? '⏎' : key, does })),
          ...PLACES.map((place) => ({ key: place.key, does: `Go to ${place.title}` })),
          { key: 'a', does: 'Add a result' },
          { key: 'l', does: 'Light or dark theme' },
          { key: '?', does: 'Show this list' },
        ]}
      />
    </View>
  );
}

/**
 * Keys that work on every screen while nothing is being typed.
 *
 * @param own keys of the screen, which go first: at the bench digits are typed, and Shift with a digit leads to the place
 */
function useShortcuts(own: string[]): { visible: boolean; open: () => void; close: () => void } {
  const router = useRouter();
  const look = useLook();
  const [visible, setVisible] = useState(false);
  const taken = own.join('\n');
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (isTyping(event) || event.ctrlKey || event.metaKey || event.altKey) return;
      const digit = event.shiftKey ? /^Digit([1-7])$/.exec(event.code)?.[1] : event.key;
      const place = PLACES.find((one) => one.key === digit);
      if (!event.shiftKey && taken.split('\n').includes(event.key)) return;
      if (place) router.navigate(place.href);
      else if (event.key === 'a') router.navigate('/bench');
      else if (event.key === 'l') look.choose(look.night ? 'day' : 'night');
      else if (event.key === '?') setVisible(true);
    };
    document.addEventListener('keydown', onKey);
    return () => document.removeEventListener('keydown', onKey);
  }, [router, look, taken]);
  return { visible, open: () => setVisible(true), close: () => setVisible(false) };
}

function useHere(): (place: Place) => boolean {
  const path = usePathname();
  return ({ href, also = [] }) =>
    path === href || [...(href === '/' ? [] : [href]), ...also].some((one) => path.startsWith(one));
}

function Rail({ onHelp }: { onHelp: () => void }): ReactNode {
  const { palette } = useLook();
  const here = useHere();
  return (
    <Stack
      role="navigation"
      gap={4}
      padding={16}
      style={{ width: 184, borderRightWidth: 1, borderColor: palette.line }}
    >
      <Heading level={3} style={{ fontSize: 22, lineHeight: 26, marginBottom: 18 }}>
        Pace Check
      </Heading>
      {IN_BAR.map((place) => (
        <PlaceLink key={place.href} place={place} here={here(place)} row />
      ))}
      <Stack flex={1} />
      {APART.map((place) => (
        <PlaceLink key={place.href} place={place} here={here(place)} row />
      ))}
      <LookSwitch />
      <Pressable role="button" onPress={onHelp} style={{ minHeight: TARGET, justifyContent: 'center' }}>
        <Quiet>Keyboard: press ?</Quiet>
      </Pressable>
    </Stack>
  );
}

function Bar({ bottom }: { bottom: number }): ReactNode {
  const { palette } = useLook();
  const here = useHere();
  return (
    <Row
      role="navigation"
      style={{
        borderTopWidth: 1,
        borderColor: palette.line,
        backgroundColor: palette.sheet,
        paddingBottom: bottom,
      }}
    >
      {IN_BAR.map((place) => (
        <PlaceLink key={place.href} place={place} here={here(place)} row={false} />
      ))}
    </Row>
  );
}

function PlaceLink({ place, here, row }: { place: Place; here: boolean; row: boolean }): ReactNode {
  const { palette } = useLook();
  const color = here ? palette.action : palette.ink;
  return (
    <Link href={place.href} asChild>
      <Pressable
        aria-current={here ? 'page' : undefined}
        style={{
          flexGrow: row ? 0 : 1,
          flexBasis: row ? 'auto' : 0,
          flexDirection: row ? 'row' : 'column',
          alignItems: 'center',
          justifyContent: row ? 'flex-start' : 'center',
          gap: row ? 12 : 2,
          minHeight: row ? 48 : 58,
          borderRadius: 6,
          borderTopWidth: row ? 0 : 3,
          borderLeftWidth: row ? 3 : 0,
          paddingLeft: row ? 10 : 0,
          borderColor: here ? palette.action : 'transparent',
        }}
      >
        <Icon name={place.icon} size={20} color={color} />
        <Body style={{ fontFamily: FONTS.head, fontSize: row ? 17 : 14, lineHeight: 20, color }}>
          {place.title}
        </Body>
      </Pressable>
    </Link>
  );
}

function LookSwitch(): ReactNode {
  const { palette, night, choose } = useLook();
  const title = night ? 'Light' : 'Dark';
  return (
    <Pressable
      role="button"
      aria-label={`${title} theme`}
      onPress={() => choose(night ? 'day' : 'night')}
      style={{ flexDirection: 'row', alignItems: 'center', gap: 12, minHeight: 48, paddingLeft: 13 }}
    >
      <Icon name={night ? 'sun' : 'moon'} size={20} color={palette.ink} />
      <Body head style={{ lineHeight: 20 }}>
        {title}
      </Body>
    </Pressable>
  );
}
