import { UnrecognizedActionError } from 'next/dist/client/components/unrecognized-action-error';
import { SaveQueue } from './useSaveQueue';

const realWindow = globalThis.window;
beforeEach(() => {
  globalThis.window = new EventTarget() as Window & typeof globalThis;
});
afterEach(() => {
  globalThis.window = realWindow;
});

const turn = () => new Promise((resolve) => setTimeout(resolve, 0));

test('a lane saves one after the other, in the order asked, though the first takes longer', async () => {
  const lane = new SaveQueue();
  const order: string[] = [];
  let release = () => {};
  const first = lane.run(async () => {
    await new Promise<void>((resolve) => {
      release = resolve;
    });
    order.push('first');
    return 1;
  });
  const second = lane.run(async () => {
    order.push('second');
    return 2;
  });
  await turn();
  expect(lane.state).toBe('pending');
  expect(order).toEqual([]);
  release();
  expect(await Promise.all([first, second])).toEqual([1, 2]);
  expect(order).toEqual(['first', 'second']);
  expect(lane.state).toBe('saved');
});

test('what did not arrive is sent again when the network is back, before what waits behind it', async () => {
  const lane = new SaveQueue();
  const states: string[] = [];
  lane.subscribe(() => states.push(lane.state));
  const order: string[] = [];
  let online = false;
  const first = lane.run(async () => {
    if (!online) throw new TypeError('Failed to fetch');
    order.push('first');
  });
  const second = lane.run(async () => {
    order.push('second');
  });
  await turn();
  expect(lane.state).toBe('offline');
  expect(order).toEqual([]);
  online = true;
  window.dispatchEvent(new Event('online'));
  await Promise.all([first, second]);
  expect(order).toEqual(['first', 'second']);
  expect(states).toContain('offline');
  expect(lane.state).toBe('saved');
});

test('where the server is reached and fails, it is given up in words, and what waits behind goes on', async () => {
  jest.useFakeTimers();
  const lane = new SaveQueue();
  const work = jest.fn(async () => {
    throw new Error('An unexpected response was received from the server.');
  });
  const first = lane.run(work);
  const second = lane.run(async () => 'behind');
  await jest.advanceTimersByTimeAsync(60_000);
  expect(await first).toMatchObject({
    ok: false,
    reason: 'refused',
    words: expect.stringMatching(/not saved/),
  });
  expect(work).toHaveBeenCalledTimes(3);
  expect(await second).toBe('behind');
  expect(lane.state).toBe('saved');
  jest.useRealTimers();
});

test('each try of one press has its number, and no other press has it', async () => {
  const lane = new SaveQueue();
  const presses: string[] = [];
  const work = async ({ press }: { press: string }) => {
    presses.push(press);
    if (presses.length === 1) throw new TypeError('Failed to fetch');
    return 'done';
  };
  const first = lane.run(work);
  await turn();
  window.dispatchEvent(new Event('online'));
  expect(await first).toBe('done');
  await lane.run(work);
  expect(presses[0]).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
  expect([presses[1] === presses[0], presses[2] === presses[0]]).toEqual([true, false]);
});

test('who has stopped listening is told no more', async () => {
  const lane = new SaveQueue();
  const reported = jest.fn();
  lane.subscribe(reported)();
  await lane.run(async () => undefined);
  expect(reported).not.toHaveBeenCalled();
});

test('where the application was renewed under the page, nothing is sent again and the page can say so', async () => {
  const lane = new SaveQueue();
  const work = jest.fn(async () => {
    throw new UnrecognizedActionError('an action of an older build');
  });
  void lane.run(work);
  const behind = jest.fn(async () => undefined);
  void lane.run(behind);
  await turn();
  window.dispatchEvent(new Event('online'));
  await turn();
  expect(lane.state).toBe('outdated');
  expect(work).toHaveBeenCalledTimes(1);
  expect(behind).not.toHaveBeenCalled();
});
