import { ROUTES, type Outcomes } from '@pace-check/contract';
import {
  CLAIM_LEVELS,
  claimShare,
  latestOutcomes,
  problemList,
  runShare,
  sayCounted,
  type CountedOutcome,
  type RunOutcomeStatus,
} from '@pace-check/core';
import { Button } from '@rneui/themed';
import { Link, useLocalSearchParams } from 'expo-router';
import { useCallback, useMemo, useState, type ReactNode } from 'react';
import { FlatList } from 'react-native';
import { useOutcomes } from '../../api/outcomes';
import { useKit } from '../../api/queries';
import { Guard } from '../../ui/Guard';
import { useWide } from '../../ui/Look';
import { IfMay } from '../../ui/Role';
import { Row, Stack } from '../../ui/parts';
import { PlaceHead } from '../../ui/PlaceHead';
import { ResultsTabs } from '../../ui/ResultsTabs';
import { Section } from '../../ui/Section';
import { Answered } from '../../ui/states';
import { Body, FigureText, Quiet } from '../../ui/words';
import { MatrixHead, TitleRow } from './Matrix';
import { distinct, filtered, matrixRows, NO_MATRIX_FILTER, type Seen } from './matrixRows';
import { NoteClaims } from './NoteClaims';
import { OneAgainstAnother } from './OneAgainstAnother';
import { NoteOutcome } from './NoteOutcome';
import { NoteVersion } from './NoteVersion';
import { PasteOutcomes } from './PasteOutcomes';

/** How it goes with titles that give no run: noted by thumb or pasted, counted by device, held against claims and versions. */
export function OutcomesScreen(): ReactNode {
  const all = useOutcomes();
  const wide = useWide();
  const titles = useKit().data?.titles;
  const [filter, setFilter] = useState(NO_MATRIX_FILTER);
  const [open, setOpen] = useState<string | null>(null);
  const onOpen = useCallback((title: string) => setOpen((now) => (now === title ? null : title)), []);
  const known = all.data;
  // what was played counts as well as what was noted; of one day what was noted leads
  const seen = useMemo((): Seen[] => (known ? [...known.runs, ...known.outcomes] : []), [known]);
  const rows = useMemo(() => matrixRows(seen, titles ?? [], filter.under), [seen, titles, filter.under]);
  const shown = useMemo(() => filtered(rows, filter), [rows, filter]);
  const devices = useMemo(
    () => distinct(shown.flatMap((row) => row.outcomes.map((one) => one.device))),
    [shown],
  );
  return (
    <FlatList
      data={shown}
      keyboardShouldPersistTaps="handled"
      initialNumToRender={12}
      maxToRenderPerBatch={8}
      windowSize={7}
      // room below the last line, so that a message does not lie on it
      contentContainerStyle={{ padding: wide ? 24 : 14, paddingBottom: 120, maxWidth: 1100, width: '100%' }}
      keyExtractor={(row) => row.title}
      extraData={open}
      renderItem={({ item }) => (
        <Guard what={item.title}>
          <TitleRow row={item} devices={devices} open={open === item.title} onOpen={onOpen} />
        </Guard>
      )}
      ListHeaderComponent={
        <Stack gap={16}>
          <PlaceHead title="Results" />
          <ResultsTabs here="Compatibility" />
          <Link href="/synthetic">
            <Body style={{ textDecorationLine: 'underline' }}>Synthetic scores</Body>
          </Link>
          <Answered query={all} loading={{ rows: 4, height: 70, label: 'Loading results' }}>
            {(answer) => (
              <>
                <Known all={answer} />
                {seen.length > 0 ? (
                  <MatrixHead
                    outcomes={seen}
                    rows={rows}
                    shown={shown}
                    filter={filter}
                    onChange={(more) => setFilter((now) => ({ ...now, ...more }))}
                  />
                ) : null}
              </>
            )}
          </Answered>
        </Stack>
      }
    />
  );
}

const ADDING = ['one', 'table', 'claims', 'version'] as const;
const ADD_WORDS = { one: 'Add', table: 'Paste a table', claims: 'Claims', version: 'New version' };

