import { useState, type ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import { usePalette } from '../../ui/Look';
import { TARGET } from '../../ui/theme';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';
import { Icon } from '../../ui/Icon';
import { Row } from '../../ui/parts';

/** A figure beside the name of its definition. */
export interface Part {
  name: string;
  value: string;
}

export interface Measure {
  name: string;
  /** The figure that leads, and what it is. */
  figure: string;
  unit: string;
  parts: Part[];
  /** What a picture says better. */
  picture?: ReactNode;
  /** What is better told as a table or in words. */
  below?: ReactNode;
  /** How each figure is defined. */
  definition: string;
}

/** One measure: its leading figure, its parts, and how they are defined on a tap. */
export function MeasureBlock({ measure }: { measure: Measure }): ReactNode {
  const { line, quiet } = usePalette();
  const [open, setOpen] = useState(false);
  return (
    <View style={{ borderTopWidth: 1, borderColor: line, paddingTop: 4 }}>
      <Pressable
        role="button"
        aria-expanded={open}
        aria-label={`${measure.name}: definition`}
        onPress={() => setOpen(!open)}
        style={{ flexDirection: 'row', alignItems: 'center', gap: 10, minHeight: TARGET }}
      >
        <Heading style={{ width: 86 }}>{measure.name}</Heading>
        <FigureText size={28}>{measure.figure}</FigureText>
        <Quiet style={{ flex: 1 }}>{measure.unit}</Quiet>
        <Icon name={open ? 'less' : 'help'} size={18} color={quiet} />
      </Pressable>
      {open ? (
        <Body small style={{ marginBottom: 8 }}>
          {measure.definition}
        </Body>
      ) : null}
      <Parts parts={measure.parts} />
      {measure.picture}
      {measure.below}
    </View>
  );
}

const isLong = ({ name, value }: Part): boolean => name.length + value.length > 24;

/** Two to a line while they are short; a long one takes a line of its own. */
function Parts({ parts }: { parts: Part[] }): ReactNode {
  if (parts.length === 0) return null;
  return (
    <Row wrap style={{ columnGap: 28, rowGap: 3, paddingBottom: 6 }}>
      {parts.map((part) => (
        <Row
          key={part.name}
          gap={8}
          align="baseline"
          apart
          style={{ flexBasis: isLong(part) ? '100%' : '42%', flexGrow: 1 }}
        >
          <Quiet>{part.name}</Quiet>
          <FigureText size={17}>{part.value}</FigureText>
        </Row>
      ))}
    </Row>
  );
}
