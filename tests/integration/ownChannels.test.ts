import { eq } from 'drizzle-orm';
import { sheetFromHeadings } from '@/core/channels/drafting';
import type { Sheet } from '@/core/channels/sheet';
import { fromAttribute } from '@/core/compose/composition';
import { readPastedRows } from '@/core/formats/pastedRows';
import {
  channelOf,
  createChannel,
  dropVersion,
  findChannel,
  openNextVersion,
  openVersion,
  saveVersion,
  takeBundledChannels,
  takeOnVersion,
  taxonomyOf,
} from '@/server/channels/channels';
import { listChannels } from '@/server/channels/sheets';
import { db } from '@/server/db/connection';
import { draft } from '@/server/db/schema';
import { loadFeedContext } from '@/server/evaluation/feedContext';
import { reviewVersion } from '@/server/evaluation/sheetReview';
import { editDraft, feedPlans } from '@/server/plans/drafts';
import { createFeed } from '@/server/plans/feeds';
import { fieldsStage } from '@/server/stages/fields';
import { closeDatabase, freshDemo } from '../support/stack';

beforeAll(freshDemo);
afterAll(closeDatabase);

const head = {
  code: 'market-garden',
  name: 'Market garden',
  country: 'DE',
  language: 'de',
  currency: 'EUR',
  effective: '2026-11-23',
};
/** Takes the title pattern away that a new feed begins with: it would shorten what is too long. */
async function withoutPattern(feed: string): Promise<void> {
  const plans = await feedPlans(feed);
  if (!plans) throw new Error('the feed is gone');
  const { title: _pattern, ...plan } = plans.draft;
  await db.update(draft).set({ plan }).where(eq(draft.feed, feed));
}
const tree = 'code,parent,name_en,synonyms\nin,,Indoors,\npots,in,Pots,planter|Töpfe\nout,,Outdoors,\n';

const work = async (feed: string) => {
  const found = await loadFeedContext(feed);
  if (!found) throw new Error('the feed is gone');
  return found;
};
const edit = async (feed: string, change: Parameters<typeof editDraft>[2]) => {
  const plans = await feedPlans(feed);
  const result = await editDraft(feed, plans?.revision ?? 0, change);
  expect(result.ok).toBe(true);
};

describe('a seventh channel, made without code', () => {
  test('from a heading row, changed, accepted, mapped and evaluated', async () => {
    const rows = readPastedRows(
      'Artikelnummer;Titel;Preis;Farbe;EAN;Rubrik\nA-1;Topf;4,90;moos;9526100000013;pots',
    );
    const [headings = [], ...below] = rows;
    const code = await createChannel(sheetFromHeadings(head, headings, below), '');
    expect((await listChannels()).find((one) => one.code === code)).toMatchObject({
      version: undefined,
      bundled: false,
      open: { version: 1 },
    });
    await expect(createFeed(code, 'DE', 'de')).rejects.toThrow('no channel');

    const open = await openVersion(code);
    if (!open) throw new Error('the version is gone');
    const fields = open.channel.sheet.fields.map((field) =>
      field.code === 'titel'
        ? { ...field, length: { measure: 'characters', most: 25 } }
        : field.code === 'rubrik'
          ? { ...field, kind: 'category', role: 'category', need: 'must' }
          : field.code === 'farbe'
            ? { ...field, mustWhen: { under: ['in'] }, because: 'placed indoors' }
            : field,
    );
    const saved = await saveVersion(code, open.revision, { ...open.channel.sheet, fields }, tree);
    expect(saved).toMatchObject({ ok: true, revision: 2 });
    // Neither an older hand nor a sheet that is not valid gets through.
    expect(await saveVersion(code, 1, open.channel.sheet, tree)).toMatchObject({ ok: false });
    expect(await saveVersion(code, 2, { ...open.channel.sheet, fields: [] }, tree)).toMatchObject({
      ok: false,
      words: expect.stringContaining('at fields'),
    });
    await takeOnVersion(code, 2);

    const feed = await createFeed(code, 'DE', 'de');
    await withoutPattern(feed);
    const stage = await fieldsStage(await work(feed), undefined);
    const suggested = stage.rows.flatMap(({ code: field, suggestions: [best] }) =>
      best ? [[field, best] as const] : [],
    );
    expect(Object.fromEntries(suggested.map(([field, { attribute }]) => [field, attribute]))).toMatchObject({
      artikelnummer: 'sku',
      preis: 'price',
      farbe: 'color',
      ean: 'gtin',
    });
    await edit(feed, {
      edit: 'fields',
      fields: {
        ...Object.fromEntries(suggested.map(([field, { composition }]) => [field, composition])),
        titel: fromAttribute('name'),
      },
    });
    await edit(feed, { edit: 'place', placements: { 'Pots, glazed': { category: 'pots' } } });
    const { draft: found, sheet, snapshot } = await work(feed);
    const slot = snapshot.index.slotOf('name') ?? -1;
    const title = sheet.fields.findIndex((field) => field.code === 'titel');
    [...found.listings].forEach((listing, i) => {
      const name = String(snapshot.rows[i]?.[slot] ?? '');
      expect(listing.values[title]).toBe(name || undefined);
      expect(listing.issues.some(({ check }) => check === 'tooLong')).toBe(name.length > 25);
    });
    const place = sheet.fields.findIndex((field) => field.code === 'rubrik');
    expect([...found.listings].filter(({ values }) => values[place] === 'pots').length).toBeGreaterThan(10);
    expect([...found.listings].some(({ state }) => state === 'ready')).toBe(
      [...found.listings].some(({ issues }) => issues.every(({ severity }) => severity !== 'blocker')),
    );
  });

  test('copied from another, exported and imported again it is the same', async () => {
    const { sheet } = await channelOf('orrin-bazaar');
    const taxonomy = (await taxonomyOf('orrin-bazaar', sheet.version)) ?? '';
    const code = await createChannel({ ...sheet, code: 'copy', name: 'Copy', version: 1 }, taxonomy);
    const open = await openVersion(code);
    const text = JSON.stringify(open?.channel.sheet);
    await dropVersion(code);
    expect(await openVersion(code)).toBeUndefined();
    await createChannel(JSON.parse(text), taxonomy);
    expect((await openVersion(code))?.channel.sheet.fields).toEqual(sheet.fields);
    await expect(createChannel(JSON.parse(text), taxonomy)).rejects.toThrow('already is a channel');
    await dropVersion(code);
  });
});

