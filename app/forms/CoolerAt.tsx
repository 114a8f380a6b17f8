import type { ReactNode } from 'react';
import { useKit } from '../api/queries';
import { Row, Stack } from '../ui/parts';
import { NamePicker } from '../ui/PickOrAdd';
import { Quiet } from '../ui/words';
import { useVoice } from '../ui/Voice';
import { plateCaution } from './Preflight';
import { TemperatureInput } from './TemperatureInput';

/** Where a cooler sits, and how warm its plate is. */
export interface CoolerFacts {
  place?: string;
  plateC?: number;
}

/** Places that anybody knows, beside the spots of the device. */
const PLACES = ['over the chip', 'in the middle', 'by the camera'];

/** Asked where a cooler is switched on: it cools what it sits on, and a cold plate collects water. */
export function CoolerAt({
  device,
  roomC,
  value,
  onChange,
}: {
  device: string;
  roomC: number | null;
  value: CoolerFacts;
  onChange: (value: CoolerFacts) => void;
}): ReactNode {
  const { temperature } = useVoice();
  const kit = useKit().data;
  const spots = kit?.devices.find((one) => one.name.toLowerCase() === device.toLowerCase())?.spots ?? [];
  const known = [
    ...(kit?.accessories ?? []).flatMap(({ facts }) => facts.contactSpot ?? []),
    ...PLACES,
    ...spots.map(({ spot }) => spot),
  ];
  const { place = '', plateC } = value;
  const put = (more: { place?: string | undefined; plateC?: number | undefined }): void => {
    const next = { ...value, ...more };
    onChange({
      ...(next.place === undefined || next.place.trim() === '' ? {} : { place: next.place }),
      ...(next.plateC === undefined ? {} : { plateC: next.plateC }),
    });
  };
  return (
    <Stack gap={6} role="group" aria-label="The cooler">
      <Row gap={10} wrap align="flex-end">
        <Stack flex={1} style={{ minWidth: 170 }}>
          <NamePicker
            label="Cooler position"
            known={[...new Set(known)]}
            what="place"
            value={place}
            onChange={(text) => put({ place: text })}
          />
        </Stack>
        <Stack style={{ width: 130 }}>
          <TemperatureInput
            label="Cooler plate temperature"
            value={plateC ?? null}
            placeholder="unknown"
            onChange={(c) => put({ plateC: typeof c === 'number' && c >= -60 && c <= 80 ? c : undefined })}
          />
        </Stack>
      </Row>
      <Quiet role="note">
        {plateCaution(
          { ...(plateC === undefined ? {} : { plateC }), ...(roomC === null ? {} : { roomC }) },
          temperature,
        )}
      </Quiet>
    </Stack>
  );
}

/** The facts of a cooler as a line takes them: a name without blanks around it. */
export const coolerLine = ({ place, plateC }: CoolerFacts): CoolerFacts => ({
  ...(place === undefined || place.trim() === '' ? {} : { place: place.trim() }),
  ...(plateC === undefined ? {} : { plateC }),
});
