import type { ReviewDetail, ReviewSection } from '@pace-check/contract';
import {
  evidenceLines,
  figuresIn,
  figureState,
  fillFigures,
  SECTION_TITLES,
  titleCells,
  titleTable,
  type LiveFigure,
  type Voice,
} from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { ScrollView } from 'react-native';
import { usePalette } from '../../ui/Look';
import { Row, Sheet, Stack } from '../../ui/parts';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';

interface Props {
  section: ReviewSection;
  review: ReviewDetail;
  voice: Voice;
  figures: LiveFigure[];
  onChange: (section: ReviewSection) => void;
  onMove: (by: -1 | 1) => void;
  first: boolean;
  last: boolean;
}

/** One part of a review: its words, its figures, and what its runs say beside them. */
export function SectionSheet(props: Props): ReactNode {
  const { section, onChange, onMove, first, last } = props;
  const title = SECTION_TITLES[section.kind];
  return (
    <Sheet gap={8} role="region" aria-label={title} style={section.hidden ? { opacity: 0.75 } : null}>
      <Row apart align="center" wrap>
        <Heading>{title}</Heading>
        <Row>
          <Button
            type="clear"
            title="Up"
            aria-label={`Move ${title} up`}
            disabled={first}
            buttonStyle={TIGHT}
            onPress={() => onMove(-1)}
          />
          <Button
            type="clear"
            title="Down"
            aria-label={`Move ${title} down`}
            disabled={last}
            buttonStyle={TIGHT}
            onPress={() => onMove(1)}
          />
          <Button
            type="clear"
            title={section.hidden ? 'Show' : 'Leave out'}
            aria-label={section.hidden ? `Show ${title}` : `Leave ${title} out`}
            buttonStyle={TIGHT}
            onPress={() => onChange({ ...section, hidden: !section.hidden })}
          />
        </Row>
      </Row>
      {section.hidden ? <Quiet>It is not published.</Quiet> : <Open {...props} title={title} />}
    </Sheet>
  );
}

const TIGHT = { paddingHorizontal: 8 };

function Open({ section, review, voice, figures, onChange, title }: Props & { title: string }): ReactNode {
  const [picking, setPicking] = useState(false);
  const write = (text: string): void => {
    // a new @ at the end asks for a figure
    if (text.length === section.text.length + 1 && text.endsWith('@')) setPicking(true);
    onChange({ ...section, text });
  };
  const insert = (figure: LiveFigure): void => {
    setPicking(false);
    const text = section.text.replace(/@$/, '');
    onChange({
      ...section,
      text: `${text}${text === '' || /\s$/.test(text) ? '' : ' '}@{${figure.name}}`,
      figures: [
        ...section.figures.filter((one) => one.name !== figure.name),
        { name: figure.name, runId: figure.runId, measure: figure.measure, accepted: figure.says },
      ],
    });
  };
  const held = figuresIn(section.text);
  const lines = evidenceLines(section.kind, review.evidence, voice);
  return (
    <>
      {lines === '' ? null : (
        <Stack gap={2} role="group" aria-label={`From the runs: ${title}`}>
          {lines.split('\n').map((line) => (
            <Body key={line} small>
              {line}
            </Body>
          ))}
        </Stack>
      )}
      {section.kind === 'titles' ? <Table review={review} voice={voice} /> : null}
      {section.kind === 'comparisons'
        ? review.comparisons.map(({ id, name, answer }) => (
            <Body key={id} small>{`${name}: ${answer ?? 'not compared'}`}</Body>
          ))
        : null}
      {section.kind === 'requests'
        ? review.requests.map(({ title: asked, device, asked: many, answered }) => (
            <Body key={asked + device} small>
              {`${asked}${device ? ` on ${device}` : ''}: asked ${many} times, ${answered ? 'answered' : 'not answered'}`}
            </Body>
          ))
        : null}
      <Input
        multiline
        label="Your words"
        aria-label={`Words of ${title}`}
        value={section.text}
        onChangeText={write}
        maxLength={20_000}
        inputStyle={{ paddingVertical: 8 }}
        numberOfLines={Math.min(12, Math.max(3, section.text.split('\n').length + 1))}
        renderErrorMessage={false}
      />
      <Row>
        <Button
          type="clear"
          title={picking ? 'Close' : 'Insert a figure'}
          aria-label={picking ? `Close the figures of ${title}` : `Insert a figure into ${title}`}
          aria-expanded={picking}
          onPress={() => setPicking(!picking)}
        />
      </Row>
      {picking ? <Picker figures={figures} onPick={insert} /> : null}
      {held.length > 0 ? <Body small>{fillFigures(section.text, section.figures)}</Body> : null}
      {held.map((name) => (
        <Held key={name} name={name} section={section} figures={figures} onChange={onChange} />
      ))}
    </>
  );
}

