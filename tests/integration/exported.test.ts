import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { stringify } from 'csv-stringify/sync';
import { isCompared } from '@/core/checks/comparing';
import { addDemoFeeds } from '@/server/demo/load';
import { loadFeedContext } from '@/server/evaluation/feedContext';
import { itemTable } from '@/server/items/items';
import { listFeeds } from '@/server/plans/drafts';
import { cartEvaluate } from '../support/feeds';
import { closeDatabase, freshDemo, temporaryFolder } from '../support/stack';

/** What the pages export is read by the terminal as the pages read it, on every feed. */
beforeAll(async () => {
  await freshDemo();
  await addDemoFeeds('demo');
});
afterAll(closeDatabase);

test('an export of all attributes has each column once, and evaluates to the same listings in every feed', async () => {
  const out = temporaryFolder();
  const feeds = await listFeeds();
  const differing: string[] = [];
  for (const { code } of feeds) {
    const work = await loadFeedContext(code);
    if (!work) throw new Error(`${code} is gone`);
    const { headings, rows } = await itemTable({
      columns: ['sku', 'family', ...work.snapshot.attributes.map((one) => one.code)],
      search: '',
      filters: {},
      sort: '',
      descending: false,
    });
    expect(headings.length).toBe(new Set(headings).size);
    writeFileSync(
      join(out, 'items.csv'),
      stringify([headings, ...rows], { escape_formulas: true, bom: true }),
    );
    writeFileSync(join(out, 'plan.json'), JSON.stringify(work.plans.draft));
    const done = cartEvaluate(join(out, 'plan.json'), join(out, 'items.csv'), out, '--currency', 'EUR');
    expect([code, done.stderr]).toEqual([code, '']);
    const theirs = new Map(
      readFileSync(join(out, 'listings.ndjson'), 'utf8')
        .trim()
        .split('\n')
        .map((line) => JSON.parse(line))
        .map((one) => [one.sku, one] as const),
    );
    // What was looked at (pictures, pages of the shop, other items) is known to the workspace alone.
    const looked = new Set([
      'picture',
      'pictureFacts',
      'pictureText',
      'priceOutlier',
      'otherBrand',
      'shopPage',
    ]);
    for (const listing of work.draft.listings) {
      const other = theirs.get(listing.sku);
      const values = Object.fromEntries(
        work.sheet.fields.flatMap(({ code: field }, at) =>
          listing.values[at] === undefined ? [] : [[field, listing.values[at]]],
        ),
      );
      for (const field of new Set([...Object.keys(values), ...Object.keys(other?.values ?? {})]))
        if (JSON.stringify(values[field]) !== JSON.stringify(other?.values[field]))
          differing.push(
            `${code} ${listing.sku} ${field}: ${JSON.stringify(values[field])} / ${JSON.stringify(other?.values[field])}`,
          );
      const plain = !listing.issues.some(({ check }) => looked.has(check) || isCompared(check));
      if (plain && listing.state !== other?.state)
        differing.push(
          `${code} ${listing.sku}: ${listing.state} / ${other?.state} ${JSON.stringify(other?.issues.filter((one: { severity: string }) => one.severity === 'blocker'))}`,
        );
    }
  }
  expect(differing.slice(0, 40)).toEqual([]);
});
