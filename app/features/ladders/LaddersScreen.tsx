import { ROUTES, type LadderSummary } from '@pace-check/contract';
import { saySystemRungs, systemRungs } from '@pace-check/core';
import { Button } from '@rneui/themed';
import { Link, useLocalSearchParams } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { Pressable, ScrollView } from 'react-native';
import { useChoices } from '../../api/choices';
import { useLadders } from '../../api/ladders';
import { count, day } from '../../ui/figures';
import { usePalette, useWide } from '../../ui/Look';
import { IfMay } from '../../ui/Role';
import { Row, Stack } from '../../ui/parts';
import { PlaceHead } from '../../ui/PlaceHead';
import { ResultsTabs } from '../../ui/ResultsTabs';
import { Section } from '../../ui/Section';
import { Answered, Notice } from '../../ui/states';
import { Body, Heading, Quiet } from '../../ui/words';
import { NewChoice } from './NewChoice';
import { NewLadder } from './NewLadder';
import { nameOf, severalOf } from './several';

/** Searches for the highest setting that holds, choices between what has no order, and new ones. */
export function LaddersScreen(): ReactNode {
  const wide = useWide();
  const ladders = useLadders();
  const choices = useChoices();
  const [making, setMaking] = useState<'ladder' | 'choice' | null>(
    useLocalSearchParams<{ new?: string }>().new ? 'ladder' : null,
  );
  const make = (what: 'ladder' | 'choice'): void => setMaking(making === what ? null : what);
  return (
    <ScrollView
      keyboardShouldPersistTaps="handled"
      contentContainerStyle={{ padding: wide ? 24 : 14, gap: 14, maxWidth: 820, width: '100%' }}
    >
      <PlaceHead title="Results" />
      <ResultsTabs here="Best settings" />
      <IfMay route={ROUTES.newLadder}>
        <Row gap={8} wrap>
          <Button
            title={making === 'ladder' ? 'Close' : 'New ladder'}
            type={making === 'ladder' ? 'clear' : 'solid'}
            onPress={() => make('ladder')}
          />
          <Button
            title={making === 'choice' ? 'Close' : 'New option search'}
            type={making === 'choice' ? 'clear' : 'outline'}
            onPress={() => make('choice')}
          />
        </Row>
      </IfMay>
      {making === 'ladder' ? <NewLadder /> : null}
      {making === 'choice' ? <NewChoice /> : null}
      <Section title="Ladders">
        <Answered query={ladders} loading={{ rows: 3, height: 70, label: 'Loading ladders' }}>
          {(all) =>
            all.length === 0 ? (
              <Notice title="No ladders yet">
                A ladder finds the highest setting that still holds full speed (resolution, quality level,
                cap, or lowest power limit) and shows which setting to test next.
              </Notice>
            ) : (
              <Stack gap={8} role="list" aria-label="Ladders">
                {severalOf(all).map((own) => (
                  <Stack key={own[0]!.together} role="listitem">
                    <SearchCard
                      href={`/ladders/titles/${own[0]!.together!}`}
                      title={nameOf(own)}
                      facts={[own[0]!.axis, count(own.length, 'title'), day(own[0]!.changedAt)]}
                      says={`${own.filter((one) => one.ended).length} of ${own.length} decided`}
                    />
                  </Stack>
                ))}
                {all
                  .filter((one) => one.together === null)
                  .map((ladder) => (
                    <Stack key={ladder.id} role="listitem">
                      <SearchCard
                        href={`/ladders/${ladder.id}`}
                        title={`${ladder.title} on ${ladder.device}`}
                        facts={[
                          ladder.axis,
                          ladder.scene || null,
                          count(ladder.probes, 'test'),
                          day(ladder.changedAt),
                        ]}
                        says={standing(ladder)}
                      />
                    </Stack>
                  ))}
              </Stack>
            )
          }
        </Answered>
      </Section>
      <BySystem ladders={ladders.data ?? []} />
      <Section title="Option searches">
        <Answered query={choices} loading={{ rows: 2, height: 70, label: 'Loading option searches' }}>
          {(all) =>
            all.length === 0 ? (
              <Notice title="No option searches yet">
                An option search compares options without an order (backends, drivers, wrappers, presets) on
                the same scene and shows when one is clearly best.
              </Notice>
            ) : (
              <Stack gap={8} role="list" aria-label="Option searches">
                {all.map((choice) => (
                  <Stack key={choice.id} role="listitem">
                    <SearchCard
                      href={`/choices/${choice.id}`}
                      title={`${choice.title} on ${choice.device}`}
                      facts={[
                        `${choice.axis}: ${choice.options.join(' / ')}`,
                        choice.scene || null,
                        count(choice.probes, 'test'),
                        day(choice.changedAt),
                      ]}
                      says={choice.says}
                    />
                  </Stack>
                ))}
              </Stack>
            )
          }
        </Answered>
      </Section>
    </ScrollView>
  );
}

/** What a system's titles hold: the easy ones, the hard ones, the exceptions. */
function BySystem({ ladders }: { ladders: LadderSummary[] }): ReactNode {
  const systems = systemRungs(ladders);
  if (systems.length === 0) return null;
  return (
    <Section title="By system">
      <Stack role="list" aria-label="By system" gap={6}>
        {systems.map((one) => (
          <Body key={`${one.device} ${one.system} ${one.axis}`} role="listitem" small>
            {saySystemRungs(one)}
          </Body>
        ))}
      </Stack>
    </Section>
  );
}

function SearchCard({
  href,
  title,
  facts,
  says,
}: {
  href: `/ladders/${string}` | `/ladders/titles/${string}` | `/choices/${string}`;
  title: string;
  facts: (string | null)[];
  says: string;
}): ReactNode {
  const { sheet, line } = usePalette();
  return (
    <Link href={href} asChild>
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
        <Heading level={3} style={{ fontSize: 19 }}>
          {title}
        </Heading>
        <Quiet>{facts.filter(Boolean).join(' · ')}</Quiet>
        <Quiet>{says}</Quiet>
      </Pressable>
    </Link>
  );
}

function standing({ probes, best, sure, ended, confirmed }: LadderSummary): string {
  if (probes === 0) return 'not started';
  const what = best === null ? 'none holds' : `${best} holds`;
  const how = `${Math.round(sure * 100)} % sure`;
  if (!ended) return `typical: ${what}, ${how}`;
  if (best === null) return `${what}, ${how}`;
  return `${what}, ${how}${confirmed ? ', confirmed by a long run' : ', not yet confirmed'}`;
}
