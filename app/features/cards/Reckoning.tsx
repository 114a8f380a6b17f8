import type { Card, Kit } from '@pace-check/contract';
import { ASSUMED_ROOM_C, type CoolingFrom, type PosedDay } from '@pace-check/core';
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
    <Section title="How it is reckoned">
      {day.devices.map((device) => (
        <Body
          key={device.name}
          small
        >{`${device.name} cools with a time constant of ${device.coolTauMin.toFixed(1)} min, ${COOLING[device.coolingFrom](device.coolingOf)}. ${charging(device)} ${ofTitles(day, card, device.name)}`}</Body>
      ))}
      {day.roomKnown ? null : (
        <Body small>{`The room is unknown: ${temperature(ASSUMED_ROOM_C)} is assumed.`}</Body>
      )}
      <Quiet>
        {`Charge only below ${temperature(card.rules.chargeBelowC)} on the skin, by the maker’s own charger and instructions, and not unwatched. A swollen, leaking, hissing or very hot battery: stop, do not charge, do not puncture, move away, and have it handled by a professional. Rest hands and eyes when the plan says so, and sooner when they ask.`}
      </Quiet>
    </Section>
  );
}

const COOLING: Record<CoolingFrom, (of: number) => string> = {
  'own-cool-downs': (of) => `from ${count(of, 'cool-down')} of its own`,
  'own-warm-ups': (of) => `from ${count(of, 'warm-up')} of its own (no cool-down was read yet)`,
  class: () => 'usual for its class (it has no runs of its own yet)',
};

const charging = ({ chargePercentPerMin, batteryWh }: PosedDay['devices'][number]): string =>
  `It charges ${(chargePercentPerMin * 10).toFixed(0)} % in ten minutes up to 80 % (${batteryWh.toFixed(1)} Wh), half of that above.`;

function ofTitles(day: PosedDay, card: Card, device: string): string {
  const words = {
    'own-title': 'its own runs of the title',
    'own-demand': 'its own runs that ask as much',
    class: 'its class',
  };
  const said = new Map<string, Set<string>>();
  for (const task of day.tasks) {
    const step = card.steps.find((one) => task.taskId.startsWith(`${one.id}#`));
    if (step?.device !== device) continue;
    for (const from of [words[task.riseFrom], words[task.drainFrom]])
      said.set(from, (said.get(from) ?? new Set()).add(step.title));
  }
  return `Warmth and drain: ${[...said].map(([from, titles]) => `${[...titles].join(', ')} from ${from}`).join('; ')}.`;
}
