import type { Action } from '@/core/rules/rule';

export const actionNames: Readonly<Record<Action['do'], string>> = {
  set: 'set',
  compose: 'make of parts',
  steps: 'run steps on',
  before: 'put before',
  after: 'put after',
  replace: 'replace in',
  copyWord: 'copy a word into',
  clear: 'empty',
  leaveOut: 'leave the item out',
  keep: 'take the item in again',
  review: 'hold back to be looked at',
};
