import { chartSvg, type Block, type Chart } from '@pace-check/core';
import type { ReactNode } from 'react';
import { Image, ScrollView } from 'react-native';
import { usePalette } from '../../ui/Look';
import { Row, Stack } from '../../ui/parts';
import { Body, FigureText, Quiet } from '../../ui/words';

/** What a section says by itself, as the page will have it. */
export function Blocks({
  blocks,
  address,
}: {
  blocks: Block[];
  address: (chart: string) => string;
}): ReactNode {
  return blocks.map((block, i) => (
    // a section's blocks keep their places
    <OneBlock key={`${block.is} ${i}`} block={block} address={address} />
  ));
}

function OneBlock({ block, address }: { block: Block; address: (chart: string) => string }): ReactNode {
  switch (block.is) {
    case 'lead':
      return (
        <Body head small>
          {block.line}
        </Body>
      );
    case 'lines':
      return block.lines.map((line) => (
        <Body key={line} small>
          {line}
        </Body>
      ));
    case 'named':
      return block.rows.map(({ name, text }, i) => (
        <Body key={`${name} ${i}`} small>
          <Body head small>{`${name}  `}</Body>
          {text}
        </Body>
      ));
    case 'table':
      return <Table block={block} />;
    case 'chart':
      return <Picture chart={block.chart} uri={address(block.chart.file)} />;
  }
}

/** Width of a picture of the page at most, px. */
const PICTURE_WIDTH = 560;

/** A picture as the server draws it, in the room that it will take. */
function Picture({ chart, uri }: { chart: Chart; uri: string }): ReactNode {
  const [, width, height] = /width="([\d.]+)" height="([\d.]+)"/.exec(chartSvg(chart, null))!;
  return (
    <Image
      source={{ uri }}
      accessibilityLabel={`${chart.title}. ${chart.alt}`}
      style={{
        width: '100%',
        maxWidth: PICTURE_WIDTH,
        aspectRatio: Number(width) / Number(height),
        borderRadius: 4,
      }}
    />
  );
}

const FIRST_COLUMNS = 3;

function Table({ block }: { block: Extract<Block, { is: 'table' }> }): ReactNode {
  const { line } = usePalette();
  const width = (column: number): number => (column < FIRST_COLUMNS ? 130 : 86);
  return (
    <>
      <ScrollView horizontal tabIndex={0} aria-label={`Table: ${block.label}`}>
        <Stack role="table" aria-label={block.label}>
          <Row role="row" gap={10} style={{ borderBottomWidth: 1, borderColor: line }}>
            {block.heads.map((head, i) => (
              <Quiet key={head} role="columnheader" style={{ width: width(i) }}>
                {head}
              </Quiet>
            ))}
          </Row>
          {block.rows.map((row) => (
            <Row key={row.join(' ')} role="row" gap={10} style={{ paddingVertical: 4 }}>
              {row.map((cell, i) => (
                <FigureText key={block.heads[i]} role="cell" size={16} style={{ width: width(i) }}>
                  {cell}
                </FigureText>
              ))}
            </Row>
          ))}
        </Stack>
      </ScrollView>
      <Quiet>{block.small}</Quiet>
    </>
  );
}
