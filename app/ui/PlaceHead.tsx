import { Link } from 'expo-router';
import type { ReactNode } from 'react';
import { Pressable } from 'react-native';
import { Icon } from './Icon';
import { usePalette, useWide } from './Look';
import { Row } from './parts';
import { TARGET } from './theme';
import { Heading } from './words';

/** The head of a place: its name, what is done there, and on a phone the ways to kit and settings, which a wide screen has in its side bar. */
export function PlaceHead({ title, children }: { title: string; children?: ReactNode }): ReactNode {
  const wide = useWide();
  return (
    <Row gap={8} align="center" apart style={{ minHeight: TARGET }}>
      <Heading level={1} style={{ flexShrink: 1 }}>
        {title}
      </Heading>
      <Row gap={2} align="center">
        {children}
        {wide ? null : <ToKit />}
      </Row>
    </Row>
  );
}

function ToKit(): ReactNode {
  const { quiet } = usePalette();
  return (
    <>
      {(
        [
          ['/kit', 'Kit', 'phone'],
          ['/settings', 'Settings', 'settings'],
        ] as const
      ).map(([href, title, icon]) => (
        <Link key={href} href={href} asChild>
          <Pressable
            aria-label={title}
            style={{ minWidth: TARGET, minHeight: TARGET, alignItems: 'center', justifyContent: 'center' }}
          >
            <Icon name={icon} size={22} color={quiet} />
          </Pressable>
        </Link>
      ))}
    </>
  );
}
