import type { Card, DayChange } from '@pace-check/contract';
import { changeNotes } from '@pace-check/core';
import { useQueryClient, type UseQueryResult } from '@tanstack/react-query';
import { useEffect, useMemo } from 'react';
import { askAnew } from '../api/askAnew';
import { CHANGED_BY_A_DAY, cardKey, useCard } from '../api/queries';
import { outbox, toCard, useOutbox, waitingFor, type Waiting, type WithoutId } from './index';

/** A card's day as this screen knows it: the server's, with what was done here on top. */
export interface CardDay {
  query: UseQueryResult<Card, Error>;
  /** Notes something: kept here at once, then sent. Gives the card as it is then. */
  note: (...changes: WithoutId<DayChange>[]) => Promise<Card>;
  /** Kept here and on the way. */
  waiting: number;
  refused: Waiting<'card'>[];
}

const changed = (card: Card, change: DayChange): Card =>
  change.kind === 'plan'
    ? { ...card, plan: change.plan, planIsOld: change.ofRevision !== card.revision }
    : { ...card, events: changeNotes(card.events, change) };

export function useCardDay(id: string): CardDay {
  useSentToCards();
  const client = useQueryClient();
  const query = useCard(id);
  const { waiting } = useOutbox();
  const own = useMemo(() => waitingFor(waiting, 'card', id), [waiting, id]);
  const card = useMemo(
    () =>
      query.data &&
      own.filter((one) => one.refused === null).reduce((now, { change }) => changed(now, change), query.data),
    [query.data, own],
  );
  return {
    query: { ...query, data: card } as UseQueryResult<Card, Error>,
    note: async (...changes) => {
      const done = changes.map((change) => toCard(id, change));
      await outbox.add(...done);
      const known = waitingFor(outbox.snapshot().waiting, 'card', id).filter((one) => one.refused === null);
      const base = client.getQueryData<Card>(cardKey(id)) ?? card!;
      // those just done are applied whether they wait still or have been taken by now
      return [...known, ...done.filter((one) => one.to === 'card')].reduce(
        (now, { change }) => changed(now, change),
        base,
      );
    },
    waiting: own.filter((one) => one.refused === null).length,
    refused: own.filter((one) => one.refused !== null),
  };
}

/** What the server has taken of a card’s day is in the copy of that card at once, and asked for anew. */
export function useSentToCards(): void {
  const client = useQueryClient();
  useEffect(
    () =>
      outbox.onSent((sent) => {
        const own = sent.filter((one): one is Waiting<'card'> => one.to === 'card');
        if (own.length === 0) return;
        for (const { id, change } of own)
          client.setQueryData<Card>(cardKey(id), (card) => card && changed(card, change));
        const ids = new Set(own.map(({ id }) => id));
        void askAnew(client, ...[...ids].map(cardKey), ...CHANGED_BY_A_DAY);
      }),
    [client],
  );
}