/** A figure that the text holds, where it is not what it was any more. */
function Held({
  name,
  section,
  figures,
  onChange,
}: Pick<Props, 'section' | 'figures' | 'onChange'> & { name: string }): ReactNode {
  const { action } = usePalette();
  const kept = section.figures.find((one) => one.name === name);
  const state = kept ? figureState(kept, figures) : null;
  if (state?.state === 'same') return null;
  return (
    <Row
      apart
      align="center"
      gap={8}
      role="status"
      style={{ borderLeftWidth: 3, borderColor: action, paddingLeft: 10 }}
    >
      <Body small style={{ flexShrink: 1 }}>
        {state === null
          ? `“${name}” is no figure of this review.`
          : state.state === 'gone'
            ? `${name}: was ${state.was}, and is not known any more.`
            : `${name}: was ${state.was}, now ${state.now}.`}
      </Body>
      {state?.state === 'changed' ? (
        <Button
          type="outline"
          title="Accept"
          aria-label={`Accept ${name}`}
          onPress={() =>
            onChange({
              ...section,
              figures: section.figures.map((one) =>
                one.name === name ? { ...one, accepted: state.now } : one,
              ),
            })
          }
        />
      ) : null}
    </Row>
  );
}

const SHOWN = 8;

/** Figures that can be had, found by typing. */
function Picker({
  figures,
  onPick,
}: {
  figures: LiveFigure[];
  onPick: (figure: LiveFigure) => void;
}): ReactNode {
  const [q, setQ] = useState('');
  const words = q.toLowerCase().split(/\s+/).filter(Boolean);
  const found = figures.filter(({ name }) => words.every((word) => name.toLowerCase().includes(word)));
  return (
    <Stack role="group" aria-label="Figures" gap={2}>
      <Input
        label="Find a figure"
        aria-label="Find a figure"
        value={q}
        onChangeText={setQ}
        autoFocus
        onSubmitEditing={() => found[0] && onPick(found[0])}
        renderErrorMessage={false}
      />
      {found.slice(0, SHOWN).map((figure) => (
        <Button
          key={figure.name}
          type="clear"
          title={`${figure.name}: ${figure.says}`}
          titleStyle={{ textAlign: 'left', flex: 1 }}
          onPress={() => onPick(figure)}
        />
      ))}
      {found.length > SHOWN ? <Quiet>{`and ${found.length - SHOWN} more`}</Quiet> : null}
      {found.length === 0 ? (
        <Quiet>None is called so; one that was not measured is not offered.</Quiet>
      ) : null}
    </Stack>
  );
}

/** The table of titles, live. */
function Table({ review, voice }: { review: ReviewDetail; voice: Voice }): ReactNode {
  const { line } = usePalette();
  const { heads, cells } = titleCells(voice);
  const rows = titleTable(review.evidence, voice.school);
  return (
    <ScrollView horizontal tabIndex={0} aria-label="Table of titles">
      <Stack role="table" aria-label="Titles">
        <Row role="row" gap={10} style={{ borderBottomWidth: 1, borderColor: line }}>
          {heads.map((head, i) => (
            <Quiet key={head} role="columnheader" style={{ width: i < 3 ? 130 : 86 }}>
              {head}
            </Quiet>
          ))}
        </Row>
        {rows.map((row) => (
          <Row
            key={`${row.device} ${row.title} ${row.setup}`}
            role="row"
            gap={10}
            style={{ paddingVertical: 4 }}
          >
            {cells(row).map((cell, i) => (
              <FigureText key={heads[i]} role="cell" size={16} style={{ width: i < 3 ? 130 : 86 }}>
                {cell}
              </FigureText>
            ))}
          </Row>
        ))}
      </Stack>
    </ScrollView>
  );
}