describe('a new version', () => {
  const feed = async () => {
    const known = await feedPlans('plazuela-norte-es');
    if (known) return 'plazuela-norte-es';
    const code = await createFeed('plazuela-norte', 'ES', 'es');
    const stage = await fieldsStage(await work(code), undefined);
    await edit(code, {
      edit: 'fields',
      fields: Object.fromEntries(
        stage.rows.flatMap(({ code: field, suggestions: [best] }) =>
          best && best.score >= stage.takeAllFrom ? [[field, best.composition]] : [],
        ),
      ),
    });
    await withoutPattern(code);
    const { sheet } = await channelOf('plazuela-norte');
    const title = sheet.fields.find(({ role }) => role === 'title')?.code ?? '';
    await edit(code, { edit: 'fields', fields: { [title]: fromAttribute('name') } });
    return code;
  };
  const review = async (change: (sheet: Sheet) => Sheet, taxonomy?: (text: string) => string) => {
    const { sheet } = await channelOf('plazuela-norte');
    const text = (await taxonomyOf('plazuela-norte', sheet.version)) ?? '';
    const version = await openNextVersion('plazuela-norte', '2027-01-01', {
      sheet: change(sheet),
      taxonomy: taxonomy?.(text),
    });
    const found = await reviewVersion('plazuela-norte', version);
    await dropVersion('plazuela-norte');
    if (!found) throw new Error('no review');
    return found;
  };
  const field = (sheet: Sheet, code: string, change: object): Sheet => ({
    ...sheet,
    fields: sheet.fields.map((one) => (one.code === code ? { ...one, ...change } : one)),
  });
  /** Every listing that has none of these troubles now and would have one then, counted in the test's own way. */
  const expected = async (broken: (values: Map<string, unknown>, blocked: boolean) => boolean) => {
    const { draft, sheet } = await work('plazuela-norte-es');
    return [...draft.listings]
      .filter(({ values, state }) =>
        broken(new Map(sheet.fields.map(({ code }, at) => [code, values[at]])), state === 'blocked'),
      )
      .map(({ sku }) => sku);
  };
  const touched = (found: Awaited<ReturnType<typeof review>>) =>
    [...(found.feeds[0]?.broken ?? []), ...(found.feeds[0]?.worse ?? [])].map(({ sku }) => sku).sort();

  test('a shorter title breaks exactly the listings whose title is longer', async () => {
    await feed();
    const { sheet } = await channelOf('plazuela-norte');
    const title = sheet.fields.find(({ role }) => role === 'title');
    if (!title) throw new Error('no title');
    const found = await review((old) =>
      field(old, title.code, { length: { ...title.length, measure: 'characters', most: 22 } }),
    );
    expect(found.changes.map(({ kind }) => kind)).toEqual(['length']);
    const most = title.length?.most ?? 0;
    // Those that were too long already are refused for the same reason as before.
    const longer = await expected((values) => {
      const { length } = String(values.get(title.code) ?? '');
      return length > 22 && length <= most;
    });
    expect(longer.length).toBeGreaterThan(5);
    expect(touched(found)).toEqual(longer.sort());
  });
  test('a field that becomes a must breaks exactly the listings that lack it', async () => {
    const found = await review((old) => field(old, 'material', { need: 'must' }));
    expect(found.changes).toEqual([{ kind: 'need', words: expect.stringContaining('to required') }]);
    const lacking = await expected((values) => values.get('material') === undefined);
    expect(lacking.length).toBeGreaterThan(5);
    expect(touched(found)).toEqual(lacking.sort());
  });
  test('a branch that moves breaks exactly the listings placed in it that lack what its new place asks for', async () => {
    const { tree: places } = await channelOf('plazuela-norte');
    // A field of the sheet that is a must under a branch, and a leaf outside that branch to move into it.
    const { sheet } = await channelOf('plazuela-norte');
    const demanding = sheet.fields.find(({ mustWhen }) => mustWhen && 'under' in mustWhen);
    const [branch] = demanding?.mustWhen && 'under' in demanding.mustWhen ? demanding.mustWhen.under : [];
    if (!demanding || !branch) throw new Error('no such field');
    const roots = (code: string): string => {
      const parent = places.byCode.get(code)?.parent;
      return parent ? roots(parent) : code;
    };
    const leaf = [...places.byCode.values()].find(
      ({ code, children }) => children.length === 0 && roots(code) !== roots(branch),
    );
    if (!leaf) throw new Error('no such leaf');
    const { snapshot } = await work('plazuela-norte-es');
    const slot = snapshot.index.slotOf('category') ?? -1;
    const category = String(snapshot.rows.find((row) => row[slot] !== undefined)?.[slot]);
    await edit('plazuela-norte-es', { edit: 'place', placements: { [category]: { category: leaf.code } } });
    const found = await review(
      (old) => old,
      (text) => text.replace(`\n${leaf.code},${leaf.parent},`, `\n${leaf.code},${branch},`),
    );
    expect(found.changes.map(({ kind }) => kind)).toEqual(['categoryMoved']);
    const place = sheet.fields.find(({ kind }) => kind === 'category')?.code ?? '';
    const lacking = await expected(
      (values) => values.get(place) === leaf.code && values.get(demanding.code) === undefined,
    );
    expect(lacking.length).toBeGreaterThan(0);
    expect(touched(found)).toEqual(lacking.sort());
  });
  test('nothing changes until it is taken on, and then it counts', async () => {
    const before = (await channelOf('plazuela-norte')).sheet;
    await openNextVersion('plazuela-norte', '2027-01-01', {
      sheet: field(before, 'material', { need: 'must' }),
      taxonomy: undefined,
    });
    await expect(openNextVersion('plazuela-norte', '2027-01-01')).rejects.toThrow('is open');
    expect((await channelOf('plazuela-norte')).sheet.version).toBe(before.version);
    const found = await reviewVersion('plazuela-norte', before.version + 1);
    const open = await openVersion('plazuela-norte');
    await takeOnVersion('plazuela-norte', open?.revision ?? 0);
    expect((await channelOf('plazuela-norte')).sheet.version).toBe(before.version + 1);
    const { draft } = await work('plazuela-norte-es');
    const missing = [...draft.listings].filter(({ issues }) =>
      issues.some(
        (issue) => issue.check === 'missing' && issue.field === 'material' && issue.severity === 'blocker',
      ),
    );
    expect(missing.map(({ sku }) => sku).sort()).toEqual(touched(found as NonNullable<typeof found>));
  });
  test('a sheet of another channel is refused', async () => {
    const { sheet } = await channelOf('own-shop');
    await expect(
      openNextVersion('tessel-boards', '2027-01-01', { sheet, taxonomy: undefined }),
    ).rejects.toThrow('is the sheet of “own-shop”');
  });
  test('a bundled file as it is known opens nothing', async () => {
    await takeBundledChannels();
    expect(await openVersion('own-shop')).toBeUndefined();
    expect(await findChannel('nowhere')).toBeUndefined();
  });
});

