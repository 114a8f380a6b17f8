import { IfMay } from '../../ui/Role';
import { ROUTES } from '@pace-check/contract';
import type { School, TemperatureUnit } from '@pace-check/core';
import type { ReactNode } from 'react';
import { ScrollView } from 'react-native';
import { Choices } from '../../ui/Choices';
import { useLook, useWide, type LookChoice } from '../../ui/Look';
import { useVoice } from '../../ui/Voice';
import { Heading, Quiet } from '../../ui/words';
import { Stack } from '../../ui/parts';
import { Bars } from './Bars';
import { WhoMayIn } from './WhoMayIn';
import { BackupsSection } from './BackupsSection';
import { Everything } from './Everything';
import { FiguresState } from './FiguresState';
import { Leave } from './Leave';
import { Spread } from './Spread';
import { UnreadableRecords } from './UnreadableRecords';

const LOOKS: { value: LookChoice; text: string }[] = [
  { value: 'auto', text: 'as the device' },
  { value: 'day', text: 'day' },
  { value: 'night', text: 'night' },
];
const SCHOOLS: { value: School; text: string }[] = [
  { value: 'average-and-lows', text: 'average and lows' },
  { value: 'median-and-hold', text: 'median and hold' },
];
const UNITS: { value: TemperatureUnit; text: string; spoken: string }[] = [
  { value: 'C', text: '°C', spoken: 'Celsius' },
  { value: 'F', text: '°F', spoken: 'Fahrenheit' },
];

/** What leads, in which scale, and how it looks. */
export function SettingsScreen(): ReactNode {
  const wide = useWide();
  const look = useLook();
  const voice = useVoice();
  return (
    <ScrollView contentContainerStyle={{ padding: wide ? 24 : 14, gap: 22, maxWidth: 620, width: '100%' }}>
      <Heading level={1}>Settings</Heading>
      <UnreadableRecords />
      <Setting
        title="Which figures lead"
        says="All are computed from the same frames and stand on the run’s page; this chooses what comes first, everywhere."
      >
        <Choices
          label="Which figures lead"
          options={SCHOOLS}
          selected={voice.school}
          onSelect={(school) => voice.speak({ school })}
        />
      </Setting>
      <Setting title="Temperatures" says="Stored in °C, shown and typed as you like.">
        <Choices
          label="Temperatures"
          options={UNITS}
          selected={voice.unit}
          onSelect={(unit) => voice.speak({ unit })}
        />
      </Setting>
      <Setting title="Look" says="Day or night.">
        <Choices label="Look" options={LOOKS} selected={look.choice} onSelect={look.choose} />
      </Setting>
      <IfMay route={ROUTES.sessions}>
        <Setting
          title="Who may in"
          says="A phone on the bench, a helper in the next room: each comes in once by a code, and is put out again here."
        >
          <WhoMayIn />
        </Setting>
      </IfMay>
      <Leave />
      <Setting
        title="Figures"
        says="When the method changes, every run is computed anew, so that old and new ones compare."
      >
        <FiguresState />
      </Setting>
      <IfMay route={ROUTES.backups}>
        <Setting
          title="Backups"
          says="All that was measured, planned and written, in one checked file; it is made while everybody goes on."
        >
          <BackupsSection />
        </Setting>
      </IfMay>
      <IfMay route={ROUTES.saveEverything}>
        <Setting
          title="Everything, as open files"
          says="Each run as a run file, pictures, and all records as lines of JSON, in one zip: for another Pace Check, or for a program of yours."
        >
          <Everything />
        </Setting>
      </IfMay>
      <Setting
        title="Bars"
        says="What each kind of game asks of average and 1 % low before a run plays well. Common practice, yours to change; a run keeps the bars that it was judged by."
      >
        <Bars />
      </Setting>
      <Setting
        title="What runs of one kind differ by"
        says="From the library’s repeats (two runs or more of one device, title and setup, made in the same way) and from habit; every interval between two sides rests on it."
      >
        <Spread />
      </Setting>
      <Quiet>Bars are kept with the runs; the other settings in this browser.</Quiet>
    </ScrollView>
  );
}

function Setting({ title, says, children }: { title: string; says: string; children: ReactNode }): ReactNode {
  return (
    <Stack gap={8}>
      <Heading>{title}</Heading>
      <Quiet>{says}</Quiet>
      {children}
    </Stack>
  );
}
