import type { Action } from '@/core/rules/rule';

export const actionNames: Readonly<Record<Action['do'], string>> = {
  set: 'set',
  before: 'put before',
  after: 'put after',
  replace: 'replace in',
  clear: 'empty',
  leaveOut: 'leave the item out',
};
