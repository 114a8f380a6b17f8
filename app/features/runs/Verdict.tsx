import type { RunDetail } from '@pace-check/contract';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { usePalette } from '../../ui/Look';
import { FONTS } from '../../ui/theme';
import { Body, FigureText, Quiet } from '../../ui/words';
import { Row, Stack } from '../../ui/parts';

const TRUST: Record<string, string> = {
  A: 'little speaks against it',
  B: 'mind the caveats',
  C: 'much speaks against it',
  D: 'not to be relied on',
};

/** What the run is called, whether it plays, how far it may be trusted and why. */
export function Verdict({ run }: { run: RunDetail }): ReactNode {
  const { stamina, playable, confidence } = run.figures;
  return (
    <Stack gap={8}>
      <Row wrap style={{ columnGap: 24, rowGap: 8 }}>
        {stamina.word ? <Word word={stamina.word} says="stamina" /> : null}
        {playable ? <Word word={playable} says={`for ${run.need}`} /> : null}
        <Word word={confidence} says={`confidence: ${TRUST[confidence]}`} />
      </Row>
      {run.caveats.length > 0 ? (
        <View role="list" aria-label="Caveats">
          {run.caveats.map(({ caveat, says }) => (
            <Row key={caveat} role="listitem" gap={8}>
              <Quiet aria-hidden>–</Quiet>
              <Body small style={{ flex: 1 }}>
                {says}
              </Body>
            </Row>
          ))}
        </View>
      ) : null}
    </Stack>
  );
}

function Word({ word, says }: { word: string; says: string }): ReactNode {
  const { line } = usePalette();
  return (
    <View style={{ borderLeftWidth: 3, borderColor: line, paddingLeft: 10 }}>
      <FigureText size={21} style={{ fontFamily: FONTS.head }}>
        {word}
      </FigureText>
      <Quiet>{says}</Quiet>
    </View>
  );
}
