import { ROUTES, type ReviewDoc } from '@pace-check/contract';
import { HANDLING_TOPICS, type HandlingLine, type HandlingTopic } from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { Row, Stack } from '../../ui/parts';
import { Select } from '../../ui/Select';
import { Body, Quiet } from '../../ui/words';
import { IfMay } from '../../ui/Role';

const TOPICS = HANDLING_TOPICS.map((value) => ({ value, text: value }));

/** What was found in the hand, a line each with what shows it. */
export function Handling({
  lines,
  onLines,
}: {
  lines: ReviewDoc['handling'];
  onLines: (lines: HandlingLine[]) => void;
}): ReactNode {
  const [topic, setTopic] = useState<HandlingTopic>('grip');
  const [says, setSays] = useState('');
  const [evidence, setEvidence] = useState('');
  const add = (): void => {
    onLines([...lines, { topic, says: says.trim(), evidence: evidence.trim() }]);
    setSays('');
    setEvidence('');
  };
  return (
    <Stack role="group" aria-label="Handling notes" gap={6}>
      {lines.map((line, i) => (
        <Row key={`${line.topic} ${line.says}`} apart align="center" gap={8}>
          <Stack style={{ flexShrink: 1 }}>
            <Body small>
              <Body head small>{`${line.topic}  `}</Body>
              {line.says}
            </Body>
            <Quiet>{line.evidence === '' ? 'no evidence yet' : line.evidence}</Quiet>
          </Stack>
          <IfMay route={ROUTES.changeReview}>
            <Button
              type="clear"
              title="Remove"
              aria-label={`Remove ${line.topic}: ${line.says}`}
              onPress={() => onLines(lines.filter((_, k) => k !== i))}
            />
          </IfMay>
        </Row>
      ))}
      <IfMay route={ROUTES.changeReview}>
        <Select
          label="Topic"
          options={TOPICS}
          value={topic}
          onChange={(chosen) => setTopic(chosen ?? 'other')}
        />
        <Input
          label="Observation"
          aria-label="Observation"
          placeholder="the thumb cramps after half an hour"
          value={says}
          onChangeText={setSays}
          maxLength={400}
          renderErrorMessage={false}
        />
        <Input
          label="Evidence"
          aria-label="Evidence"
          placeholder="two of two people, after one hour"
          value={evidence}
          onChangeText={setEvidence}
          maxLength={400}
          renderErrorMessage={false}
        />
        <Row>
          <Button type="outline" title="Add observation" disabled={says.trim() === ''} onPress={add} />
        </Row>
      </IfMay>
    </Stack>
  );
}
