import type { RunDetail, StoredEntry } from '@pace-check/contract';
import { clock, CONDITION_SPANS, type EntryLine } from '@pace-check/core';
import { useMemo, useState, type ReactNode } from 'react';
import { PanResponder, View, type GestureResponderHandlers } from 'react-native';
import { useCorrectEntry } from '../../../api/queries';
import type { Scale } from '../../../charts/scale';
import { usePalette } from '../../../ui/Look';
import { Stack } from '../../../ui/parts';
import { TARGET } from '../../../ui/theme';
import { useToast } from '../../../ui/Toast';
import { Quiet } from '../../../ui/words';

type SpanLine = Extract<EntryLine, { type: 'span' }>;
type SpanEntry = StoredEntry & { line: SpanLine };

/** Less is no switch, s. */
const SHORTEST_S = 5;
const BAR = 22;

/** Lines of what was switched, by their kind. */
export function switchesOf(entries: StoredEntry[]): [kind: string, spans: SpanEntry[]][] {
  const spans = entries.filter(
    (entry): entry is SpanEntry =>
      entry.line.type === 'span' &&
      (entry.line.kind === 'charging' || CONDITION_SPANS.includes(entry.line.kind)),
  );
  return [...new Set(spans.map((entry) => entry.line.kind))].map((kind) => [
    kind,
    spans.filter((entry) => entry.line.kind === kind),
  ]);
}

/** A row for each switch: when it was on. Its ends are dragged, or moved by the arrow keys. */
export function SwitchBars({
  run,
  x,
  seconds,
  fixed,
}: {
  run: RunDetail;
  /** From seconds to px. */
  x: Scale;
  seconds: number;
  /** Nothing can be moved. */
  fixed: boolean;
}): ReactNode {
  return switchesOf(run.entries).map(([kind, spans]) => (
    <Stack key={kind} style={{ height: TARGET + 18 }}>
      <Quiet>{kind}</Quiet>
      {spans.map((entry) => (
        <Bar
          // what is dragged is reckoned with the width and the times that it began with
          key={`${entry.id} ${entry.line.fromMs} ${entry.line.toMs} ${x.range()[1]}`}
          run={run}
          entry={entry}
          x={x}
          seconds={seconds}
          fixed={fixed}
        />
      ))}
    </Stack>
  ));
}

function Bar({
  run,
  entry,
  x,
  seconds,
  fixed,
}: {
  run: RunDetail;
  entry: SpanEntry;
  x: Scale;
  seconds: number;
  fixed: boolean;
}): ReactNode {
  const { action, ink } = usePalette();
  const correct = useCorrectEntry(run.id);
  const toast = useToast();
  const { line } = entry;
  const [moved, setMoved] = useState<{ fromS: number; toS: number } | null>(null);
  const [fromS, toS] = moved ? [moved.fromS, moved.toS] : [line.fromMs / 1000, line.toMs / 1000];
  /** The span with one end elsewhere, in whole seconds and in order. */
  const endAt = (end: 'from' | 'to', atS: number): { fromS: number; toS: number } => {
    const [from, to] = [line.fromMs / 1000, line.toMs / 1000];
    return end === 'from'
      ? { fromS: Math.round(Math.min(Math.max(0, atS), to - SHORTEST_S)), toS: to }
      : { fromS: from, toS: Math.round(Math.max(Math.min(seconds, atS), from + SHORTEST_S)) };
  };
  const keep = (span: { fromS: number; toS: number }): void => {
    setMoved(span);
    const put = (to: SpanLine): void =>
      correct.mutate(
        { entry: entry.id, line: to },
        {
          onSuccess: () =>
            toast({
              text: `${line.kind}: on from ${clock(to.fromMs / 1000)} to ${clock(to.toMs / 1000)}.`,
              ...(to === line ? {} : { undo: () => put(line) }),
            }),
          onError: (error) => {
            setMoved(null);
            toast({ text: `Time not changed: ${error.message}` });
          },
        },
      );
    put({ ...line, fromMs: span.fromS * 1000, toMs: span.toS * 1000 });
  };
  const perPx = x.invert(1) - x.invert(0);
  const handle = (end: 'from' | 'to'): ReactNode => (
    <Handle
      label={`${line.kind}, ${end === 'from' ? 'on from' : 'off at'}`}
      atS={end === 'from' ? fromS : toS}
      seconds={seconds}
      left={x(end === 'from' ? fromS : toS) - TARGET / 2}
      onMove={(px) => setMoved(endAt(end, (end === 'from' ? line.fromMs : line.toMs) / 1000 + px * perPx))}
      onDrop={(px) => keep(endAt(end, (end === 'from' ? line.fromMs : line.toMs) / 1000 + px * perPx))}
      onStep={(by) => keep(endAt(end, (end === 'from' ? fromS : toS) + by))}
    />
  );
  return (
    <>
      <View
        role={fixed ? 'img' : undefined}
        aria-label={fixed ? `${line.kind} on from ${clock(fromS)} to ${clock(toS)}` : undefined}
        style={{
          position: 'absolute',
          top: 20 + (TARGET - BAR) / 2,
          left: x(fromS),
          width: Math.max(3, x(toS) - x(fromS)),
          height: BAR,
          borderRadius: 3,
          borderWidth: 1.5,
          borderColor: ink,
          backgroundColor: action,
          opacity: correct.isPending ? 0.5 : 1,
        }}
      />
      {fixed ? null : (
        <>
          {handle('from')}
          {handle('to')}
        </>
      )}
      {moved ? (
        <Quiet style={{ position: 'absolute', top: 0, left: Math.max(70, x(fromS)) }} role="status">
          {`${clock(fromS)} to ${clock(toS)}`}
        </Quiet>
      ) : null}
    </>
  );
}

/** One end of a bar, as wide as a thumb. */
function Handle({
  label,
  atS,
  seconds,
  left,
  onMove,
  onDrop,
  onStep,
}: {
  label: string;
  atS: number;
  seconds: number;
  left: number;
  onMove: (px: number) => void;
  onDrop: (px: number) => void;
  onStep: (seconds: number) => void;
}): ReactNode {
  const { ink, sheet } = usePalette();
  const pan: GestureResponderHandlers = useMemo(
    () =>
      PanResponder.create({
        onStartShouldSetPanResponder: () => true,
        onPanResponderMove: (_event, { dx }) => onMove(dx),
        onPanResponderRelease: (_event, { dx }) => {
          if (Math.abs(dx) > 1) onDrop(dx);
        },
        onPanResponderTerminationRequest: () => false,
      }).panHandlers,
    // the line under the bar does not change while it is dragged
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [],
  );
  const keys = {
    onKeyDown: (event: KeyboardEvent) => {
      const by = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key];
      if (by === undefined) return;
      event.preventDefault();
      onStep(by * (event.shiftKey ? 60 : 10));
    },
  };
  return (
    <View
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={Math.round(seconds)}
      aria-valuenow={Math.round(atS)}
      aria-valuetext={clock(atS)}
      {...pan}
      {...(keys as object)}
      style={
        {
          position: 'absolute',
          top: 20,
          left,
          width: TARGET,
          height: TARGET,
          alignItems: 'center',
          justifyContent: 'center',
          cursor: 'ew-resize',
          userSelect: 'none',
          touchAction: 'none',
        } as object
      }
    >
      <View
        style={{
          width: 12,
          height: 32,
          borderRadius: 4,
          borderWidth: 2,
          borderColor: ink,
          backgroundColor: sheet,
        }}
      />
    </View>
  );
}
