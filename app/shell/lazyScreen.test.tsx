import { fireEvent, screen } from '@testing-library/react';
import type { ReactNode } from 'react';
import { Text } from 'react-native';
import { show } from '../testing/render';
import { lazyScreen, type fetchScreens } from './lazyScreen';

jest.mock('./screens', () => ({}));

const Kit = (): ReactNode => <Text>the kit</Text>;

test('a screen that cannot be fetched says so, and is there when it is tried again', async () => {
  let reached = false;
  const fetch = (() =>
    reached ? Promise.resolve({ KitScreen: Kit }) : Promise.reject(new Error('gone'))) as typeof fetchScreens;
  const Lazy = lazyScreen((screens) => screens.KitScreen, fetch);
  await show(<Lazy />);
  expect(await screen.findByText(/is not stored in the browser/)).toBeTruthy();
  expect(screen.queryByText('the kit')).toBeNull();
  reached = true;
  fireEvent.click(screen.getByText('Try again'));
  expect(await screen.findByText('the kit')).toBeTruthy();
});
