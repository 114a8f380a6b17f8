import { NO_FILTER, ROUTES, RUNS_A_PAGE, type RunSummary } from '@pace-check/contract';
import { arrange } from '@pace-check/core';
import { Button } from '@rneui/themed';
import { useQueries } from '@tanstack/react-query';
import { useRouter } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { v4 as uuid } from 'uuid';
import { ask } from '../../api/client';
import { useNewComparison } from '../../api/compare';
import { useKit } from '../../api/queries';
import { count, day } from '../../ui/figures';
import { Row, Stack } from '../../ui/parts';
import { NamePicker } from '../../ui/PickOrAdd';
import { IfMay } from '../../ui/Role';
import { Section } from '../../ui/Section';
import { Select } from '../../ui/Select';
import { Loading } from '../../ui/states';
import { useToast } from '../../ui/Toast';
import { Body, Quiet } from '../../ui/words';
import { sharedTitles } from './sharedRuns';

/** Devices are looked through for so many pages of runs at most. */
const MOST_PAGES = 10;
const MOST_DEVICES = 12;

/** Two devices or more are chosen; the titles that they share are taken by themselves, each run of which can be exchanged. */
export function CompareDevices(): ReactNode {
  const router = useRouter();
  const toast = useToast();
  const create = useNewComparison();
  const kit = useKit();
  const [devices, setDevices] = useState<string[]>([]);
  const [typed, setTyped] = useState('');
  const [exchanged, setExchanged] = useState<Record<string, string>>({});
  const known = (kit.data?.devices ?? []).filter(({ runs }) => runs > 0).map(({ name }) => name);
  const runs = useQueries({
    queries: devices.map((device) => ({
      queryKey: ['runs of', device],
      queryFn: () => runsOf(device),
    })),
  });
  const loaded = devices.length > 1 && runs.every((one) => one.data !== undefined);
  const byDevice = loaded ? runs.map((one) => one.data!) : [];
  const shared = sharedTitles(byDevice).map(({ title, runs: taken }) => ({
    title,
    runs: taken.map((run) => {
      const other = exchanged[`${run.device}\n${title}`];
      return byDevice.flat().find(({ id }) => id === other) ?? run;
    }),
  }));
  const arranged = shared.length > 0 ? arrange(shared.flatMap((one) => one.runs)) : null;
  const choose = (name: string): void => {
    setTyped('');
    if (!devices.includes(name) && devices.length < MOST_DEVICES) setDevices([...devices, name]);
  };
  const compare = (): void => {
    if (!arranged) return;
    create.mutate(
      { id: uuid(), kind: arranged.kind, sides: arranged.sides.map((side) => ({ runs: side })) },
      {
        onSuccess: ({ id }) => router.navigate(`/compare/${id}`),
        onError: (error) => toast({ text: `Could not compare: ${error.message}` }),
      },
    );
  };
  return (
    <IfMay route={ROUTES.newComparison}>
      <Section title="Compare devices">
        {kit.data ? (
          <NamePicker
            label={devices.length === 0 ? 'First device' : 'Another device'}
            what="device"
            known={known.filter((name) => !devices.includes(name))}
            value={typed}
            onChange={setTyped}
            onPick={choose}
          />
        ) : (
          <Loading rows={1} height={66} label="Loading devices" />
        )}
        {devices.length > 0 ? (
          <Row gap={6} wrap role="group" aria-label="Devices to compare">
            {devices.map((name) => (
              <Button
                key={name}
                type="outline"
                title={`${name} ×`}
                aria-label={`Remove ${name}`}
                onPress={() => setDevices(devices.filter((one) => one !== name))}
              />
            ))}
          </Row>
        ) : null}
        {runs.some((one) => one.error) ? (
          <Body role="alert">Runs not loaded. Check the server and choose the device again.</Body>
        ) : null}
        {loaded && shared.length === 0 ? (
          <Body role="status">These devices have no title in common. Choose another device.</Body>
        ) : null}
        {shared.length > 0 ? (
          <>
            <Quiet role="status">{`${count(shared.length, 'title')} in common, with the latest comparable run of each device.`}</Quiet>
            <Stack role="list" aria-label="Titles in common" gap={10}>
              {shared.map(({ title, runs: taken }) => (
                <Stack key={title} role="listitem" aria-label={title} gap={4}>
                  <Body head>{title}</Body>
                  <Row gap={10} wrap>
                    {taken.map((run) => (
                      <Select
                        key={run.device}
                        label={run.device}
                        options={byDevice
                          .flat()
                          .filter((one) => one.device === run.device && one.title === title)
                          .map((one) => ({ value: one.id, text: sayRun(one) }))}
                        value={run.id}
                        onChange={(id) =>
                          setExchanged((now) => ({ ...now, [`${run.device}\n${title}`]: id ?? run.id }))
                        }
                      />
                    ))}
                  </Row>
                </Stack>
              ))}
            </Stack>
          </>
        ) : null}
        <Row gap={8} wrap>
          <Button title="Compare" disabled={!arranged} loading={create.isPending} onPress={compare} />
          <Button type="clear" title="Select single runs" onPress={() => router.navigate('/?choose=1')} />
        </Row>
      </Section>
    </IfMay>
  );
}

const sayRun = (run: RunSummary): string =>
  [run.setup, run.startedAt === null ? null : day(run.startedAt)].filter(Boolean).join(', ') || run.name;

/** All runs of a device, the latest first. */
async function runsOf(device: string): Promise<RunSummary[]> {
  const all: RunSummary[] = [];
  for (let page = 0; page < MOST_PAGES; page++) {
    const after = all.at(-1)?.id;
    const more = await ask(ROUTES.runs, {
      query: { ...NO_FILTER, device, ...(after === undefined ? {} : { after }) },
    });
    all.push(...more);
    if (more.length < RUNS_A_PAGE) break;
  }
  return all;
}
