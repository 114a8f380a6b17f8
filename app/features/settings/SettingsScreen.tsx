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
import { PlaceHead } from '../../ui/PlaceHead';
import { Leave } from './Leave';
import { Spread } from './Spread';
import { UnreadableRecords } from './UnreadableRecords';

const LOOKS: { value: LookChoice; text: string }[] = [
  { value: 'auto', text: 'same as this device' },
  { value: 'day', text: 'light' },
  { value: 'night', text: 'dark' },
];
const SCHOOLS: { value: School; text: string }[] = [
  { value: 'average-and-lows', text: 'average and lows' },
  { value: 'median-and-hold', text: 'median and share near it' },
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
      <PlaceHead title="Settings" />
      <UnreadableRecords />
      <Setting
        title="Main figures"
        says="All figures are always calculated. This sets which ones come first."
      >
        <Choices
          label="Main figures"
          options={SCHOOLS}
          selected={voice.school}
          onSelect={(school) => voice.speak({ school })}
        />
      </Setting>
      <Setting title="Temperatures" says="For display and typing. Stored in °C.">
        <Choices
          label="Temperatures"
          options={UNITS}
          selected={voice.unit}
          onSelect={(unit) => voice.speak({ unit })}
        />
      </Setting>
      <Setting title="Appearance" says="Light or dark.">
        <Choices label="Appearance" options={LOOKS} selected={look.choice} onSelect={look.choose} />
      </Setting>
      <IfMay route={ROUTES.sessions}>
        <Setting title="Access" says="Sign in other devices with a one-time code, and sign them out again.">
          <WhoMayIn />
        </Setting>
      </IfMay>
      <Leave />
      <Setting
        title="Figures"
        says="Runs are recalculated when the method changes, so that old and new runs stay comparable."
      >
        <FiguresState />
      </Setting>
      <IfMay route={ROUTES.backups}>
        <Setting title="Backups" says="All data in one checked file. You can keep working while it is made.">
          <BackupsSection />
        </Setting>
      </IfMay>
      <IfMay route={ROUTES.saveEverything}>
        <Setting
          title="Export and import all data"
          says="All runs, pictures and records in one zip (run files and JSON lines), for another Pace Check or your own programs."
        >
          <Everything />
        </Setting>
      </IfMay>
      <Setting
        title="Playability thresholds"
        says="Average and 1 % low that a title of each type needs to play well. A run keeps the thresholds it was judged by."
      >
        <Bars />
      </Setting>
      <Setting
        title="Run-to-run variation"
        says="How much repeat runs differ (same device, title, setup and conditions), from your own repeats and from typical values. All comparison intervals are based on it."
      >
        <Spread />
      </Setting>
      <Quiet>Thresholds apply to everyone; the other settings to this browser.</Quiet>
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
