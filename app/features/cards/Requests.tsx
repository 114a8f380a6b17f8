import { zodResolver } from '@hookform/resolvers/zod';
import { ROUTES, newRequest, type NewRequest, type ViewerRequest } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { Link } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { useForm, type Control, type FieldValues } from 'react-hook-form';
import { View } from 'react-native';
import type * as z from 'zod';
import { useAddRequest, useDeleteRequest, useKit, useRequests } from '../../api/queries';
import { NumberField, TextField } from '../../ui/Field';
import { usePalette } from '../../ui/Look';
import { PickOrAdd } from '../../ui/PickOrAdd';
import { IfMay } from '../../ui/Role';
import { Answered } from '../../ui/states';
import { useToast } from '../../ui/Toast';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';
import { Row, Sheet, Stack } from '../../ui/parts';

/** What viewers ask for, the most wanted first. */
export function Requests(): ReactNode {
  const requests = useRequests();
  const [open, setOpen] = useState(false);
  return (
    <Stack gap={8}>
      <Row align="center" apart>
        <Heading>Requests</Heading>
        <IfMay route={ROUTES.request}>
          <Button type="clear" title={open ? 'Close' : 'Add request'} onPress={() => setOpen(!open)} />
        </IfMay>
      </Row>
      {open ? <RequestForm /> : null}
      <Answered query={requests} loading={{ rows: 3, height: 48, label: 'Loading requests' }}>
        {(all) => <List requests={all} />}
      </Answered>
    </Stack>
  );
}

function List({ requests }: { requests: ViewerRequest[] }): ReactNode {
  const { line } = usePalette();
  const remove = useDeleteRequest();
  const toast = useToast();
  if (requests.length === 0)
    return (
      <Quiet>
        No requests yet. The same request from several people is counted once, with the number of people.
      </Quiet>
    );
  return (
    <View role="list" aria-label="Requests">
      {requests.map((request) => (
        <Row
          key={request.id}
          role="listitem"
          gap={12}
          align="center"
          style={{ borderTopWidth: 1, borderColor: line, paddingVertical: 8 }}
        >
          <FigureText size={24} style={{ width: 46, textAlign: 'right' }}>
            {String(request.asked)}
          </FigureText>
          <Stack flex={1}>
            <Body head>{`${request.title}${request.device ? ` on ${request.device}` : ''}`}</Body>
            <Quiet>
              {request.sources.map((one) => `${one.asked} ${one.source || 'somewhere'}`).join(', ')}
            </Quiet>
          </Stack>
          {request.answeredBy ? (
            <Link href={`/runs/${request.answeredBy.id}`} style={{ paddingVertical: 12 }}>
              <Body>Open run</Body>
            </Link>
          ) : request.onCard ? (
            <Link href={`/cards/${request.onCard.id}`} style={{ paddingVertical: 12 }}>
              <Quiet>{`on “${request.onCard.name}”`}</Quiet>
            </Link>
          ) : (
            <IfMay route={ROUTES.takeRequestBack}>
              <Button
                type="clear"
                title="×"
                aria-label={`Delete the request for ${request.title}`}
                onPress={() =>
                  remove.mutate(request.id, { onError: (error) => toast({ text: error.message }) })
                }
              />
            </IfMay>
          )}
        </Row>
      ))}
    </View>
  );
}

function RequestForm(): ReactNode {
  usePalette();
  const kit = useKit().data;
  const add = useAddRequest();
  const form = useForm<z.input<typeof newRequest>, unknown, NewRequest>({
    resolver: zodResolver(newRequest),
    defaultValues: { title: '', device: null, asked: 1, source: '' },
  });
  const control = form.control as unknown as Control<FieldValues>;
  return (
    <Sheet padding={12}>
      <PickOrAdd
        control={control}
        name="title"
        label="Title"
        what="title"
        known={kit?.titles.map((one) => one.name) ?? []}
      />
      <PickOrAdd
        control={control}
        name="device"
        label="Device (optional)"
        what="device"
        known={kit?.devices.map((one) => one.name) ?? []}
        optional
      />
      <Row gap={12}>
        <View style={{ width: 110 }}>
          <NumberField control={control} name="asked" label="Number of people" />
        </View>
        <Stack flex={1}>
          <TextField control={control} name="source" label="Source" placeholder="comments, email, …" />
        </Stack>
      </Row>
      {add.error ? <Body role="alert">{`Not added: ${add.error.message}`}</Body> : null}
      <Row>
        <Button
          title="Add"
          loading={add.isPending}
          onPress={form.handleSubmit((request) => add.mutate(request, { onSuccess: () => form.reset() }))}
        />
      </Row>
    </Sheet>
  );
}
