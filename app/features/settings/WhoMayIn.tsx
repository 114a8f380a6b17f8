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
  { value: 'bench', text: 'assistant' },
  { value: 'reader', text: 'viewer' },
  { value: 'reviewer', text: 'reviewer' },
];

const MAY: Record<Role, string> = {
  reader: 'Can see everything and change nothing.',
  bench: 'Can record runs and enter readings. Cannot delete, publish or change settings.',
  reviewer: 'Can do everything, including managing access.',
};

/** Who is in, and letting one more in. */
export function WhoMayIn(): ReactNode {
  const sessions = useSessions();
  return (
    <Answered query={sessions} loading={{ rows: 2, height: 50, label: 'Loading devices with access' }}>
      {({ closed, addresses, sessions: all }) =>
        closed ? (
          <Stack gap={16}>
            <LetOneIn addresses={addresses} sessions={all} />
            <WhoIsIn sessions={all} />
          </Stack>
        ) : (
          <Sheet gap={8}>
            <Body>Pace Check can be reached from this machine only, so no sign-in is needed.</Body>
            <Quiet>
              To allow other devices: stop Pace Check, set a passcode with “npm run passcode”, and start it
              with “HOST=0.0.0.0 npm start”. In a shared network, put a TLS proxy in front of it; see
              docs/operations.md.
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
        <Body head>{`“${joined.name}” signed in.`}</Body>
        <Row>
          <Button type="outline" title="Add another device" onPress={again} />
        </Row>
      </Sheet>
    );
  if (code) return <Shown code={code} name={asked!.name} addresses={addresses} onDone={again} />;
  return (
    <Stack gap={4} role="form" aria-label="Add device">
      <TextField
        control={form.control}
        name="name"
        label="Name of the person or device"
        placeholder="phone at the bench"
      />
      <Choices
        label="Role"
        options={ROLE_CHOICES}
        selected={role}
        onSelect={(chosen) => form.setValue('role', chosen)}
        maxWidth={360}
      />
      <Quiet>{MAY[role]}</Quiet>
      {invite.error ? <Body role="alert">{`Code not created: ${invite.error.message}`}</Body> : null}
      <Row style={{ marginTop: 6 }}>
        <Button
          title="Show code"
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
        <Body role="status">This code has expired.</Body>
      ) : (
        <>
          <Row gap={20} wrap align="center">
            <QrCode text={`${place}/join?token=${code.token}`} label={`QR code to sign in ${name}`} />
            <Stack gap={4} style={{ flexShrink: 1 }}>
              <Quiet>{`Scan it with “${name}”, or open`}</Quiet>
              {places.map((one) => (
                <Body key={one} head>{`${one}/join`}</Body>
              ))}
              <Quiet>and enter</Quiet>
              <FigureText size={40} aria-label={`code ${code.code.split('').join(' ')}`}>
                {`${code.code.slice(0, 3)} ${code.code.slice(3)}`}
              </FigureText>
              <Quiet>{`Works once. Expires in ${Math.floor(left / 60)}:${String(left % 60).padStart(2, '0')}.`}</Quiet>
            </Stack>
          </Row>
          {place.startsWith('http:') ? (
            <Quiet>
              Without TLS, others in this network can read the traffic. Use a private network or a proxy with
              TLS.
            </Quiet>
          ) : null}
        </>
      )}
      <Row>
        <Button type="clear" title={left === 0 ? 'New code' : 'Close'} onPress={onDone} />
      </Row>
    </Sheet>
  );
}

function WhoIsIn({ sessions }: { sessions: SessionSummary[] }): ReactNode {
  const { line } = usePalette();
  const revoke = useRevokeSession();
  const toast = useToast();
  return (
    <Stack role="list" aria-label="Devices with access">
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
            <Quiet>{`${role} · ${own ? 'this device' : `last used ${dayAndTime(usedAt)}`}`}</Quiet>
          </Stack>
          {own ? null : (
            <IfMay route={ROUTES.revokeSession}>
              <Button
                type="outline"
                title="Sign out"
                aria-label={`Sign out ${name}`}
                loading={revoke.isPending && revoke.variables === id}
                onPress={() =>
                  revoke.mutate(id, {
                    onSuccess: () =>
                      toast({ text: `“${name}” signed out. It needs a new code to sign in again.` }),
                    onError: (error) => toast({ text: `“${name}” not signed out: ${error.message}` }),
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
