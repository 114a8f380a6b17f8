import Feather from '@expo/vector-icons/Feather';
import { useState, type ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import { usePalette } from '../../ui/Look';
import { TARGET } from '../../ui/theme';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';

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
        aria-label={`${measure.name}: how it is defined`}
        onPress={() => setOpen(!open)}
        style={{ flexDirection: 'row', alignItems: 'center', gap: 10, minHeight: TARGET }}
      >
        <Heading style={{ width: 86 }}>{measure.name}</Heading>
        <FigureText size={28}>{measure.figure}</FigureText>
        <Quiet style={{ flex: 1 }}>{measure.unit}</Quiet>
        <Feather name={open ? 'chevron-up' : 'help-circle'} size={18} color={quiet} />
      </Pressable>
      {open ? (
        <Body style={{ fontSize: 15, lineHeight: 21, marginBottom: 8 }}>{measure.definition}</Body>
      ) : null}
      <Parts parts={measure.parts} />
      {measure.picture}
      {measure.below}
    </View>
  );
}

/** Two to a line while they are short; a long one takes a line of its own. */
function Parts({ parts }: { parts: Part[] }): ReactNode {
  if (parts.length === 0) return null;
  return (
    <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 28, rowGap: 3, paddingBottom: 6 }}>
      {parts.map((part) => (
        <View
          key={part.name}
          style={{
            flexDirection: 'row',
            alignItems: 'baseline',
            justifyContent: 'space-between',
            gap: 8,
            flexBasis: part.name.length + part.value.length > 24 ? '100%' : '42%',
            flexGrow: 1,
          }}
        >
          <Quiet>{part.name}</Quiet>
          <FigureText size={17}>{part.value}</FigureText>
        </View>
      ))}
    </View>
  );
}
