import { Writable } from 'node:stream';
import { DrizzleQueryError } from 'drizzle-orm';
import pino from 'pino';
import { errorWords, inWords, loggedError, statementName } from './statement';

const secret = 'open-sesame';
const cause = Object.assign(new Error(`Duplicate entry '${secret}' for key 'PRIMARY'`), {
  code: 'ER_DUP_ENTRY',
  errno: 1062,
  sqlMessage: `Duplicate entry '${secret}'`,
  sql: `insert into \`destination\` (\`credential\`) values ('${secret}')`,
});
const failed = new DrizzleQueryError('insert into `destination` (`credential`) values (?)', [secret], cause);

test.each([
  ['select `a` from `item` where x = ?', 'select item'],
  ['insert ignore into `feed_schedule` (`feed`) values (?)', 'insert ignore feed_schedule'],
  ['update `draft` set `plan` = ?', 'update draft'],
  ['delete from job where kind = ?', 'delete job'],
  ['  (select 1)', 'select'],
  ['?', 'statement'],
])('%s is called %s', (statement, name) => expect(statementName(statement)).toBe(name));

test('neither words nor log lines hold what stands in a statement', () => {
  const lines: string[] = [];
  const log = pino(
    { serializers: { err: loggedError }, hooks: { logMethod: inWords } },
    new Writable({
      write: (chunk, _encoding, done) => {
        lines.push(String(chunk));
        done();
      },
    }),
  );
  for (const error of [failed, cause, new Error('outer', { cause: failed })]) {
    log.error({ err: error }, 'failed');
    log.warn(error);
    log.warn({ err: error });
  }
  expect(errorWords(failed)).toBe('The database could not carry out “insert destination” (ER_DUP_ENTRY).');
  expect(errorWords(cause)).not.toContain(secret);
  expect(lines.join('')).not.toContain(secret);
  expect(lines.join('')).toContain('statement.test.ts');
});