function Known({ all }: { all: Outcomes }): ReactNode {
  const [adding, setAdding] = useState<(typeof ADDING)[number] | null>(
    useLocalSearchParams<{ new?: string }>().new ? 'one' : null,
  );
  const layers = useMemo(
    () =>
      [
        ...new Set([...all.runs, ...all.outcomes, ...all.versions].map((one) => one.with).filter(Boolean)),
      ].sort(),
    [all],
  );
  // what was played counts as well as what was noted; of one day what was noted leads
  const latest = useMemo(
    () => latestOutcomes<CountedOutcome<RunOutcomeStatus>>([...all.runs, ...all.outcomes]),
    [all.runs, all.outcomes],
  );
  return (
    <>
      <IfMay route={ROUTES.noteOutcomes}>
        <Row gap={8} wrap role="group" aria-label="Add">
          {ADDING.map((way) => (
            <Button
              key={way}
              type={adding === way ? 'solid' : 'outline'}
              title={ADD_WORDS[way]}
              aria-expanded={adding === way}
              onPress={() => setAdding(adding === way ? null : way)}
            />
          ))}
        </Row>
      </IfMay>
      {adding === 'one' ? <NoteOutcome all={all} layers={layers} /> : null}
      {adding === 'table' ? <PasteOutcomes layers={layers} /> : null}
      {adding === 'claims' ? <NoteClaims claims={all.claims} layers={layers} /> : null}
      {adding === 'version' ? <NoteVersion layers={layers} /> : null}
      {latest.length === 0 ? (
        <Body>
          No results yet. Add a result for titles you did not measure: does it start, where does it crash,
          what is wrong?
        </Body>
      ) : (
        <>
          <Counts all={all} latest={latest} />
          {layers.map((layer) => (
            <Problems key={layer} all={all} layer={layer} />
          ))}
          <OneAgainstAnother all={all} />
        </>
      )}
    </>
  );
}

/** How many run on each device, and what came of the claims. */
function Counts({ all, latest }: { all: Outcomes; latest: CountedOutcome<RunOutcomeStatus>[] }): ReactNode {
  const devices = [...new Set(latest.map((one) => one.device))].sort();
  const claims = CLAIM_LEVELS.flatMap((level) => {
    const share = claimShare(level, all.claims, latest);
    return share.of === 0 ? [] : [{ level, share }];
  });
  return (
    <Section title="Share of titles that run">
      <Stack role="list" aria-label="Share of titles that run" gap={4} style={{ maxWidth: 520 }}>
        {devices.map((device) => (
          <Row key={device} role="listitem" apart gap={12}>
            <Body head style={{ flexShrink: 1 }}>
              {device}
            </Body>
            <FigureText>{sayCounted(runShare(latest.filter((one) => one.device === device)))}</FigureText>
          </Row>
        ))}
        {claims.map(({ level, share }) => (
          <Row key={level} role="listitem" apart gap={12}>
            <Body style={{ flexShrink: 1 }}>{`claimed “${level}”, confirmed`}</Body>
            <FigureText style={{ flexShrink: 0 }}>{sayCounted(share)}</FigureText>
          </Row>
        ))}
      </Stack>
      <Quiet>
        Counted: titles that were tested or run, and that are available. “Run” means starts and continues,
        even if slow or with glitches. In brackets: 95 % interval (Wilson).
      </Quiet>
    </Section>
  );
}

/** So many titles of a layer are shown before somebody asks for all. */
const SHOWN = 60;

/** Titles that did not always run at full speed, and how they go under the newest version. */
function Problems({ all, layer }: { all: Outcomes; layer: string }): ReactNode {
  const versions = all.versions.filter((one) => one.with === layer).map((one) => one.version);
  const rows = problemList([...all.runs, ...all.outcomes], layer, versions);
  const again = rows.filter((row) => row.progress === 'unverified');
  const [most, setMost] = useState(SHOWN);
  if (rows.length === 0) return null;
  return (
    <Section title={versions.length > 0 ? `${layer} ${versions.at(-1)}` : layer}>
      {again.length > 0 ? (
        <Stack role="list" aria-label={`Test again with ${layer} ${versions.at(-1)}`} gap={2}>
          <Quiet>{`Test again with ${versions.at(-1)}:`}</Quiet>
          {again.slice(0, most).map(({ title, device, seen }) => (
            <Body key={`${title} ${device}`} role="listitem" small>
              {`${title} on ${device}: ${seen.at(-1)!.status} with ${seen.at(-1)!.version || 'an unknown version'}`}
            </Body>
          ))}
        </Stack>
      ) : null}
      <Stack role="list" aria-label={`Problems with ${layer}`} gap={2}>
        {rows
          .filter((row) => row.progress !== 'unverified')
          .slice(0, most)
          .map(({ title, device, progress, seen }) => (
            <Body key={`${title} ${device}`} role="listitem" small>
              <Body head small>{`${progress}  `}</Body>
              {`${title} on ${device}: ${seen.map(({ version, status }) => `${status}${version ? ` (${version})` : ''}`).join(', then ')}`}
            </Body>
          ))}
      </Stack>
      {rows.length > most ? (
        <Row>
          <Button type="clear" title={`Show all ${rows.length}`} onPress={() => setMost(rows.length)} />
        </Row>
      ) : null}
    </Section>
  );
}
