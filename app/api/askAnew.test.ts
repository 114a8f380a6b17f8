import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { askAnew, askAnewExactly } from './askAnew';

/** Answers come when the test lets them. */
function asked(client: QueryClient, queryKey: string[]) {
  const answers: ((value: string) => void)[] = [];
  const observer = new QueryObserver<string>(client, {
    queryKey,
    queryFn: () => new Promise<string>((resolve) => answers.push(resolve)),
  });
  const stop = observer.subscribe(() => undefined);
  return { answers, stop, shown: () => observer.getCurrentResult().data };
}

test('a first answer that is on its way when something changes is not taken for the new one', async () => {
  const client = new QueryClient();
  const { answers, stop, shown } = asked(client, ['run', '1']);
  expect(answers).toHaveLength(1);
  const done = askAnew(client, ['runs'], ['run', '1']);
  await Promise.resolve();
  answers[0]!('before the change');
  await new Promise(process.nextTick);
  expect(answers).toHaveLength(2);
  answers[1]!('after it');
  await done;
  expect(shown()).toBe('after it');
  stop();
});

test('an answer that is there stays on the screen until the new one comes', async () => {
  const client = new QueryClient();
  const { answers, stop, shown } = asked(client, ['run', '1']);
  answers[0]!('before the change');
  await new Promise(process.nextTick);
  const done = askAnew(client, ['run']);
  await new Promise(process.nextTick);
  expect(shown()).toBe('before the change');
  answers[1]!('after it');
  await done;
  expect(shown()).toBe('after it');
  stop();
});

test('exactly a key leaves those below it alone', async () => {
  const client = new QueryClient();
  const list = asked(client, ['run']);
  const one = asked(client, ['run', '1']);
  for (const { answers } of [list, one]) answers[0]!('first');
  await new Promise(process.nextTick);
  const done = askAnewExactly(client, ['run']);
  await new Promise(process.nextTick);
  expect(list.answers).toHaveLength(2);
  expect(one.answers).toHaveLength(1);
  list.answers[1]!('second');
  await done;
  list.stop();
  one.stop();
});
