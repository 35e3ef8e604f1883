'use client';
import { parseAsString, parseAsStringLiteral, useQueryState } from 'nuqs';

/**
 * What is open on a page, such as a row: kept in the address, and open at once, before the server hears of it. A click that
 * follows never meets what was open before.
 * @param param the name it has in the address
 * @param told whether the server draws something of it too
 */
export function useOpen(param: string, reported = false) {
  const [open, setOpen] = useQueryState(
    param,
    parseAsString.withDefault('').withOptions({ shallow: !reported }),
  );
  return {
    open,
    setOpen: (key: string) => void setOpen(key || null),
    toggle: (key: string) => void setOpen(open === key ? null : key),
  };
}

/** Which part of a list is shown: kept in the address without asking the server. The first one counts where none is named. */
export function useShown<K extends string>(keys: readonly [K, ...K[]]) {
  const [shown, setShown] = useQueryState('show', parseAsStringLiteral(keys).withDefault(keys[0]));
  return { shown, setShown: (key: K) => void setShown(key) };
}
