/** @jest-environment jsdom */
import { renderHook, waitFor } from '@testing-library/react';
import { useCalculated } from './useCalculated';

const refresh = jest.fn();
const router = { refresh };
jest.mock('next/navigation', () => ({ useRouter: () => router }));

const answers = (answer: () => Promise<{ ok: boolean }>) => {
  const requested = jest.fn(answer);
  Object.assign(globalThis, { fetch: requested });
  return requested;
};
beforeEach(() => refresh.mockReset());

test('what comes later is waited for, and the page shown anew when it is there', async () => {
  const requested = answers(async () => ({ ok: true }));
  const there = { later: false };
  const { result, rerender } = renderHook(({ stage }) => useCalculated('a-feed', stage, 'missing:made_in'), {
    initialProps: { stage: there },
  });
  expect(requested).not.toHaveBeenCalled();
  rerender({ stage: { later: true } });
  await waitFor(() => expect(refresh).toHaveBeenCalledTimes(1));
  expect(requested).toHaveBeenCalledWith('/api/feeds/a-feed/fixes?fix=missing%3Amade_in', expect.anything());
  expect(result.current).toBe(false);
});

test.each([
  ['an answer that it could not be', async () => ({ ok: false })],
  ['no answer', () => Promise.reject(new TypeError('gone'))],
])('%s is told until the next page', async (_name, answer) => {
  answers(answer);
  const { result, rerender } = renderHook(({ stage }) => useCalculated('a-feed', stage, null), {
    initialProps: { stage: { later: true } },
  });
  await waitFor(() => expect(result.current).toBe(true));
  expect(refresh).not.toHaveBeenCalled();
  rerender({ stage: { later: false } });
  expect(result.current).toBe(false);
});
