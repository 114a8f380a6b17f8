import type { RunDetail } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { useCorrectRun } from '../../api/queries';
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
  const { stamina, playable, bar, read } = run.figures;
  const confidence = run.confidence ?? run.figures.confidence;
  const undecided = playable === null && bar !== null && read?.average;
  return (
    <Stack gap={8}>
      <Row wrap style={{ columnGap: 24, rowGap: 8 }}>
        {stamina.word ? <Word word={stamina.word} says="stamina" /> : null}
        {playable ? <Word word={playable} says={`for ${sayNeed(run)}`} /> : null}
        {undecided ? (
          <Word word="not settled" says={`for ${sayNeed(run)}: what was read may be either side of it`} />
        ) : null}
        <Word word={confidence} says={`confidence: ${TRUST[confidence]}`} />
      </Row>
      <BarNow run={run} />
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

/** A need with its bar: "action: average 45, 1 % low 30". */
function sayNeed({ need, figures: { bar } }: RunDetail): string {
  return bar ? `${need}: average ${bar.average}, 1\u00a0%\u00a0low ${bar.low}` : String(need);
}

/** The bars have changed since the run was judged: it says so, and may be judged anew. */
function BarNow({ run }: { run: RunDetail }): ReactNode {
  const correct = useCorrectRun(run.id);
  if (!run.barNow) return null;
  return (
    <Row gap={10} align="center" wrap>
      <Body
        small
      >{`Your bar for ${run.need} is now average ${run.barNow.average}, 1 % low ${run.barNow.low}.`}</Body>
      <Button
        type="clear"
        title="Judge by it"
        loading={correct.isPending}
        onPress={() => correct.mutate({ barsOfNow: true })}
      />
    </Row>
  );
}

function Word({ word, says }: { word: string; says: string }): ReactNode {
  const { line } = usePalette();
  return (
    <View style={{ borderLeftWidth: 3, borderColor: line, paddingLeft: 10, flexShrink: 1 }}>
      <FigureText size={21} style={{ fontFamily: FONTS.head }}>
        {word}
      </FigureText>
      <Quiet>{says}</Quiet>
    </View>
  );
}
