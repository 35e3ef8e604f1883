import { progressHere, withProgress } from './progress';

test('work is told of while it goes on, as far as it is by then, and not after it has ended or failed', async () => {
  let make: (created: string) => void = () => undefined;
  let fail: (why: Error) => void = () => undefined;
  const first = new Promise<string>((resolve) => {
    make = resolve;
  });
  const second = new Promise<string>((_resolve, reject) => {
    fail = reject;
  });
  let done = 0;
  const of = (feed: string) => () => ({ what: 'evaluating' as const, feed, done, of: 10 });
  const [told, failing] = [withProgress(of('one'), first), withProgress(of('two'), second)];
  expect(progressHere().map(({ feed }) => feed)).toEqual(['one', 'two']);
  done = 7;
  expect(progressHere()[0]).toEqual({ what: 'evaluating', feed: 'one', done: 7, of: 10 });
  make('made');
  expect(await told).toBe('made');
  expect(progressHere().map(({ feed }) => feed)).toEqual(['two']);
  fail(new Error('it ended'));
  await expect(failing).rejects.toThrow('it ended');
  expect(progressHere()).toEqual([]);
});
