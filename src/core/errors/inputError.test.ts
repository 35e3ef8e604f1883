import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { InputError } from './inputError';
import { errorWords } from './messages';

test('an error is a code with facts, its message their words', () => {
  const error = new InputError('noMarket', { channel: 'Lanternry', country: 'FR', language: 'fr' });
  expect(error).toMatchObject({
    code: 'noMarket',
    facts: { country: 'FR' },
    message: 'Lanternry has no market FR in “fr”.',
  });
});

test('the place of what is wrong is told apart from its words', () => {
  expect(new InputError('xmlBroken', { line: 12, column: 4, why: 'unclosed tag.' }).place).toEqual({
    line: 12,
    column: 4,
  });
  expect(new InputError('rowWithoutSku', { row: 7 }).place).toEqual({ row: 7 });
  expect(new InputError('empty').place).toEqual({});
});

/** Facts that stand for themselves, so that words which forget one show it. */
const reported = new Proxy({}, { get: (_, name) => `‹${String(name)}›` });

test.each(Object.entries(errorWords))('%s says something and forgets no fact', (_code, words) => {
  const stated = (words as (facts: unknown) => string)(reported);
  expect(stated.length).toBeGreaterThan(10);
  expect(stated).not.toContain('undefined');
  const requested = [...words.toString().matchAll(/\$\{(\w+)\}/g)].map(([, name]) => name);
  for (const name of requested) expect(stated).toContain(`‹${name}›`);
});

test('every code is used somewhere', () => {
  const folder = join(process.cwd(), 'src');
  const code = readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((name) => /\.tsx?$/.test(name) && !name.includes('.test.') && !name.endsWith('errors/words.ts'))
    .map((name) => readFileSync(join(folder, name), 'utf8'))
    .join('\n');
  expect(Object.keys(errorWords).filter((one) => !code.includes(`'${one}'`))).toEqual([]);
});
