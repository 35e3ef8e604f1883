import { createHash } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { asc } from 'drizzle-orm';
import { compile } from '@/core/listing/compile';
import { evaluateAll, type Listing } from '@/core/listing/evaluate';
import { type Plan, planOn } from '@/core/plans/plan';
import { feedPieces } from '@/files/formats';
import { languageDetector } from '@/files/languageDetector';
import { db } from '@/server/db/connection';
import { submission, submissionEntry } from '@/server/db/schema';
import { addDemoFeeds } from '@/server/demo/load';
import { listFeeds } from '@/server/plans/drafts';
import { sendFeed } from '@/server/submissions/submissions';
import { largeCatalog } from '../../bench/catalog';
import { morePlans } from '../../demo/plans';
import { demoCatalog, demoIndex, demoPlan } from '../support/demo';
import { bundled } from '../support/sheets';
import { closeDatabase, freshDemo } from '../support/stack';

/**
 * Listings, issues, files and submissions of the demo and of a generated catalog are the same byte for byte as at the commit at
 * which `tests/data/digests.json` was written. With `LIVELY_WRITE_DIGESTS=yes` the fixture is written anew: do so only for a
 * difference that is wanted, and name it in the commit.
 */
const path = 'tests/data/digests.json';
const day = '2026-12-01';
const generated = largeCatalog(1500);
const catalogs = {
  demo: { ...demoCatalog, index: demoIndex },
  generated: { skus: generated.skus, rows: generated.rows, index: generated.index },
};
const digest = () => createHash('sha256');
const found: Record<string, string> = {};

const plans: readonly Plan[] = [demoPlan, ...morePlans(demoPlan)];
const nameOf = ({ channel, market }: Plan) => `${channel} ${market.country} ${market.language}`;

const inOrder = ({ sku, state, reason, values, issues }: Listing) => ({ sku, state, reason, values, issues });

afterAll(async () => {
  if (process.env.LIVELY_WRITE_DIGESTS === 'yes') writeFileSync(path, `${JSON.stringify(found, null, 2)}\n`);
  await closeDatabase();
});
const kept = (name: string): unknown =>
  process.env.LIVELY_WRITE_DIGESTS === 'yes' ? found[name] : JSON.parse(readFileSync(path, 'utf8'))[name];

describe.each(Object.entries(catalogs))('the %s catalog', (catalogName, { index, ...catalog }) => {
  test.each(plans.map((plan) => [nameOf(plan), plan] as const))(
    '%s: listings, issues and file',
    async (name, plan) => {
      const { sheet, tree } = bundled(plan.channel);
      const compiled = compile(planOn(plan, day), sheet, tree, index, {
        day,
        languageOf: await languageDetector(),
      });
      const listings = evaluateAll(compiled, catalog);
      const ofListings = digest();
      for (const one of listings) ofListings.update(JSON.stringify(inOrder(one)));
      const ofFile = digest();
      const head = {
        id: 'urn:lively-cart:digest',
        title: name,
        author: 'Lively Cart',
        updated: `${day}T00:00:00Z`,
      };
      // A workbook is packed with the time at which it was made: its cells are those of a table.
      const asText =
        sheet.delivery.format === 'xlsx'
          ? { ...sheet, delivery: { ...sheet.delivery, format: 'tsv' as const } }
          : sheet;
      for await (const piece of feedPieces(
        asText,
        head,
        listings.filter(({ state }) => state === 'ready'),
      ))
        ofFile.update(piece);
      found[`${catalogName}, ${name}, listings`] = ofListings.digest('hex');
      found[`${catalogName}, ${name}, file`] = ofFile.digest('hex');
      for (const part of ['listings', 'file'])
        expect([part, found[`${catalogName}, ${name}, ${part}`]]).toEqual([
          part,
          kept(`${catalogName}, ${name}, ${part}`),
        ]);
    },
  );
});

test('submissions of the demo, each entry with what would leave', async () => {
  await freshDemo();
  await addDemoFeeds('demo');
  for (const { code } of await listFeeds()) await sendFeed(code).catch(() => undefined);
  const submissions = await db.select().from(submission).orderBy(asc(submission.id));
  const entries = await db
    .select()
    .from(submissionEntry)
    .orderBy(asc(submissionEntry.submissionId), asc(submissionEntry.position), asc(submissionEntry.sku));
  for (const one of submissions) {
    const all = digest();
    all.update(JSON.stringify([one.feed, one.version, one.state, one.total, one.accepted, one.cause]));
    for (const entry of entries.filter(({ submissionId }) => submissionId === one.id))
      all.update(
        JSON.stringify([
          entry.sku,
          entry.position,
          entry.batch,
          entry.due,
          entry.digest,
          entry.values,
          entry.answer,
        ]),
      );
    const name = `submission ${one.id} of ${one.feed}`;
    found[name] = all.digest('hex');
    expect([name, found[name]]).toEqual([name, kept(name)]);
  }
  expect(submissions.length).toBeGreaterThan(7);
});
