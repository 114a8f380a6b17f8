import AsyncStorage from '@react-native-async-storage/async-storage';
import { fireEvent, screen } from '@testing-library/react';
import { useState, type ReactNode } from 'react';
import { show } from '../testing/render';
import { TemperatureInput } from './TemperatureInput';

beforeEach(() => AsyncStorage.clear());

function Room(): ReactNode {
  const [room, setRoom] = useState<unknown>(null);
  return <TemperatureInput label="Room" of="room" value={room} onChange={setRoom} />;
}

it('asks at once about a room that can hardly be', async () => {
  await show(<Room />);
  const type = (value: string): void =>
    void fireEvent.change(screen.getByLabelText('Room, °C'), { target: { value } });
  type('21');
  expect(screen.queryByRole('status')).toBeNull();
  type('70');
  expect(screen.getByRole('status').textContent).toMatch(
    /^A room of 70\.0\s°C\? 70 °F would be 21\.1\s°C\.$/,
  );
});
