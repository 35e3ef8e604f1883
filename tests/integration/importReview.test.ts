import { eq } from 'drizzle-orm';
import { db } from '@/server/db/connection';
import { item, run, source } from '@/server/db/schema';
import { applyRun } from '@/server/import/applying';
import { importUnattended, setAddress } from '@/server/import/fetching';
import { changeMapping, findRun } from '@/server/import/runs';
import { takeFile } from '@/server/import/sources';
import { unattended } from '@/server/jobs/queue';
import { listNotifications } from '@/server/notifications/notifications';
import { pass } from '../support/runs';
import { bodyOf, closeDatabase, freshDemo } from '../support/stack';

/** An automatic import that is far outside the usual changes nothing until a person has looked at it. */
beforeEach(async () => {
  await freshDemo();
});
afterAll(closeDatabase);

const heading = 'SKU;Name;Price;Stock';
const line = (n: number, price = `${n}.90`) => `HOLD-${n};Wicker shade ${n};${price} EUR;${n}`;
const lines = (from: number, to: number, price?: (n: number) => string) =>
  Array.from({ length: to - from + 1 }, (_, at) => line(from + at, price?.(from + at)));
const fileOf = (rows: readonly string[], end = '\n') => [heading, ...rows].join('\n') + end;

let number: number;

/** What a fetch that was due does: the file is taken, checked, and applied where nothing speaks against it. */
async function arrive(file: string) {
  const id = await takeFile('shades.csv', bodyOf(file), number);
  await pass(id, 'check');
  await importUnattended(id);
  const found = await findRun(id);
  if (found?.state === 'applying') await applyRun(id, unattended);
  return (await findRun(id)) as NonNullable<Awaited<ReturnType<typeof findRun>>>;
}

const there = async () =>
  (await db.select().from(item).where(eq(item.sourceId, number))).filter(({ archived }) => !archived).length;

beforeEach(async () => {
  const id = await takeFile('shades.csv', bodyOf(fileOf(lines(1, 40))));
  await changeMapping(id, (mapping) => ({ ...mapping, missing: 'archive' }));
  await pass(id, 'check');
  await pass(id, 'apply');
  const [first] = await db.select({ source: run.sourceId }).from(run).where(eq(run.id, id));
  number = first?.source ?? 0;
  await setAddress(number, { address: null, schedule: null, automatic: true });
  expect(await there()).toBe(40);
});

test('what is as usual comes in, what is not waits and is told', async () => {
  expect(await arrive(fileOf(lines(1, 39)))).toMatchObject({ state: 'done', alarms: [] });
  expect(await there()).toBe(39);

  const held: [string, string[]][] = [
    [fileOf(lines(1, 8)), ['fewer', 'missing']],
    [fileOf(lines(1, 39, (n) => `${n * 100}.00`)), ['prices']],
    [fileOf([...lines(1, 39), ...lines(100, 160)]), ['fresh']],
    [fileOf([...lines(1, 39), ...Array.from({ length: 20 }, () => ';no code;1.00 EUR;1')]), ['rejected']],
    [fileOf([...lines(1, 38), 'HOLD-39;Wicker sh'], ''), ['cutOff']],
  ];
  for (const [file, alarms] of held) {
    const done = await arrive(file);
    expect([done.state, done.alarms?.map(({ alarm }) => alarm)]).toEqual(['checked', alarms]);
    expect(await there()).toBe(39);
    const [notice] = await listNotifications();
    expect(notice).toMatchObject({ kind: 'importHeld', source: number });
  }
  // A person who has looked may apply it all the same.
  const first = await arrive(fileOf(lines(1, 8)));
  await pass(first.id, 'apply');
  expect(await there()).toBe(8);
});

test('limits of a source count in place of the usual ones', async () => {
  const limits = { missing: 90, price: 50, prices: 5, rejected: 20, fresh: 50, fewer: 90 };
  await setAddress(number, { address: null, schedule: null, automatic: true, limits });
  const [kept] = await db.select({ limits: source.limits }).from(source).where(eq(source.id, number));
  expect(kept?.limits).toEqual(limits);
  expect(await arrive(fileOf(lines(1, 8)))).toMatchObject({ state: 'done' });
  expect(await there()).toBe(8);
});

test.each([
  [
    'xml',
    '<goods>' +
      lines(1, 30)
        .map((text) => `<good><sku>${text.split(';')[0]}</sku><name>x</name></good>`)
        .join(''),
  ],
  [
    'json',
    `[${lines(1, 30)
      .map((text) => JSON.stringify({ sku: text.split(';')[0], name: 'x' }))
      .join(',')}`,
  ],
])('%s without its end is refused', async (kind, text) => {
  const id = await takeFile(`cut.${kind}`, bodyOf(text)).catch((error: Error) => error);
  if (id instanceof Error) return expect(id.message).toMatch(/end|cut|broken|close/i);
  const done = await pass(id, 'check');
  expect([done.state, done.error]).toEqual(['failed', expect.stringMatching(/end|cut|broken|close/i)]);
});
