import { ROUTES, type ReviewSection } from '@pace-check/contract';
import {
  figuresIn,
  figureState,
  fillFigures,
  SECTIONS,
  type Block,
  type FigureState,
  type LiveFigure,
} from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { memo, useRef, useState, type ReactNode } from 'react';
import { usePalette } from '../../ui/Look';
import { IfMay, useMay } from '../../ui/Role';
import { Row, Sheet, Stack } from '../../ui/parts';
import { Body, Heading, Quiet } from '../../ui/words';
import { Blocks } from './Blocks';

interface Props {
  section: ReviewSection;
  /** What it says by itself. */
  blocks: Block[];
  figures: LiveFigure[];
  /** Address of a picture of it. */
  address: (chart: string) => string;
  onChange: (section: ReviewSection) => void;
  /** Facts of its own, between what it says and the words. */
  children?: ReactNode;
}

/** One part of a review: its words, its figures, and what its evidence says beside them. */
export const SectionSheet = memo(function SectionSheet(props: Props): ReactNode {
  const { section, onChange } = props;
  const { title } = SECTIONS[section.kind];
  const may = useMay(ROUTES.changeReview);
  return (
    <Sheet gap={8} role="region" aria-label={title} style={section.hidden ? { opacity: 0.75 } : null}>
      <Row apart align="center" wrap>
        <Heading>{title}</Heading>
        <IfMay route={ROUTES.changeReview}>
          <Button
            type="clear"
            title={section.hidden ? 'Show' : 'Leave out'}
            aria-label={section.hidden ? `Show ${title}` : `Leave ${title} out`}
            buttonStyle={TIGHT}
            onPress={() => onChange({ ...section, hidden: !section.hidden })}
          />
        </IfMay>
      </Row>
      {section.hidden ? (
        <Quiet>Not included in the published review.</Quiet>
      ) : may ? (
        <Open {...props} title={title} />
      ) : (
        <ToRead {...props} title={title} />
      )}
    </Sheet>
  );
});

const TIGHT = { paddingHorizontal: 8 };

/** What it says and its words, for those who do not write it. */
function ToRead({ section, blocks, address, children, title }: Props & { title: string }): ReactNode {
  return (
    <>
      <FromRuns title={title} blocks={blocks} address={address} />
      {children}
      {section.text === '' ? null : <Body>{fillFigures(section.text, section.figures)}</Body>}
    </>
  );
}

function FromRuns({
  title,
  blocks,
  address,
}: Pick<Props, 'blocks' | 'address'> & { title: string }): ReactNode {
  return blocks.length === 0 ? null : (
    <Stack gap={4} role="group" aria-label={`Results: ${title}`}>
      <Blocks blocks={blocks} address={address} />
    </Stack>
  );
}

function Open({
  section,
  blocks,
  figures,
  address,
  onChange,
  children,
  title,
}: Props & { title: string }): ReactNode {
  const [picking, setPicking] = useState(false);
  // where the writing stands: a figure goes there, not to the end
  const caret = useRef(section.text.length);
  const write = (text: string): void => {
    // an @ that was just typed asks for a figure, in its own place
    const typed = typedAt(section.text, text);
    if (text.length === section.text.length + 1 && text[typed] === '@') {
      caret.current = typed + 1;
      setPicking(true);
    }
    onChange({ ...section, text });
  };
  const insert = (figure: LiveFigure): void => {
    setPicking(false);
    const before = section.text.slice(0, caret.current).replace(/@$/, '');
    const after = section.text.slice(caret.current);
    onChange({
      ...section,
      text: `${before}${before === '' || /\s$/.test(before) ? '' : ' '}@{${figure.name}}${after}`,
      figures: [
        ...section.figures.filter((one) => one.name !== figure.name),
        { name: figure.name, runId: figure.runId, measure: figure.measure, accepted: figure.says },
      ],
    });
  };
  const held = figuresIn(section.text);
  return (
    <>
      <FromRuns title={title} blocks={blocks} address={address} />
      {children}
      <Input
        multiline
        label="Your text"
        aria-label={`Text for ${title}`}
        value={section.text}
        onChangeText={write}
        onBlur={({ target }) => {
          // where somebody left off writing; the @ knows its own place
          if (!picking) caret.current = (target as unknown as HTMLTextAreaElement).selectionEnd;
        }}
        maxLength={20_000}
        inputStyle={{ paddingVertical: 8 }}
        numberOfLines={Math.min(12, Math.max(3, section.text.split('\n').length + 1))}
        renderErrorMessage={false}
      />
      <Row>
        <Button
          type="clear"
          title={picking ? 'Close' : 'Insert figure'}
          aria-label={picking ? `Close the list of figures for ${title}` : `Insert a figure into ${title}`}
          aria-expanded={picking}
          onPress={() => setPicking(!picking)}
        />
      </Row>
      {picking ? <Picker figures={figures} onPick={insert} /> : null}
      {held.length > 0 ? <Body small>{fillFigures(section.text, section.figures)}</Body> : null}
      {held.map((name) => {
        const kept = section.figures.find((one) => one.name === name);
        const state = kept ? figureState(kept, figures) : null;
        return state?.state === 'same' ? null : (
          <Held key={name} name={name} state={state} section={section} onChange={onChange} />
        );
      })}
    </>
  );
}

/** A figure that the text holds, where it is not what it was any more. */
function Held({
  name,
  state,
  section,
  onChange,
}: Pick<Props, 'section' | 'onChange'> & {
  name: string;
  /** Null where it is no figure of this review. */
  state: Exclude<FigureState, { state: 'same' }> | null;
}): ReactNode {
  const { action } = usePalette();
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
          ? `“${name}” is not a figure of this review.`
          : state.state === 'gone'
            ? `${name}: was ${state.was}, no longer available.`
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
        label="Search figures"
        aria-label="Search figures"
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
      {found.length === 0 ? <Quiet>No figure found. Only measured figures are listed.</Quiet> : null}
    </Stack>
  );
}

/** Where a text parts from the one before it: what is there was typed. */
function typedAt(before: string, now: string): number {
  let place = 0;
  while (place < before.length && before[place] === now[place]) place++;
  return place;
}
