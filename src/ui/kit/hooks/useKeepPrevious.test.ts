/** @jest-environment jsdom */
import { renderHook } from '@testing-library/react';
import { useKeepPrevious } from './useKeepPrevious';

test('what was shown stays while it is made anew, and goes where it is not coming or where something else is shown', () => {
  const first = { words: 'first' };
  const { result, rerender } = renderHook(
    ({ key, now, coming }: { key: string; now: object | undefined; coming: boolean }) =>
      useKeepPrevious(key, now, coming),
    { initialProps: { key: 'a', now: undefined as object | undefined, coming: true } },
  );
  expect(result.current).toBeUndefined();
  rerender({ key: 'a', now: first, coming: false });
  expect(result.current).toBe(first);
  rerender({ key: 'a', now: undefined, coming: true });
  expect(result.current).toBe(first);
  // Of another thing nothing stands, and of this one neither once it is not coming.
  rerender({ key: 'b', now: undefined, coming: true });
  expect(result.current).toBeUndefined();
  rerender({ key: 'a', now: undefined, coming: false });
  expect(result.current).toBeUndefined();
  const second = { words: 'second' };
  rerender({ key: 'a', now: second, coming: true });
  expect(result.current).toBe(second);
});
