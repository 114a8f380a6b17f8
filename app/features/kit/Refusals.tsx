import { ROUTES, type Kit } from '@pace-check/contract';
import { Button, Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { useRefuse, useTakeRefusalBack } from '../../api/queries';
import { useToast } from '../../ui/Toast';
import { NamePicker } from '../../ui/PickOrAdd';
import { IfMay } from '../../ui/Role';
import { Body, Quiet } from '../../ui/words';
import { Section } from '../../ui/Section';
import { Row } from '../../ui/parts';

/** What a device would not take: a result too. */
export function Refusals({ kit, of, name }: { kit: Kit; of: 'device' | 'title'; name: string }): ReactNode {
  const refused = kit.refusals.filter((one) => one[of] === name);
  const takeBack = useTakeRefusalBack();
  const [open, setOpen] = useState(false);
  return (
    <Section
      title={of === 'device' ? 'Does not run on this device' : 'Devices it does not run on'}
      aside={
        <IfMay route={ROUTES.refuse}>
          <Button type="clear" title={open ? 'Close' : 'Add'} onPress={() => setOpen(!open)} />
        </IfMay>
      }
    >
      {refused.map((one) => (
        <Row key={one.id} gap={8} align="center">
          <Body style={{ flex: 1 }}>
            {[of === 'device' ? one.title : one.device, one.setup, one.says].filter(Boolean).join(' · ')}
          </Body>
          <IfMay route={ROUTES.takeRefusalBack}>
            <Button type="clear" title="Remove" onPress={() => takeBack.mutate(one.id)} />
          </IfMay>
        </Row>
      ))}
      {refused.length === 0 && !open ? <Quiet>None recorded.</Quiet> : null}
      {open ? <NoteRefusal kit={kit} of={of} name={name} onDone={() => setOpen(false)} /> : null}
    </Section>
  );
}

function NoteRefusal({
  kit,
  of,
  name,
  onDone,
}: {
  kit: Kit;
  of: 'device' | 'title';
  name: string;
  onDone: () => void;
}): ReactNode {
  const refuse = useRefuse();
  const toast = useToast();
  const [other, setOther] = useState('');
  const [setup, setSetup] = useState('');
  const [says, setSays] = useState('');
  const [device, title] = of === 'device' ? [name, other.trim()] : [other.trim(), name];
  const titleId = kit.titles.find((one) => one.name.toLowerCase() === title.toLowerCase())?.id;
  return (
    <View>
      <NamePicker
        label={of === 'device' ? 'Title' : 'Device'}
        what={of === 'device' ? 'title' : 'device'}
        known={(of === 'device' ? kit.titles : kit.devices).map((one) => one.name)}
        value={other}
        onChange={setOther}
      />
      <NamePicker
        label="Setup (empty: all setups)"
        what="setup"
        known={kit.setups.filter((one) => one.titleId === titleId).map((one) => one.name)}
        value={setup}
        onChange={setSetup}
      />
      <Input
        label="Message shown"
        aria-label="Message shown"
        placeholder="greyed out, closes at start, …"
        value={says}
        onChangeText={setSays}
      />
      <Row>
        <Button
          title="Save"
          disabled={other.trim() === ''}
          loading={refuse.isPending}
          onPress={() =>
            refuse.mutate(
              { device, title, setup: setup.trim() === '' ? null : setup.trim(), says },
              { onSuccess: onDone, onError: (error) => toast({ text: error.message }) },
            )
          }
        />
      </Row>
    </View>
  );
}
