import type { RunRow } from '@/server/import/runs';
export const runStateLabels: Readonly<Record<RunRow['state'], string>> = {
  uploaded: 'to be mapped',
  checking: 'being checked',
  checked: 'checked, not imported yet',
  applying: 'coming in',
  done: 'imported',
  undoing: 'being undone',
  undone: 'undone',
  failed: 'stopped',
};
