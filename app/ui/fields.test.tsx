import { zodResolver } from '@hookform/resolvers/zod';
import { runFacts, type RunFactsInput } from '@pace-check/contract';
import { act, fireEvent, screen, waitFor } from '@testing-library/react';
import AsyncStorage from '@react-native-async-storage/async-storage';
import { useState, type ReactNode } from 'react';
import { useForm } from 'react-hook-form';
import { Button } from '@rneui/themed';
import { show } from '../testing/render';
import { TemperatureInput } from '../forms/TemperatureInput';
import { Choices } from './Choices';
import { NumberField, TextField } from './Field';
import { PickOrAdd } from './PickOrAdd';

let sent: RunFactsInput | null = null;

function Form(): ReactNode {
  const form = useForm<RunFactsInput>({
    resolver: zodResolver(runFacts),
    defaultValues: { device: '', title: 'Aurelune', setup: null, target: null, refresh: 60 },
  });
  return (
    <>
      <PickOrAdd
        control={form.control}
        name="device"
        label="Device"
        what="device"
        known={['Velm 4', 'Velm 5', 'Oru Fold']}
      />
      <TextField control={form.control} name="title" label="Title" />
      <PickOrAdd control={form.control} name="setup" label="Setup" what="setup" known={[]} optional />
      <NumberField control={form.control} name="target" label="Target" />
      <NumberField control={form.control} name="refresh" label="Panel" />
      <Button title="Send" onPress={() => void form.handleSubmit((values) => (sent = values))()} />
    </>
  );
}

const type = (label: string, text: string): void =>
  void fireEvent.change(screen.getByLabelText(label), { target: { value: text } });
const send = async (): Promise<void> => act(async () => void fireEvent.click(screen.getByText('Send')));

beforeEach(async () => {
  sent = null;
  await show(<Form />);
});

describe('choices', () => {
  it('go by the arrow keys, round and round, and are one stop for Tab', async () => {
    function Group(): ReactNode {
      const [chosen, setChosen] = useState<string | null>(null);
      const options = ['a', 'b', 'c'].map((value) => ({ value, text: value }));
      return <Choices label="Letter" options={options} selected={chosen} onSelect={setChosen} />;
    }
    await show(<Group />);
    const radios = (): HTMLElement[] => screen.getAllByRole('radio');
    const states = (): [string | null, string | null][] =>
      radios().map((radio) => [radio.getAttribute('aria-checked'), radio.getAttribute('tabindex')]);
    expect(states()).toEqual([
      ['false', '0'],
      ['false', '-1'],
      ['false', '-1'],
    ]);
    fireEvent.keyDown(radios()[0]!, { key: 'ArrowLeft' });
    expect(states()[2]).toEqual(['true', '0']);
    expect(document.activeElement).toBe(radios()[2]);
    fireEvent.keyDown(radios()[2]!, { key: 'ArrowDown' });
    expect(states()[0]).toEqual(['true', '0']);
    fireEvent.keyDown(radios()[0]!, { key: 'x' });
    expect(states()[0]).toEqual(['true', '0']);
  });
});

describe('a temperature', () => {
  const heard: unknown[] = [];
  function Skin({ difference = false }: { difference?: boolean }): ReactNode {
    const [celsius, setCelsius] = useState<unknown>(40);
    heard.push(celsius);
    return <TemperatureInput label="Skin" value={celsius} onChange={setCelsius} difference={difference} />;
  }
  const field = (label: string): HTMLInputElement => screen.getByLabelText(label);

  it('is °C to its form, typed and shown as the reader likes', async () => {
    await AsyncStorage.setItem('pace-check.voice', JSON.stringify({ unit: 'F' }));
    await show(<Skin />);
    expect(field('Skin, °F').value).toBe('104');
    fireEvent.change(field('Skin, °F'), { target: { value: '99.5' } });
    expect(heard.at(-1)).toBeCloseTo(37.5, 9);
    expect(field('Skin, °F').value).toBe('99.5');
    fireEvent.change(field('Skin, °F'), { target: { value: 'warm' } });
    expect(heard.at(-1)).toBe('warm');
    fireEvent.change(field('Skin, °F'), { target: { value: '' } });
    expect(heard.at(-1)).toBeNull();
    await AsyncStorage.clear();
  });
  it('that is a difference has no zero to begin from', async () => {
    await AsyncStorage.setItem('pace-check.voice', JSON.stringify({ unit: 'F' }));
    await show(<Skin difference />);
    expect(field('Skin, °F').value).toBe('72');
    fireEvent.change(field('Skin, °F'), { target: { value: '9' } });
    expect(heard.at(-1)).toBeCloseTo(5, 9);
    await AsyncStorage.clear();
  });
});

