import {
  newJoinCode,
  ROUTES,
  type JoinCode,
  type NewJoinCode,
  type Role,
  type SessionSummary,
} from '@pace-check/contract';
import { zodResolver } from '@hookform/resolvers/zod';
import { Button } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { useNewJoinCode, useRevokeSession, useSessions } from '../../api/access';
import { Choices } from '../../ui/Choices';
import { TextField } from '../../ui/Field';
import { dayAndTime } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { Row, Sheet, Stack } from '../../ui/parts';
import { IfMay } from '../../ui/Role';
import { Answered } from '../../ui/states';
import { useToast } from '../../ui/Toast';
import { Body, FigureText, Quiet } from '../../ui/words';
import { QrCode } from './QrCode';
import { useSecondsLeft } from './useSecondsLeft';

const ROLE_CHOICES: { value: Role; text: string; spoken?: string }[] = [
  { value: 'bench', text: 'bench', spoken: 'helper at the bench' },
  { value: 'reader', text: 'reader' },
  { value: 'reviewer', text: 'reviewer' },
];

const MAY: Record<Role, string> = {
  reader: 'May look at everything, and change nothing.',
  bench: 'May record and type on runs; not delete, publish or change settings.',
  reviewer: 'May do everything, letting others in and putting them out too.',
};

/** Who is in, and letting one more in. */
export function WhoMayIn(): ReactNode {
  const sessions = useSessions();
  return (
    <Answered query={sessions} loading={{ rows: 2, height: 50, label: 'Loading who is in' }}>
      {({ closed, addresses, sessions: all }) =>
        closed ? (
          <Stack gap={16}>
            <LetOneIn addresses={addresses} sessions={all} />
            <WhoIsIn sessions={all} />
          </Stack>
        ) : (
          <Sheet gap={8}>
            <Body>Only this machine reaches Pace Check, so it asks nobody who they are.</Body>
            <Quiet>
              To open it to a phone on the bench or a helper: stop it, set a passcode with “npm run passcode”,
              and start it with “HOST=0.0.0.0 npm start”. In a network that others use too, put a proxy with
              TLS before it: docs/operations.md says how.
            </Quiet>
          </Sheet>
        )
      }
    </Answered>
  );
}

function LetOneIn({ addresses, sessions }: { addresses: string[]; sessions: SessionSummary[] }): ReactNode {
  const invite = useNewJoinCode();
  const [before, setBefore] = useState<Set<string>>(new Set());
  const form = useForm<NewJoinCode>({
    resolver: zodResolver(newJoinCode),
    defaultValues: { role: 'bench', name: '' },
  });
  const role = useWatch({ control: form.control, name: 'role' });
  const { data: code, variables: asked } = invite;
  const joined = code && sessions.find(({ id, name }) => !before.has(id) && name === asked?.name);
  const again = (): void => {
    invite.reset();
    form.reset();
  };
  if (joined)
    return (
      <Sheet marked gap={8} role="status">
        <Body head>{`“${joined.name}” is in.`}</Body>
        <Row>
          <Button type="outline" title="Let another one in" onPress={again} />
        </Row>
      </Sheet>
    );
  if (code) return <Shown code={code} name={asked!.name} addresses={addresses} onDone={again} />;
  return (
    <Stack gap={4} role="form" aria-label="Let one in">
      <TextField
        control={form.control}
        name="name"
        label="Who, or which device"
        placeholder="the phone on the bench"
      />
      <Choices
        label="As what"
        options={ROLE_CHOICES}
        selected={role}
        onSelect={(chosen) => form.setValue('role', chosen)}
        maxWidth={360}
      />
      <Quiet>{MAY[role]}</Quiet>
      {invite.error ? <Body role="alert">{`No code: ${invite.error.message}`}</Body> : null}
      <Row style={{ marginTop: 6 }}>
        <Button
          title="Show a code"
          loading={invite.isPending}
          onPress={form.handleSubmit((body) => {
            setBefore(new Set(sessions.map(({ id }) => id)));
            invite.mutate(body);
          })}
        />
      </Row>
    </Stack>
  );
}

const LOOPBACK = /^(localhost|127\.|\[::1\])/;

/** The code as a picture to scan and as digits to type, for as long as it lives. */
function Shown({
  code,
  name,
  addresses,
  onDone,
}: {
  code: JoinCode;
  name: string;
  addresses: string[];
  onDone: () => void;
}): ReactNode {
  const left = useSecondsLeft(code.livesS, code.token);
  const { origin, hostname } = globalThis.location;
  // a phone does not reach this machine by the name that it has for itself
  const places = LOOPBACK.test(hostname) ? addresses : [origin];
  const [place = origin] = places;
  return (
    <Sheet marked gap={10} role="group" aria-label={`Code for ${name}`}>
      {left === 0 ? (
        <Body role="status">The two minutes are over, and the code lets nobody in.</Body>
      ) : (
        <>
          <Row gap={20} wrap align="center">
            <QrCode text={`${place}/join?token=${code.token}`} label={`QR code that lets ${name} in`} />
            <Stack gap={4} style={{ flexShrink: 1 }}>
              <Quiet>{`Scan it with “${name}”, or open`}</Quiet>
              {places.map((one) => (
                <Body key={one} head>{`${one}/join`}</Body>
              ))}
              <Quiet>and type</Quiet>
              <FigureText size={40} aria-label={`code ${code.code.split('').join(' ')}`}>
                {`${code.code.slice(0, 3)} ${code.code.slice(3)}`}
              </FigureText>
              <Quiet>{`Once, within ${Math.floor(left / 60)}:${String(left % 60).padStart(2, '0')}.`}</Quiet>
            </Stack>
          </Row>
          {place.startsWith('http:') ? (
            <Quiet>
              Without TLS everybody in this network could listen: use it in one that is yours alone, or put a
              proxy before it.
            </Quiet>
          ) : null}
        </>
      )}
      <Row>
        <Button type="clear" title={left === 0 ? 'Make a new one' : 'Close'} onPress={onDone} />
      </Row>
    </Sheet>
  );
}

function WhoIsIn({ sessions }: { sessions: SessionSummary[] }): ReactNode {
  const { line } = usePalette();
  const revoke = useRevokeSession();
  const toast = useToast();
  return (
    <Stack role="list" aria-label="Who is in">
      {sessions.map(({ id, name, role, usedAt, own }) => (
        <Row
          key={id}
          role="listitem"
          apart
          align="center"
          gap={8}
          style={{ borderTopWidth: 1, borderColor: line, paddingVertical: 6 }}
        >
          <Stack style={{ flexShrink: 1 }}>
            <Body>{name}</Body>
            <Quiet>{`${role} · ${own ? 'this device' : `last here ${dayAndTime(usedAt)}`}`}</Quiet>
          </Stack>
          {own ? null : (
            <IfMay route={ROUTES.revokeSession}>
              <Button
                type="outline"
                title="Put out"
                aria-label={`Put out ${name}`}
                loading={revoke.isPending && revoke.variables === id}
                onPress={() =>
                  revoke.mutate(id, {
                    onSuccess: () => toast({ text: `“${name}” is out, and needs a new code to come in.` }),
                    onError: (error) => toast({ text: `“${name}” is still in: ${error.message}` }),
                  })
                }
              />
            </IfMay>
          )}
        </Row>
      ))}
    </Stack>
  );
}
