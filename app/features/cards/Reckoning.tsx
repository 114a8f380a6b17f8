import type { Card, Kit } from '@pace-check/contract';
import { ASSUMED_ROOM_C, type CoolingFrom, type PosedDay, SWOLLEN_BATTERY } from '@pace-check/core';
import type { ReactNode } from 'react';
import { count } from '../../ui/figures';
import { useVoice } from '../../ui/Voice';
import { Body, Quiet } from '../../ui/words';
import { Section } from '../../ui/Section';
import { demandIn, posed } from './usePlanner';

/** What the plan is reckoned from, device by device, and what it asks of whoever follows it. */
export function Reckoning({ card, kit }: { card: Card; kit: Kit | undefined }): ReactNode {
  const { temperature } = useVoice();
  const day = posed({ ...card, events: [] }, demandIn(kit));
  if (!('problem' in day)) return null;
  return (
    <Section title="How the plan is calculated">
      {day.devices.map((device) => (
        <Body
          key={device.name}
          small
        >{`${device.name} cools with a time constant of ${device.coolTauMin.toFixed(1)} min, ${COOLING[device.coolingFrom](device.coolingOf)}. ${charging(device)} ${ofTitles(day, card, device.name)}`}</Body>
      ))}
      {day.roomKnown ? null : (
        <Body small>{`Room temperature unknown: planned with ${temperature(ASSUMED_ROOM_C)}.`}</Body>
      )}
      <Quiet>
        {`Charge only below ${temperature(card.rules.chargeBelowC)} skin temperature, with the maker’s charger, and do not leave it unattended. ${SWOLLEN_BATTERY} Take the planned breaks, and more if you need them.`}
      </Quiet>
    </Section>
  );
}

const COOLING: Record<CoolingFrom, (of: number) => string> = {
  'own-cool-downs': (of) => `measured in ${count(of, 'cool-down')} of this device`,
  'own-warm-ups': (of) => `estimated from ${count(of, 'warm-up')} of this device (no cool-down measured yet)`,
  class: () => 'typical for this device type (no runs of its own yet)',
};

const charging = ({ chargePercentPerMin, batteryWh }: PosedDay['devices'][number]): string =>
  `It charges ${(chargePercentPerMin * 10).toFixed(0)} % in ten minutes up to 80 % (${batteryWh.toFixed(1)} Wh), then half as fast.`;

function ofTitles(day: PosedDay, card: Card, device: string): string {
  const words = {
    'own-title': 'runs of the same title',
    'own-demand': 'runs of titles of the same type',
    class: 'typical values',
  };
  const said = new Map<string, Set<string>>();
  for (const task of day.tasks) {
    const step = card.steps.find((one) => task.taskId.startsWith(`${one.id}#`));
    if (step?.device !== device) continue;
    for (const from of [words[task.riseFrom], words[task.drainFrom]])
      said.set(from, (said.get(from) ?? new Set()).add(step.title));
  }
  return `Source of warmth and drain: ${[...said].map(([from, titles]) => `${[...titles].join(', ')} from ${from}`).join('; ')}.`;
}
