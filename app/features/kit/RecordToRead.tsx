import type { KitDevice, KitTitle, NamedItem } from '@pace-check/contract';
import type { ReactNode } from 'react';
import { Stack } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { Body, Heading, Quiet } from '../../ui/words';
import { GROUPS, type FieldSpec } from './fields';

type Known = NamedItem & { facts: object };

/** A record of the kit for those who do not change it: what is known, in words. */
export function RecordToRead({ kind, record }: { kind: keyof typeof GROUPS; record: Known }): ReactNode {
  const facts = record.facts as Record<string, unknown>;
  const known = GROUPS[kind]
    .flatMap((group) => group.fields)
    .flatMap((spec) => {
      const says = sayFact(spec, facts[spec.field]);
      return says === null ? [] : [{ label: plain(spec.label), says }];
    });
  return (
    <>
      <Heading level={1}>{record.name}</Heading>
      <Lines
        title="Details"
        lines={known.map(({ label, says }) => `${label}: ${says}`)}
        none="Only the name is recorded."
      />
      {kind === 'device' ? <OfDevice device={record as KitDevice} /> : null}
      {kind === 'title' ? (
        <Lines
          title="Scenes"
          lines={((record as KitTitle).facts.scenes ?? []).map(({ name, weight }) =>
            [name, weight].filter(Boolean).join(', '),
          )}
        />
      ) : null}
    </>
  );
}

function OfDevice({ device: { facts, spots } }: { device: KitDevice }): ReactNode {
  return (
    <>
      <Lines
        title="Screens"
        lines={(facts.screens ?? []).map(({ name, inches, widthPx, heightPx, refreshHz, adaptive }) =>
          [
            name,
            inches === undefined ? null : `${inches} inches`,
            widthPx === undefined || heightPx === undefined ? null : `${widthPx} × ${heightPx} px`,
            refreshHz === undefined || refreshHz.length === 0 ? null : `${refreshHz.join(' / ')} Hz`,
            adaptive ? 'adaptive' : null,
          ]
            .filter(Boolean)
            .join(', '),
        )}
      />
      <Lines
        title="Skin spots"
        lines={spots.map(({ spot, side }) =>
          [spot, side, spot === facts.chipSpot ? 'over the chip' : null].filter(Boolean).join(', '),
        )}
      />
    </>
  );
}

function Lines({ title, lines, none }: { title: string; lines: string[]; none?: string }): ReactNode {
  if (lines.length === 0 && none === undefined) return null;
  return (
    <Section title={title}>
      {lines.length === 0 ? (
        <Quiet>{none}</Quiet>
      ) : (
        <Stack role="list" aria-label={title} gap={2}>
          {lines.map((line) => (
            <Body key={line} role="listitem">
              {line}
            </Body>
          ))}
        </Stack>
      )}
    </Section>
  );
}

/** A field's label without what helps to fill it in. */
const plain = (label: string): string => label.replace(/^or | \([^)]*\)$/g, '');

/** A fact in words; null where nobody stated it. */
function sayFact(spec: FieldSpec, value: unknown): string | null {
  if (value === undefined || value === null || value === '') return null;
  if (Array.isArray(value)) return value.length === 0 ? null : value.join(', ');
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  const word = String(value as string | number);
  return spec.as === 'choice' ? (spec.words?.[word] ?? word) : word;
}
