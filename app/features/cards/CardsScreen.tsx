import { IfMay } from '../../ui/Role';
import { ROUTES } from '@pace-check/contract';
import type { CardSummary } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { Link, useRouter } from 'expo-router';
import type { ReactNode } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import { useCards } from '../../api/queries';
import { count, day, timeOfDay } from '../../ui/figures';
import { usePalette, useWide } from '../../ui/Look';
import { PlaceHead } from '../../ui/PlaceHead';
import { Answered, Notice } from '../../ui/states';
import { FONTS } from '../../ui/theme';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';
import { Requests } from './Requests';
import { Stack } from '../../ui/parts';

/** Test cards, one's own templates, and what viewers ask for. */
export function CardsScreen(): ReactNode {
  const cards = useCards();
  const wide = useWide();
  const router = useRouter();
  const days = cards.data?.filter((card) => !card.template) ?? [];
  const templates = cards.data?.filter((card) => card.template) ?? [];
  return (
    <ScrollView
      keyboardShouldPersistTaps="handled"
      contentContainerStyle={{ padding: wide ? 24 : 14, gap: 16, maxWidth: 1240, width: '100%' }}
    >
      <PlaceHead title="Plan">
        <IfMay route={ROUTES.newCard}>
          <Button title="New card" onPress={() => router.navigate('/cards/new')} />
        </IfMay>
      </PlaceHead>
      <View
        style={{
          flexDirection: wide ? 'row' : 'column',
          gap: wide ? 32 : 20,
          alignItems: wide ? 'flex-start' : 'stretch',
        }}
      >
        <Stack gap={10} flex={wide ? 1.3 : undefined} style={{ minWidth: 0 }}>
          <Answered query={cards} loading={{ rows: 3, height: 86, label: 'Loading cards' }}>
            {() =>
              days.length === 0 ? (
                <Notice
                  title="No test cards yet"
                  action={<Button title="New card" onPress={() => router.navigate('/cards/new')} />}
                >
                  A test card lists what to run on which device. Pace Check plans the day so that each device
                  is cool and charged when its run starts.
                </Notice>
              ) : (
                days.map((card) => <CardRow key={card.id} card={card} />)
              )
            }
          </Answered>
          {templates.length > 0 ? (
            <>
              <Heading style={{ marginTop: 10 }}>Your templates</Heading>
              {templates.map((card) => (
                <CardRow key={card.id} card={card} />
              ))}
            </>
          ) : null}
        </Stack>
        <Stack flex={wide ? 1 : undefined} style={{ minWidth: 0 }}>
          <Requests />
        </Stack>
      </View>
    </ScrollView>
  );
}

function CardRow({ card }: { card: CardSummary }): ReactNode {
  const { sheet, line } = usePalette();
  return (
    <Link href={`/cards/${card.id}`} asChild>
      <Pressable
        style={{
          backgroundColor: sheet,
          borderWidth: 1,
          borderColor: line,
          borderRadius: 8,
          padding: 12,
          flexDirection: 'row',
          gap: 12,
        }}
      >
        <Stack gap={2} flex={1}>
          <Body style={{ fontFamily: FONTS.head, fontSize: 19 }}>{card.name}</Body>
          <Quiet>{card.devices.join(', ') || 'no device yet'}</Quiet>
          <Quiet>
            {[
              card.date && !card.template ? day(`${card.date}T12:00`) : null,
              count(card.runs, 'run'),
              card.ended > 0 ? `${card.ended} done` : null,
              card.dropped > 0 ? `${card.dropped} left out` : null,
            ]
              .filter(Boolean)
              .join(' · ')}
          </Quiet>
        </Stack>
        {card.finishMin === null || card.template ? null : (
          <Stack align="flex-end">
            <FigureText size={24}>{timeOfDay(card.finishMin)}</FigureText>
            <Quiet>finish</Quiet>
          </Stack>
        )}
      </Pressable>
    </Link>
  );
}
