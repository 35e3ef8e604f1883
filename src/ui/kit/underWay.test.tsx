/** @jest-environment jsdom */
import { MantineProvider } from '@mantine/core';
import { act, render, screen } from '@testing-library/react';
import { WorkProgress } from './display/Progress';

beforeAll(() => {
  window.matchMedia = jest
    .fn()
    .mockReturnValue({ addEventListener: jest.fn(), removeEventListener: jest.fn() });
});
beforeEach(() => {
  jest.useFakeTimers();
});
afterEach(() => {
  jest.useRealTimers();
});

test('how far work is, is asked one question at a time, also where none is answered, and no longer than it is shown', async () => {
  const answers: ((answer: unknown) => void)[] = [];
  const fails: (() => void)[] = [];
  const requested = jest.fn(
    () =>
      new Promise((resolve, reject) => {
        answers.push(resolve);
        fails.push(() => reject(new Error('away')));
      }),
  );
  Object.assign(globalThis, { fetch: requested });
  const { unmount } = render(<WorkProgress />, { wrapper: MantineProvider });
  const pass = (ms: number) => act(() => jest.advanceTimersByTimeAsync(ms));
  await pass(10_000);
  expect(requested).toHaveBeenCalledTimes(1);
  fails[0]?.();
  await pass(1000);
  expect(requested).toHaveBeenCalledTimes(2);
  const work = [{ what: 'evaluating', feed: 'Lanternry DE', done: 1200, of: 2000 }];
  answers[1]?.({ ok: true, json: async () => work });
  await pass(1000);
  expect(screen.getByText(/Lanternry DE: 1,200 of 2,000 listings/)).toBeTruthy();
  expect(requested).toHaveBeenCalledTimes(3);
  unmount();
  fails[2]?.();
  await pass(10_000);
  expect(requested).toHaveBeenCalledTimes(3);
});
