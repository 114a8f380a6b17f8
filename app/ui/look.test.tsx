import { fireEvent, render } from '@testing-library/react';
import { useState, type ReactNode } from 'react';
import { Text, TextInput } from 'react-native';
import { LookProvider, useLook } from './Look';

function Form(): ReactNode {
  const { night, choose } = useLook();
  const [typed, setTyped] = useState('');
  return (
    <>
      <TextInput accessibilityLabel="Note" value={typed} onChangeText={setTyped} />
      <Text onPress={() => choose('night')}>{night ? 'it is night' : 'it is day'}</Text>
    </>
  );
}

it('what is typed stays when night falls', () => {
  const shown = render(
    <LookProvider>
      <Form />
    </LookProvider>,
  );
  fireEvent.change(shown.getByLabelText('Note'), { target: { value: 'gulls on the cable' } });
  fireEvent.click(shown.getByText('it is day'));
  expect(shown.getByText('it is night')).toBeTruthy();
  expect((shown.getByLabelText('Note') as HTMLInputElement).value).toBe('gulls on the cable');
});
