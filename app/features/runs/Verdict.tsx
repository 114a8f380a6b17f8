import { ROUTES, type RunDetail } from '@pace-check/contract';
import { clock, saysRestsOn, TRUSTED, type Confidence, type Trusted } from '@pace-check/core';
import { Button } from '@rneui/themed';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { useAddEntries, useCorrectRun } from '../../api/queries';
import { fps } from '../../ui/figures';
import { IfMay } from '../../ui/Role';
import { useToast } from '../../ui/Toast';
import { usePalette } from '../../ui/Look';
import { FONTS } from '../../ui/theme';
import { Body, FigureText, Quiet } from '../../ui/words';
import { Row, Stack } from '../../ui/parts';

const TRUST: Record<Confidence, string> = {
  A: 'reliable',
  B: 'fair',
  C: 'rough',
  D: 'hardly more than a hint',
};

/** "rough: counter readings, one run": a letter never stands alone. */
function sayTrust(run: RunDetail, measure: Trusted, letter: Confidence): string {
  const rests = saysRestsOn(
    run.caveats.map(({ caveat }) => caveat),
    run.figures.trust,
    measure,
  );
  return `${measure}: ${TRUST[letter]}${rests === '' ? '' : ` (${rests})`}`;
}

/** What the run is called, whether it plays, how far it may be trusted and why. */
export function Verdict({ run }: { run: RunDetail }): ReactNode {
  const { stamina, playable, bar, read } = run.figures;
  const confidences = run.confidences ?? run.figures.confidences;
  const undecided = playable === null && bar !== null && read?.average;
  return (
    <Stack gap={8}>
      <Row wrap style={{ columnGap: 24, rowGap: 8 }}>
        {stamina.word ? <Word word={stamina.word} says="stamina" /> : null}
        {playable ? <Word word={playable} says={`for ${sayNeed(run)}`} /> : null}
        {undecided ? (
          <Word
            word="unclear"
            says={`for ${sayNeed(run)}: the readings do not show whether it meets the threshold`}
          />
        ) : null}
      </Row>
      <View role="list" aria-label="Confidence">
        {TRUSTED.map((measure) => {
          const letter = confidences[measure];
          return letter === null ? null : (
            <Row key={measure} role="listitem" gap={8} align="baseline">
              <FigureText size={18} style={{ width: 14 }}>
                {letter}
              </FigureText>
              <Quiet style={{ flex: 1 }}>{sayTrust(run, measure, letter)}</Quiet>
            </Row>
          );
        })}
      </View>
      <AskMenu run={run} />
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
  return bar
    ? `${need}: average at least ${bar.average}, 1\u00a0%\u00a0low at least ${bar.low}`
    : String(need);
}

/** A stretch well above the target may have been a menu: it asks, and leaves it out on a tap. */
function AskMenu({ run }: { run: RunDetail }): ReactNode {
  const add = useAddEntries(run.id);
  const toast = useToast();
  const { over, target } = run.figures;
  if (over === null || target === null || run.part !== null) return null;
  const [fromMs, toMs] = [over.fromS * 1000, over.toS * 1000];
  return (
    <Row gap={10} align="center" wrap>
      <Body small>
        {`From ${clock(over.fromS)} to ${clock(over.toS)} it ran at ${fps(over.mean)} fps, target ${fps(target)}. Was that a menu or a loading screen?`}
      </Body>
      <IfMay route={ROUTES.addEntries}>
        <Button
          type="clear"
          title="Exclude it"
          loading={add.isPending}
          onPress={() =>
            add.mutate([{ type: 'span', fromMs, toMs, kind: 'menu' }], {
              onError: (error) => toast({ text: `Not excluded: ${error.message}` }),
            })
          }
        />
      </IfMay>
    </Row>
  );
}

/** The bars have changed since the run was judged: it says so, and may be judged anew. */
function BarNow({ run }: { run: RunDetail }): ReactNode {
  const correct = useCorrectRun(run.id);
  if (!run.barNow) return null;
  return (
    <Row gap={10} align="center" wrap>
      <Body
        small
      >{`Your thresholds for ${run.need} are now average ${run.barNow.average}, 1\u00a0%\u00a0low ${run.barNow.low}.`}</Body>
      <Button
        type="clear"
        title="Apply the new thresholds"
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
