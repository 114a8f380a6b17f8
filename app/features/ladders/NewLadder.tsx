import { ladderDoc, type LadderDoc } from '@pace-check/contract';
import { LADDER_AXES, USUAL_RUNGS, type LadderAxis, type Rung } from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { v4 as uuid, v5 as uuidOf } from 'uuid';
import { useLadders, useNewLadder, useNewLadders } from '../../api/ladders';
import { useKit } from '../../api/queries';
import { NumberInput } from '../../ui/Field';
import { Row, Sheet, Stack } from '../../ui/parts';
import { Select } from '../../ui/Select';
import { Quiet } from '../../ui/words';
import { Begin } from './Begin';
import { newNames, OtherTitles } from './OtherTitles';
import { canBegin, linesOf, SearchOf, useSearchOf } from './SearchOf';
import { forTitle } from './several';

/** What a search is of, and its rungs, the easiest for the device first. */
export function NewLadder({ from }: { from?: Partial<LadderDoc> }): ReactNode {
  const kit = useKit().data;
  const one = useNewLadder();
  const several = useNewLadders();
  const [together] = useState(() => uuid());
  const [more, setMore] = useState('');
  const [facts, setFacts] = useSearchOf(from);
  const { device, title } = facts;
  const [axis, setAxis] = useState<LadderAxis>('internal resolution');
  const [rungs, setRungs] = useState(USUAL_RUNGS['internal resolution'].join('\n'));
  const [pixels, setPixels] = useState<unknown>(null);
  const [full, setFull] = useState<unknown>(from?.full ?? null);
  const [probeMin, setProbeMin] = useState<unknown>(3);
  const others = newNames(linesOf(more), [title]);
  const many = others.length > 0;
  const known = kit?.titles.find((one) => one.name === title)?.facts.nativeFps ?? null;
  const screen = kit?.devices.find((one) => one.name === device)?.facts.screens?.[0];
  const system = kit?.titles.find((one) => one.name === title)?.facts.system;
  const template = useLadders().data?.find((one) => one.axis === axis && one.system === system);
  const choose = (chosen: LadderAxis): void => {
    setAxis(chosen);
    setRungs(USUAL_RUNGS[chosen].join('\n'));
  };
  const written = (): unknown => ({
    ...facts,
    device: device.trim(),
    title: title.trim(),
    axis,
    rungs: readRungs(rungs, axis === 'internal resolution' && typeof pixels === 'number' ? pixels : null),
    outputPixels: screen?.widthPx && screen.heightPx ? screen.widthPx * screen.heightPx : null,
    full: full ?? known,
    probeMin: probeMin ?? undefined,
    together: many ? together : null,
  });
  // of several titles each is a ladder of its own: all begin, or none
  const create = many
    ? {
        isPending: several.isPending,
        mutate: ({ id, doc }: { id: string; doc: LadderDoc }, told: Parameters<typeof several.mutate>[1]) =>
          several.mutate(
            {
              ladders: [
                { id, doc },
                // sent twice they are made once
                ...others.map((name) => ({
                  id: uuidOf(name.toLowerCase(), together),
                  doc: forTitle(doc, name, kit?.titles, typeof full === 'number' ? full : null),
                })),
              ],
            },
            told,
          ),
      }
    : one;
  return (
    <Sheet gap={8} role="form" aria-label="New ladder">
      <SearchOf facts={facts} onChange={setFacts} />
      <OtherTitles taken={[title]} system={system} value={more} onChange={setMore} />
      <Select
        label="Setting to raise (or power limit to lower)"
        options={LADDER_AXES.map((value) => ({ value, text: value }))}
        value={axis}
        onChange={(chosen) => choose(chosen ?? 'other')}
      />
      <Input
        multiline
        label="Values, one per line, least demanding first"
        aria-label="Settings in this ladder"
        value={rungs}
        onChangeText={setRungs}
        numberOfLines={Math.min(12, rungs.split('\n').length + 1)}
        inputStyle={{ paddingVertical: 8 }}
        renderErrorMessage={false}
      />
      {system !== undefined && template ? (
        <Row>
          <Button
            type="clear"
            title={`Use the last values for ${system}`}
            onPress={() => setRungs(template.rungs.join('\n'))}
          />
        </Row>
      ) : null}
      <Row gap={8} wrap>
        {axis === 'internal resolution' ? (
          <Stack flex={1} style={{ minWidth: 160 }}>
            <NumberInput
              label="Pixels at 1× (optional)"
              value={pixels}
              onChange={setPixels}
              placeholder="307200"
            />
          </Stack>
        ) : null}
        <Stack flex={1} style={{ minWidth: 160 }}>
          <NumberInput
            label="Full speed, fps"
            value={full}
            onChange={setFull}
            placeholder={known === null ? 'not known' : String(known)}
          />
        </Stack>
        <Stack flex={1} style={{ minWidth: 160 }}>
          <NumberInput label="Minutes per test" value={probeMin} onChange={setProbeMin} />
        </Stack>
      </Row>
      {axis === 'internal resolution' && pixels !== null ? (
        <Quiet>
          {screen?.widthPx && screen.heightPx
            ? `Values beyond the screen’s ${screen.widthPx} × ${screen.heightPx} pixels are marked as “no benefit”.`
            : 'Enter the screen’s pixels in Kit to mark values that bring no benefit.'}
        </Quiet>
      ) : null}
      <Begin
        schema={ladderDoc}
        written={written}
        create={create}
        leadTo={(id) => (many ? `/ladders/titles/${together}` : `/ladders/${id}`)}
        disabled={!canBegin(facts)}
      />
    </Sheet>
  );
}

/** Rungs of a text, a line each; with the pixels at 1× those of "3×" follow. */
function readRungs(text: string, pixelsAtOne: number | null): Rung[] {
  return linesOf(text).map((name) => {
    const times = Number(/^(\d+(?:\.\d+)?)\s*[×x]$/.exec(name)?.[1] ?? NaN);
    return {
      name,
      pixels: pixelsAtOne !== null && times > 0 ? Math.round(pixelsAtOne * times * times) : null,
    };
  });
}