describe('picking or adding a name', () => {
  it('goes by the arrow keys, takes by Enter and closes by Escape', async () => {
    const device = screen.getByLabelText('Device');
    fireEvent.focus(device);
    type('Device', 'vel');
    expect(device.getAttribute('aria-expanded')).toBe('true');
    fireEvent.keyDown(device, { key: 'ArrowDown' });
    fireEvent.keyDown(device, { key: 'ArrowDown' });
    const active = document.getElementById(device.getAttribute('aria-activedescendant')!)!;
    expect(active.textContent).toBe('Velm 5');
    expect(active.getAttribute('aria-selected')).toBe('true');
    fireEvent.keyDown(device, { key: 'Enter' });
    expect((device as HTMLInputElement).value).toBe('Velm 5');
    fireEvent.focus(device);
    type('Device', 'oru');
    fireEvent.keyDown(device, { key: 'Escape' });
    expect(device.getAttribute('aria-expanded')).toBe('false');
  });
  it('offers what is known while one types, and takes a tap', async () => {
    fireEvent.focus(screen.getByLabelText('Device'));
    type('Device', 'vel');
    expect(screen.queryByText('Oru Fold')).toBeNull();
    fireEvent.click(screen.getByText('Velm 5'));
    expect((screen.getByLabelText('Device') as HTMLInputElement).value).toBe('Velm 5');
    await send();
    expect(sent).toMatchObject({ device: 'Velm 5', setup: null });
  });
  it('adds a name that nobody knows', async () => {
    fireEvent.focus(screen.getByLabelText('Device'));
    type('Device', ' Quill Deck ');
    fireEvent.click(screen.getByText('Add “Quill Deck”'));
    await send();
    expect(sent).toMatchObject({ device: 'Quill Deck' });
  });
  it('takes an emptied setup for none', async () => {
    type('Device', 'Velm 4');
    type('Setup', 'Highest');
    type('Setup', '');
    await send();
    expect(sent).toMatchObject({ setup: null });
  });
  it('asks for a name where one is needed', async () => {
    await send();
    await waitFor(() => expect(screen.getByText('enter a name')).toBeTruthy());
    expect(sent).toBeNull();
  });
});

describe('numbers', () => {
  beforeEach(() => type('Device', 'Velm 4'));

  it('may be typed slowly, with comma or point', async () => {
    for (const text of ['5', '59', '59.', '59.9', '59.90']) {
      type('Target', text);
      expect((screen.getByLabelText('Target') as HTMLInputElement).value).toBe(text);
    }
    type('Panel', '59,94');
    await send();
    expect(sent).toMatchObject({ target: 59.9, refresh: 59.94 });
  });
  it('may be taken out again', async () => {
    type('Panel', '');
    await send();
    expect(sent).toMatchObject({ refresh: null });
  });
  it.each([
    ['fast', 'enter a number'],
    ['0', 'enter a number above zero'],
    ['5000', 'at most 1000'],
  ])('that make no sense are refused and stay: %s', async (text, message) => {
    type('Target', text);
    await send();
    await waitFor(() => expect(screen.getByText(message)).toBeTruthy());
    expect((screen.getByLabelText('Target') as HTMLInputElement).value).toBe(text);
    expect(sent).toBeNull();
  });
});
