import { fireEvent, render, screen } from '@testing-library/react';
import { useState, type ReactNode } from 'react';
import { Text } from 'react-native';
import { show } from '../testing/render';
import { Guard } from './Guard';
import { LookProvider } from './Look';
import { Section } from './Section';
import { Answered } from './states';

// what breaks is told to the console, too
beforeEach(() => void jest.spyOn(console, 'error').mockImplementation(() => undefined));
afterEach(() => void jest.mocked(console.error).mockRestore());

let odd = true;
const Odd = (): ReactNode => {
  if (odd) throw new TypeError('its readings are no list');
  return <Text>twelve readings</Text>;
};

it('a part that cannot be drawn says so and what to do, and the others stay', async () => {
  odd = true;
  await show(
    <>
      <Section title="Warmth">
        <Odd />
      </Section>
      <Section title="Drain">
        <Text>4.3 W</Text>
      </Section>
    </>,
  );
  expect(screen.getByText('4.3 W')).toBeTruthy();
  expect(screen.getByRole('alert').textContent).toMatch(
    /Warmth cannot be shown.*look\s+in the settings.*its readings are no list/,
  );
  odd = false;
  fireEvent.click(screen.getByText('Try again'));
  expect(screen.getByText('twelve readings')).toBeTruthy();
  expect(screen.queryByRole('alert')).toBeNull();
});

it('an answer that cannot be drawn leaves what stands beside it, and what was typed there', async () => {
  odd = true;
  function Page(): ReactNode {
    const [typed] = useState('gulls');
    return (
      <>
        <Text>{typed}</Text>
        <Answered
          query={{ data: 1, error: null, refetch: jest.fn() } as never}
          loading={{ rows: 1, height: 9, label: 'x' }}
        >
          {() => {
            throw new TypeError('no outcome');
          }}
        </Answered>
      </>
    );
  }
  await show(<Page />);
  expect(screen.getByText('gulls')).toBeTruthy();
  expect(screen.getByRole('alert').textContent).toContain('no outcome');
});

it('what broke is tried again on another page', async () => {
  odd = true;
  const page = (path: string): ReactNode => (
    <LookProvider>
      <Guard what="This page" again={path}>
        <Odd />
      </Guard>
    </LookProvider>
  );
  const { rerender } = render(page('/runs'));
  expect(screen.getByRole('alert')).toBeTruthy();
  odd = false;
  rerender(page('/kit'));
  expect(screen.getByText('twelve readings')).toBeTruthy();
});
