import { zodResolver } from '@hookform/resolvers/zod';
import { runFacts, type RunFactsInput } from '@pace-check/contract';
import { act, fireEvent, screen, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { useForm } from 'react-hook-form';
import { Button } from '@rneui/themed';
import { show } from '../testing/render';
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

describe('picking or adding a name', () => {
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
    await waitFor(() => expect(screen.getByText('a name is needed')).toBeTruthy());
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
    ['fast', 'a number is needed'],
    ['0', 'above zero'],
    ['5000', 'at most 1000'],
  ])('that make no sense are refused and stay: %s', async (text, message) => {
    type('Target', text);
    await send();
    await waitFor(() => expect(screen.getByText(message)).toBeTruthy());
    expect((screen.getByLabelText('Target') as HTMLInputElement).value).toBe(text);
    expect(sent).toBeNull();
  });
});
