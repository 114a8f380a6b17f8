import { afterTap } from './afterTap';

const heard = (type: string): void => void document.dispatchEvent(new Event(type));
const soon = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 5));

it('waits for the tap that is going on, and for none where nothing is down', async () => {
  const done: string[] = [];
  afterTap(() => done.push('at once'));
  await soon();
  expect(done).toEqual(['at once']);

  heard('pointerdown');
  afterTap(() => done.push('after the tap'));
  await soon();
  expect(done).toEqual(['at once']);
  heard('pointerup');
  await soon();
  expect(done).toEqual(['at once', 'after the tap']);

  // a tap that became something else ends as well, and each is done once
  heard('pointerdown');
  afterTap(() => done.push('after a scroll'));
  heard('pointercancel');
  heard('pointerup');
  await soon();
  expect(done).toEqual(['at once', 'after the tap', 'after a scroll']);
});
