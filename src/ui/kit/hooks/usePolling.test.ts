/** @jest-environment jsdom */
import { renderHook } from '@testing-library/react';
import { usePolling } from './usePolling';

const refresh = jest.fn();
const router = { refresh };
jest.mock('next/navigation', () => ({ useRouter: () => router }));

beforeEach(() => {
  jest.useFakeTimers();
});
afterEach(() => {
  jest.useRealTimers();
});

test('a page is shown anew while something is under way, and no longer', () => {
  const { rerender, unmount } = renderHook(({ underWay }) => usePolling(underWay, 1000), {
    initialProps: { underWay: false },
  });
  jest.advanceTimersByTime(5000);
  expect(refresh).not.toHaveBeenCalled();
  rerender({ underWay: true });
  jest.advanceTimersByTime(3500);
  expect(refresh).toHaveBeenCalledTimes(3);
  rerender({ underWay: false });
  jest.advanceTimersByTime(5000);
  expect(refresh).toHaveBeenCalledTimes(3);
  rerender({ underWay: true });
  unmount();
  jest.advanceTimersByTime(5000);
  expect(refresh).toHaveBeenCalledTimes(3);
});
