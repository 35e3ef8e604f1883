'use client';
import { useHotkeys } from '@mantine/hooks';

/** Ctrl or Cmd and Z takes the last change back; in a text that is being typed it stays the text's own. */
export function useUndoKey(undo: () => void, on = true): void {
  useHotkeys(on ? [['mod+Z', undo]] : [], ['INPUT', 'TEXTAREA']);
}
