import { useMay } from '../../ui/Role';
import { ROUTES } from '@pace-check/contract';
import { zodResolver } from '@hookform/resolvers/zod';
import { settings } from '@pace-check/contract';
import { NEED_WORDS, NEEDS, type Bars as AllBars, type Need } from '@pace-check/core';
import { Button } from '@rneui/themed';
import type { ReactNode } from 'react';
import { useForm } from 'react-hook-form';
import { View } from 'react-native';
import { useChangeSettings, useSettings } from '../../api/queries';
import { NumberField } from '../../ui/Field';
import { Answered } from '../../ui/states';
import { useToast } from '../../ui/Toast';
import { Body, Quiet } from '../../ui/words';
import { Row, Stack } from '../../ui/parts';

const bars = settings.shape.bars.unwrap();

/** What each need is, in a few words. */
const WORDS: Record<Need, string> = {
  reaction: 'fast reaction: shooters, racing, competitive matches',
  action: 'action: most games that move',
  story: 'story: adventures, calm worlds',
  slow: 'slow: board, card and strategy games',
};

/** Average and 1 % low of each need. */
export function Bars(): ReactNode {
  const known = useSettings();
  const may = useMay(ROUTES.changeSettings);
  return (
    <Answered query={known} loading={{ rows: 4, height: 60, label: 'Loading thresholds' }}>
      {(now) =>
        may ? (
          <BarsForm key={JSON.stringify(now.bars)} now={now.bars} />
        ) : (
          <BarsToRead all={now.bars ?? NEEDS} />
        )
      }
    </Answered>
  );
}

function BarsToRead({ all }: { all: AllBars }): ReactNode {
  return (
    <Stack role="list" aria-label="Playability thresholds" gap={4}>
      {NEED_WORDS.map((need) => (
        <Body key={need} role="listitem" small>
          {`${WORDS[need]}: average ${all[need].average}, 1 % low ${all[need].low} fps`}
        </Body>
      ))}
    </Stack>
  );
}

function BarsForm({ now }: { now: AllBars | null }): ReactNode {
  const save = useChangeSettings();
  const toast = useToast();
  const form = useForm<AllBars>({ resolver: zodResolver(bars), defaultValues: now ?? NEEDS });
  const store = (own: AllBars | null): void =>
    save.mutate({ bars: own, base: now }, { onSuccess: () => toast({ text: 'Thresholds saved.' }) });
  return (
    <Stack gap={4}>
      {NEED_WORDS.map((need) => (
        <View key={need} role="group" aria-label={WORDS[need]}>
          <Quiet>{WORDS[need]}</Quiet>
          <Row gap={12}>
            <Stack flex={1}>
              <NumberField control={form.control} name={`${need}.average`} label="Average, fps" />
            </Stack>
            <Stack flex={1}>
              <NumberField control={form.control} name={`${need}.low`} label="1 % low, fps" />
            </Stack>
          </Row>
        </View>
      ))}
      {save.error ? <Body role="alert">{`Not saved: ${save.error.message}`}</Body> : null}
      <Row gap={8}>
        <Button
          title="Save thresholds"
          loading={save.isPending}
          onPress={form.handleSubmit((own) => store(own))}
        />
        {now === null ? null : <Button type="clear" title="Reset to defaults" onPress={() => store(null)} />}
      </Row>
    </Stack>
  );
}
