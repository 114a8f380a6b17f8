import { ROUTES } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { useRouter } from 'expo-router';
import type { ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import type { Removal } from '../../api/documents';
import type { Writing } from '../../api/useDocument';
import { usePalette, useWide } from '../../ui/Look';
import { keptWord, NotKept } from '../../ui/NotKept';
import { Row, Stack } from '../../ui/parts';
import { RemoveButton } from '../../ui/RemoveButton';
import { IfMay, useMay } from '../../ui/Role';
import { Section } from '../../ui/Section';
import { TARGET } from '../../ui/theme';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';

/** A search: what it is of, whether it is kept, and its two halves, beside each other where there is room. */
export function SearchPage<D>({
  title,
  facts,
  writing,
  left,
  right,
}: {
  title: string;
  /** What stands under it; empty ones are left out. */
  facts: string[];
  writing: Writing<D>;
  left: ReactNode;
  right: ReactNode;
}): ReactNode {
  const wide = useWide();
  // whoever may change a ladder may change a choice
  const may = useMay(ROUTES.changeLadder);
  const half = { gap: 16, flex: wide ? 1 : undefined } as const;
  const halves = (
    <>
      <Stack {...half}>{left}</Stack>
      <Stack {...half}>{right}</Stack>
    </>
  );
  return (
    <>
      <Stack gap={6} style={{ marginTop: -10 }}>
        <Heading level={1}>{title}</Heading>
        <Quiet style={{ fontSize: 15 }}>
          {[...facts, keptWord(writing, may)].filter(Boolean).join(' · ')}
        </Quiet>
      </Stack>
      <NotKept writing={writing} />
      {wide ? (
        <Row gap={28} align="flex-start">
          {halves}
        </Row>
      ) : (
        halves
      )}
    </>
  );
}

/** One of what is searched among, with a bar; a tap chooses it for the next probe. */
export function SearchBar({
  name,
  figure,
  tags,
  share,
  chosen,
  found,
  onPick,
}: {
  name: string;
  /** What stands at its end. */
  figure: string;
  tags: string[];
  /** Length of the bar, 0 to 1. */
  share: number;
  chosen: boolean;
  /** It is what the search has come to. */
  found: boolean;
  /** Left out where it cannot be chosen. */
  onPick?: (() => void) | undefined;
}): ReactNode {
  const { track, pace, ink, line, action } = usePalette();
  return (
    <Pressable
      role="listitem"
      aria-label={`${name}: ${[figure, ...tags].join(', ')}`}
      disabled={onPick === undefined}
      onPress={onPick}
      style={{
        minHeight: TARGET,
        paddingVertical: 5,
        paddingHorizontal: 8,
        borderLeftWidth: 3,
        borderColor: chosen ? action : line,
        gap: 4,
        justifyContent: 'center',
      }}
    >
      <Row apart align="baseline" gap={8}>
        <FigureText size={18} style={{ flexShrink: 1 }}>
          {name}
        </FigureText>
        <FigureText size={18}>{figure}</FigureText>
      </Row>
      <View style={{ height: 8, backgroundColor: track }}>
        <View style={{ height: 8, width: `${share * 100}%`, backgroundColor: found ? ink : pace }} />
      </View>
      {tags.length > 0 ? <Quiet>{tags.join(' · ')}</Quiet> : null}
    </Pressable>
  );
}

/** What was tried, the latest first; each can be taken back. */
export function ProbeList<P extends { id: string }>({
  probes,
  say,
  onTakeBack,
}: {
  probes: readonly P[];
  say: (probe: P) => string;
  onTakeBack: (id: string) => void;
}): ReactNode {
  return (
    <Section title="Tests">
      {probes.length === 0 ? <Quiet>None yet.</Quiet> : null}
      <Stack role="list" aria-label="Tests" gap={2}>
        {[...probes].reverse().map((probe) => (
          <Row key={probe.id} role="listitem" apart align="center" gap={8}>
            <Body small style={{ flexShrink: 1 }}>
              {say(probe)}
            </Body>
            <IfMay route={ROUTES.changeLadder}>
              <Button
                type="clear"
                title="Remove"
                aria-label={`Delete ${say(probe)}`}
                onPress={() => onTakeBack(probe.id)}
              />
            </IfMay>
          </Row>
        ))}
      </Stack>
    </Section>
  );
}

/** Deletes a search, with a way back. */
export function RemoveSearch({
  what,
  id,
  name,
  removal,
}: {
  what: 'ladder' | 'choice';
  id: string;
  name: string;
  removal: Removal;
}): ReactNode {
  const router = useRouter();
  return (
    <RemoveButton
      title={`Delete ${what}`}
      gone={`${what} “${name}” deleted.`}
      removal={removal}
      id={id}
      onGone={() => router.navigate('/ladders')}
    />
  );
}