test('the demo has a version of Lanternry to look over: what it breaks would break when taken on', async () => {
  const open = await openVersion('lanternry');
  const found = await reviewVersion('lanternry', open?.version ?? 0);
  expect(found?.changes.map(({ kind }) => kind)).toEqual([
    'length',
    'length',
    'need',
    'choices',
    'categoryMoved',
    'categoryAdded',
  ]);
  const [effect] = found?.feeds ?? [];
  expect(effect?.broken.length).toBeGreaterThan(10);
  await takeOnVersion('lanternry', open?.revision ?? 0);
  const plans = await feedPlans('lanternry-de');
  const { published } = await work('lanternry-de');
  expect(plans?.published).toBeDefined();
  const blocked = new Set(
    [...published.listings].filter(({ state }) => state === 'blocked').map(({ sku }) => sku),
  );
  for (const { sku } of effect?.broken ?? []) expect(blocked.has(sku)).toBe(true);
  for (const sku of effect?.mended ?? []) expect(blocked.has(sku)).toBe(false);
});

test('a field that is mapped and then gone from the sheet does no harm', async () => {
  await edit('lanternry-de', { edit: 'fields', fields: { nowhere: fromAttribute('name') } });
  const { draft } = await work('lanternry-de');
  expect(draft.listings.length).toBeGreaterThan(200);
});
