import { batteryWhOf, type LadderDoc } from '@pace-check/contract';
import { powerRows, type PowerRow } from '@pace-check/core';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { Circle, Line, Path } from 'react-native-svg';
import { useKit } from '../../api/queries';
import { Canvas, Label } from '../../charts/Canvas';
import { pathOf, scale } from '../../charts/scale';
import { usePalette } from '../../ui/Look';
import { Row } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { Body, FigureText, Quiet } from '../../ui/words';

/** What each power limit gives: speed, watts, energy of a frame, hours; the energy of a frame drawn over the limits. */
export function PowerSection({ doc }: { doc: LadderDoc }): ReactNode {
  const kit = useKit().data;
  const facts = kit?.devices.find((one) => one.name.toLowerCase() === doc.device.toLowerCase())?.facts ?? {};
  const rows = powerRows(doc, {
    batteryWh: batteryWhOf(facts),
    powerW: facts.powerW ?? null,
    boostW: facts.boostW ?? null,
  });
  const { line } = usePalette();
  const cell = { flex: 1, paddingVertical: 6, borderTopWidth: 1, borderColor: line } as const;
  return (
    <Section title="Power limits">
      <PerFrame rows={rows} />
      <View role="table" aria-label="Power limits">
        <Row role="row" gap={8}>
          {['Limit', 'Speed', 'Power used', 'Energy per frame', 'Battery life'].map((head) => (
            <Quiet key={head} role="columnheader" style={{ flex: 1 }}>
              {head}
            </Quiet>
          ))}
        </Row>
        {rows.map(({ rung, mark, speed, watts, perFrameMj, hours }) => (
          <Row key={rung} role="row" gap={8}>
            <Body small role="rowheader" style={cell}>
              {mark === null ? rung : `${rung}, ${mark}`}
            </Body>
            {[
              speed === null ? null : `${Math.round(speed * 100)} %`,
              watts === null ? null : `${watts.toFixed(1)} W`,
              perFrameMj === null ? null : `${Math.round(perFrameMj)} mJ`,
              hours === null ? null : `${hours.toFixed(1)} h`,
            ].map((text, i) => (
              <FigureText key={i} role="cell" style={cell}>
                {text ?? '–'}
              </FigureText>
            ))}
          </Row>
        ))}
      </View>
      <Quiet>
        Device power as measured in each test. A power limit covers the chip only; the screen adds to it.
        Battery life: hours from full to empty at that power.
      </Quiet>
    </Section>
  );
}

const HEIGHT = 132;

/** Millijoules of a frame over the limits. */
function PerFrame({ rows }: { rows: PowerRow[] }): ReactNode {
  const { drain, line, ink } = usePalette();
  const known = rows
    .flatMap(({ limitW, perFrameMj }) =>
      limitW === null || perFrameMj === null ? [] : { limitW, perFrameMj },
    )
    .sort((a, b) => a.limitW - b.limitW);
  if (known.length < 2) return null;
  const most = Math.max(...known.map((one) => one.perFrameMj)) * 1.15;
  return (
    <Canvas
      height={HEIGHT}
      label={`Energy per frame by limit: ${known.map((one) => `${one.limitW} W ${Math.round(one.perFrameMj)} mJ`).join(', ')}`}
    >
      {(width) => {
        const x = scale([known[0]!.limitW, known.at(-1)!.limitW], [24, width - 28]);
        const y = scale([0, most], [HEIGHT - 22, 10]);
        const points = known.map((one): [number, number] => [x(one.limitW), y(one.perFrameMj)]);
        return (
          <>
            <Line x1={0} x2={width} y1={HEIGHT - 22} y2={HEIGHT - 22} stroke={line} />
            <Path d={pathOf(points)} stroke={drain} strokeWidth={2} fill="none" />
            {known.map(({ limitW, perFrameMj }, i) => [
              <Circle key={`at ${limitW}`} cx={points[i]![0]} cy={points[i]![1]} r={4} fill={drain} />,
              <Label key={`mj ${limitW}`} x={points[i]![0]} y={points[i]![1] - 9} anchor="middle" color={ink}>
                {`${Math.round(perFrameMj)}${i === 0 ? ' mJ' : ''}`}
              </Label>,
              <Label key={`w ${limitW}`} x={points[i]![0]} y={HEIGHT - 6} anchor="middle">
                {`${limitW} W`}
              </Label>,
            ])}
          </>
        );
      }}
    </Canvas>
  );
}
