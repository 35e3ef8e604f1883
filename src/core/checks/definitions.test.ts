import { readFileSync } from 'node:fs';
import { checksText } from '../../../scripts/checksDoc';

test('docs/checks.md is what the definitions say; `npm run schemas` makes it', () => {
  expect(readFileSync('docs/checks.md', 'utf8')).toBe(checksText());
});
