import type { PlanEdit } from '@/core/plans/edit';
import { ruleSchema } from '@/core/rules/rule';
import { editCells } from '@/server/catalog/itemEdits';
import { type FeedContext, loadFeedContext, merchantCategories } from '@/server/evaluation/feedContext';
import { rankedFixesOf } from '@/server/fixes/ranked';
import { queryItems } from '@/server/items/items';
import { overviewView, sidebarView } from '@/server/pages/overview';
import { firstItemOf, pinItem, pinItems, pinnedSkus, sampleView } from '@/server/pages/representativeItems';
import { findAnything } from '@/server/pages/search';
import { representativeItemsOf } from '@/server/pages/stages';
import { editDraft, feedPlans } from '@/server/plans/drafts';
import { categoriesStage } from '@/server/stages/categories';
import { checksStage, waitForFixes } from '@/server/stages/checks';
import { fieldsStage } from '@/server/stages/fields';
import { rulesStage } from '@/server/stages/rules';
import { stageViews } from '@/server/stages/steps';
import { titlesStage } from '@/server/stages/titles';
import { closeDatabase, freshDemo } from '../support/stack';

beforeEach(freshDemo);
afterAll(closeDatabase);

const feed = 'lanternry-de';

async function work(): Promise<FeedContext> {
  const found = await loadFeedContext(feed);
  if (!found) throw new Error('the demo feed is gone');
  return found;
}

async function edit(change: PlanEdit): Promise<void> {
  const plans = await feedPlans(feed);
  expect(await editDraft(feed, plans?.revision ?? 0, change)).toMatchObject({ ok: true });
}

describe('the stage line', () => {
  test('says what is left to do, and what is done falls away', async () => {
    const words = async () =>
      Object.fromEntries((await stageViews(await work())).map((stage) => [stage.key, stage.words]));
    const before = await words();
    expect(before).toMatchObject({
      fields: '3 to fill',
      categories: '4 to map',
      titles: '3 shortened',
      rules: '2 active',
    });
    await edit({
      edit: 'place',
      placements: { 'Seed kits': { category: '9102' }, Printables: { leaveOut: 'no downloads here' } },
    });
    for (const { id } of (await work()).plans.draft.rules) await edit({ edit: 'removeRule', id });
    expect(await words()).toMatchObject({ categories: '2 to map', rules: 'changed in draft' });
  });

  test('its counts are those of the listings', async () => {
    const now = await work();
    const stages = await stageViews(now);
    const open = [...now.draft.listings].filter(({ state }) => state !== 'leftOut');
    const blocked = open.filter(({ state }) => state === 'blocked').length;
    expect(stages.find(({ key }) => key === 'checks')).toMatchObject({
      words: `${blocked} blocked`,
      share: (open.length - blocked) / open.length,
    });
    for (const { share } of stages) {
      expect(share).toBeGreaterThanOrEqual(0);
      expect(share).toBeLessThanOrEqual(1);
    }
  });
});

describe('fields', () => {
  test('each has what fills it, its coverage and its value on the sample', async () => {
    const stage = await fieldsStage(await work(), 'QM-POT-RDG-CHA-14');
    const row = (code: string) => stage.rows.find((one) => one.code === code);
    expect(stage.rows).toHaveLength(34);
    expect(row('price')).toMatchObject({ need: 'must', sample: '24.90 EUR', toFill: false, changed: false });
    expect(row('headline')).toMatchObject({ elsewhere: 'titles' });
    expect(row('place')).toMatchObject({ elsewhere: 'categories', sample: 'Töpfe und Übertöpfe' });
    expect(row('stock_from')).toMatchObject({ toFill: true, here: true });
    expect(row('stock_from')?.suggestions[0]).toMatchObject({ attribute: 'availabilityStarts' });
    expect(row('stock_from')?.suggestions[0]?.reasons.length).toBeGreaterThan(0);
    expect(stage.absent).toContain('plug');
  });

  test('a change in a value table marks the field it changes, and coverage follows', async () => {
    const before = (await fieldsStage(await work(), undefined)).rows.find(({ code }) => code === 'colour');
    await edit({ edit: 'words', field: 'colour', table: 'colours', words: { moss: 'green' } });
    const after = (await fieldsStage(await work(), undefined)).rows.find(({ code }) => code === 'colour');
    expect([before?.changed, after?.changed]).toEqual([false, true]);
    expect((before?.coverage.failing ?? 0) - (after?.coverage.failing ?? 0)).toBe(22);
  });

  test('the suggestions on an empty feed are right for what the demo plan has', async () => {
    const { draft } = (await work()).plans;
    await edit({ edit: 'plan', plan: { ...draft, fields: {} } });
    const stage = await fieldsStage(await work(), undefined);
    const wanted = stage.rows.filter(
      ({ need, elsewhere, code }) => need !== 'may' && !elsewhere && draft.fields[code],
    );
    const right = wanted.filter(({ code, suggestions }) => {
      const [part] = draft.fields[code]?.alternatives[0]?.parts ?? [];
      return part && 'attribute' in part && suggestions[0]?.attribute === part.attribute;
    });
    expect(wanted.length).toBeGreaterThan(10);
    expect(right.length / wanted.length).toBeGreaterThanOrEqual(0.8);
  });
});

describe('categories', () => {
  test('open ones stand first, each with ranked places and the words they share', async () => {
    const stage = await categoriesStage(await work(), { category: 'Moisture meters' });
    expect(stage.categories[0]?.state).toBe('toPlace');
    expect(stage.options[0]).toMatchObject({ code: '7308' });
    expect(stage.options[0]?.matched).toContain('moisture');
    expect(stage.columns.at(-1)?.entries.some(({ code, chosen }) => code === '7308' && chosen)).toBe(true);
    expect(stage.likely.map(({ category }) => category)).toContain('Seed kits');
  });

  test('items without a category get places of their own, which do not stand for a category', async () => {
    const stage = await categoriesStage(await work(), { category: '-' });
    expect(stage.current).toBeUndefined();
    expect(stage.singleCount).toBe(3);
    const skus = stage.single.map(({ sku }) => sku);
    const [first = '', second = ''] = skus;
    expect(stage.single[0]).toMatchObject({ name: 'Round saucer · terracotta, 12 cm', matched: ['saucer'] });
    expect(stage.single[0]?.path).toContain('Untersetzer');
    const [best] = stage.single;
    await edit({
      edit: 'exceptions',
      exceptions: Object.fromEntries([first, second].map((sku) => [sku, { category: best?.code ?? '' }])),
    });
    const after = await work();
    const group = merchantCategories(after).find(({ name }) => name === '');
    expect(group).toMatchObject({ items: 3, state: 'toPlace', words: '1 of 3 to map' });
    expect((await categoriesStage(after, { category: '-' })).single.map(({ sku }) => sku)).toEqual(
      skus.slice(2),
    );
    const field = after.sheet.fields.find(({ kind }) => kind === 'category')?.code;
    const issues = (sku: string | undefined) =>
      [...after.draft.listings]
        .find((one) => one.sku === sku)
        ?.issues.filter((issue) => issue.field === field);
    expect(issues(first)).toEqual([]);
    expect(issues(skus[2])).toHaveLength(1);
  });

  test('a place tells what it newly asks for', async () => {
    const stage = await categoriesStage(await work(), { category: 'Seed kits', at: '9102' });
    expect(stage.needs.map(({ label, items, lacking }) => [label, items, lacking])).toEqual([
      ['Safety note', 6, 3],
      ['Age range', 6, 0],
    ]);
    expect((await categoriesStage(await work(), { category: 'Seed kits', at: '9100' })).looked).toMatchObject(
      {
        leaf: false,
      },
    );
  });

  test('items without a category are told, and stand last', async () => {
    expect(merchantCategories(await work()).at(-1)).toMatchObject({ name: '', items: 3, state: 'toPlace' });
  });
});

describe('titles', () => {
  test('lengths, what was dropped, the same title twice, the phone', async () => {
    const stage = await titlesStage(await work(), 'QM-POT-RDG-MOS-14', '');
    expect(stage).toMatchObject({ most: 150, phone: 70, started: true, shortenedCount: 3 });
    expect(stage.rows[0]).toMatchObject({ dropped: ['Brand'], shortened: 'Name', over: false });
    expect(stage.histogram.reduce((sum, { count }) => sum + count, 0)).toBe(stage.total);
    // The ladders differ by their height alone, which the pattern does not take: it is added.
    expect(stage.twins.find(({ skus }) => skus.includes('QM-STD-LAD-120'))).toBeUndefined();
    expect(stage.rows.find(({ sku }) => sku === 'QM-STD-LAD-120')?.title).toMatch(/, 120 cm$/);
    expect(stage.phoneText?.shown.length).toBeLessThanOrEqual(70);
    expect(
      (await titlesStage(await work(), undefined, 'bramble')).rows.every(({ title }) =>
        title.includes('Bramble'),
      ),
    ).toBe(true);
  });

  test('a pattern with the missing axes tells the twins apart', async () => {
    const { title } = (await work()).plans.draft;
    if (!title) throw new Error('the demo has no title pattern');
    const more = ['height', 'width', 'pattern'].map((attribute) => ({ attribute, glue: ', ', steps: [] }));
    await edit({ edit: 'title', set: { parts: [...title.parts, ...more] } });
    expect(
      (await titlesStage(await work(), undefined, '')).twins.filter(({ skus }) =>
        skus.some((sku) => sku.startsWith('QM-STD')),
      ),
    ).toEqual([]);
  });
});

test('a title by hand says when its item has changed since', async () => {
  const sku = 'QM-POT-RDG-CHA-14';
  const row = async () => (await titlesStage(await work(), sku, sku)).rows[0];
  const pattern = (await row())?.title ?? '';
  await edit({ edit: 'titleByHand', titles: { [sku]: { text: 'Our ridge pot', instead: pattern } } });
  expect(await row()).toMatchObject({ title: 'Our ridge pot', byHand: 'same' });
  expect((await titlesStage(await work(), sku, '')).current).toMatchObject({ pattern, byHand: 'same' });
  await editCells([{ sku, attribute: 'name', text: 'Quite another pot' }]);
  expect(await row()).toMatchObject({ title: 'Our ridge pot', byHand: 'changed' });
  await edit({ edit: 'titleByHand', titles: { [sku]: null } });
  expect((await row())?.title).toContain('Quite another pot');
  expect((await work()).plans.draft.titlesByHand).toBeUndefined();
});

test('rules show what they match and change, over what the rules before them made', async () => {
  const [first, second] = (await rulesStage(await work(), undefined)).rules;
  expect(first).toMatchObject({ matches: 3, changes: 3, state: 'same' });
  expect(first?.examples[0]?.after).not.toMatch(/best price/i);
  expect(second).toMatchObject({ matches: 12, changes: 12 });
  const { rules } = (await work()).plans.draft;
  const [one] = rules;
  if (!one) throw new Error('the demo has no rules');
  // The same rule again finds nothing left to do.
  await edit({ edit: 'addRule', rule: { ...one, id: 'again', name: 'Again' } });
  expect((await rulesStage(await work(), undefined)).rules.at(-1)).toMatchObject({
    matches: 0,
    changes: 0,
    state: 'new',
  });
});

test('a rule says where it never fires, is written over, undoes another or makes a word stand twice', async () => {
  const always = { all: [{ attribute: 'sku', is: 'startsWith' as const, value: 'QM-POT-RDG' }] };
  const add = (id: string, when: object, then: object) =>
    edit({ edit: 'addRule', rule: ruleSchema.parse({ id, name: id, when, then: [then] }) });
  await add(
    'unmet',
    { attribute: 'brand', is: 'equals', value: 'Nobody' },
    { do: 'clear', field: 'headline' },
  );
  await add('first', always, { do: 'set', field: 'material', text: 'clay' });
  await add('over', always, { do: 'set', field: 'material', text: 'stone' });
  await add('longer', always, { do: 'after', field: 'headline', text: ' Tarnholt' });
  await add('shorter', always, { do: 'replace', field: 'headline', find: ' Tarnholt', with: '' });
  const { rules, met } = await rulesStage(await work(), 'over');
  const remarks = new Map(rules.map(({ rule, remarks: own }) => [rule.id, own.map(({ words }) => words)]));
  expect(remarks.get('unmet')).toEqual(['never applies: no item meets the condition']);
  expect(remarks.get('first')).toEqual(['all its changes are overwritten by “over”']);
  expect(remarks.get('over')).toEqual([]);
  expect(remarks.get('longer')).toEqual([expect.stringMatching(/^a word is repeated in (\d+) of \1$/)]);
  expect(remarks.get('shorter')?.[0]).toMatch(/^undoes “longer” on (\d+) of its \1$/);
  expect(remarks.get('no-shouting')).toEqual([]);
  expect(met).toEqual({ '': 12, 0: 12 });
});

describe('checks', () => {
  test('remedies stand by what they free, and lead to their listings', async () => {
    const groups = await rankedFixesOf(await work());
    expect(groups.map(({ frees }) => frees)).toEqual(
      [...groups.map(({ frees }) => frees)].sort((a, b) => b - a),
    );
    // What takes longer than a page waits for comes after it.
    const asked = async () => {
      expect(await waitForFixes(feed, 'choice:colour')).toBe(true);
      return checksStage(await work(), { fix: 'choice:colour' });
    };
    let stage = await asked();
    // On a busy machine even what is worked out may take longer to look up.
    while (stage.later) stage = await asked();
    expect(stage.total).toBe(groups.find(({ key }) => key === 'choice:colour')?.count);
    expect(stage.proposed?.proposal.lines.map(({ key, to }) => [key, to])).toEqual([
      ['moss', 'green'],
      ['ash', 'grey'],
    ]);
  });

  test('the shortest way is counted on, step after step; what frees nothing by itself comes last and says why', async () => {
    const asked = async () => {
      await waitForFixes(feed, undefined);
      return checksStage(await work(), {});
    };
    let stage = await asked();
    while (stage.later) stage = await asked();
    let free = 0;
    for (const { frees, freed, share, then } of stage.path) {
      free += frees;
      expect([freed, share]).toEqual([free, free / stage.blocked]);
      expect(frees > 0).toBe(then.length === 0);
    }
    expect(stage.path.map(({ frees }) => (frees > 0 ? 'frees' : 'idle')).join(' ')).toMatch(
      /^(frees )+idle$/,
    );
  });

  test('filters narrow the list', async () => {
    const all = await checksStage(await work(), {});
    const books = await checksStage(await work(), { category: 'Books', show: 'blocked' });
    expect(books.total).toBeLessThan(all.total);
    expect(books.listings.every(({ state, sku }) => state === 'blocked' && sku.startsWith('SP-BOK'))).toBe(
      true,
    );
    expect((await checksStage(await work(), { category: '-' })).total).toBe(3);
    expect((await checksStage(await work(), { find: 'no such thing' })).total).toBe(0);
    // What is waived is what the page is narrowed to.
    const narrowed = await checksStage(await work(), { fix: 'choice:colour', find: 'RDG-MOS-14' });
    expect(narrowed.open?.skus).toEqual(['QM-POT-RDG-MOS-14']);
  });

  test('the list begins with what the feed takes; what is out of scope is still found', async () => {
    await edit({ edit: 'scope', scope: { attribute: 'category', is: 'equals', value: 'Books' } });
    const { listings, total } = await checksStage(await work(), {});
    expect(total).toBe(19);
    expect(listings.length).toBeGreaterThan(0);
    expect(listings.filter(({ sku }) => !sku.startsWith('SP-BOK'))).toEqual([]);
    const found = await checksStage(await work(), { find: 'RDG-MOS-14' });
    expect(found.listings).toMatchObject([
      { sku: 'QM-POT-RDG-MOS-14', state: 'excluded: not in the scope of this feed' },
    ]);
  });
});

describe('the sample tray', () => {
  test('before and after, issues with what the draft does to them, the thread from the cell', async () => {
    await edit({ edit: 'words', field: 'colour', table: 'colours', words: { moss: 'green' } });
    const sample = await sampleView(await work(), 'QM-POT-RDG-MOS-14', 'colour');
    expect(sample).toMatchObject({
      name: 'Ridge pot with drip tray and felt feet · moss, 14 cm',
      origin: 'tarnholt-price-list.xml, row 2',
      pinned: true,
      field: { before: 'moss', after: 'green', changed: true },
    });
    expect(sample?.issues[0]).toMatchObject({ severity: 'blocker', mark: 'clears with this draft' });
    expect(sample?.thread.map(({ value, words }) => [value, words])).toEqual([
      ['moss', 'Glaze: tarnholt-price-list.xml, row 2, column “variants/variant/glaze”'],
      ['green', 'value mapping “colours”'],
    ]);
  });

  test('items are pinned, unpinned, and telling ones chosen', async () => {
    await pinItem('QM-SED-BAS-20', true);
    expect(await pinnedSkus()).toContain('QM-SED-BAS-20');
    await pinItem('QM-SED-BAS-20', false);
    expect(await pinnedSkus()).not.toContain('QM-SED-BAS-20');
    const now = await work();
    await pinItems(await representativeItemsOf(feed));
    const pinned = await pinnedSkus();
    const most = Math.max(...[...now.draft.listings].map(({ issues }) => issues.length));
    expect(
      [...now.draft.listings].filter(({ issues }) => issues.length === most).map(({ sku }) => sku),
    ).toEqual(expect.arrayContaining([pinned[1]]));
    expect(new Set(pinned).size).toBe(pinned.length);
    expect(firstItemOf(now, 'Books')).toBe('SP-BOK-SHA-HAR');
    expect(firstItemOf(now, undefined)).toBeUndefined();
  });
});

test('the board counts every item once a feed, and names what frees most', async () => {
  const board = await overviewView();
  for (const row of board.rows)
    for (const { ready, blocked, leftOut } of row.cells) expect(ready + blocked + leftOut).toBe(row.items);
  expect(board.rows.reduce((sum, { items }) => sum + items, 0)).toBe(board.items);
  expect(board.fixes[0]).toMatchObject({ title: 'Age group is missing' });
  expect((await sidebarView()).feeds).toMatchObject([
    { name: 'Lanternry DE', blocked: board.blocked, lastSent: undefined },
  ]);
});

describe('finding', () => {
  test.each([
    ['barcode', 'field', 'Barcode'],
    ['watering cans', 'category', 'Watering cans'],
    ['british plug', 'rule', 'Lights with a British plug stay out'],
    ['lanternry titles', 'stage', 'Lanternry DE: Titles'],
    ['QM-POT-RDG-MOS-14', 'item', 'Ridge pot with drip tray and felt feet · moss, 14 cm'],
    ['9520000030148', 'item', 'Ridge pot with drip tray and felt feet · moss, 14 cm'],
    // By a value, whatever its accents and case; by an issue; by a page’s further words.
    ['MÓSS 18', 'item', 'Ridge pot with drip tray and felt feet · moss, 18 cm'],
    ['age group', 'issue', 'Age group is missing'],
    ['time zone', 'page', 'Settings'],
    ['ridge pot', 'family', 'Ridge pot with drip tray and felt feet'],
  ])('%s finds a %s', async (query, kind, label) => {
    expect(await findAnything(query)).toContainEqual(expect.objectContaining({ kind, label }));
  });

  test('the best match comes first, and an item says which value matched', async () => {
    const [first] = await findAnything('qm-pot-rdg-mos-14');
    expect(first).toMatchObject({ kind: 'item', detail: 'QM-POT-RDG-MOS-14' });
    const moss = await findAnything('moss', 10);
    expect(moss.every(({ label }) => /\bmoss\b/i.test(label))).toBe(true);
    const [byNumber] = await findAnything('9520000030148');
    expect(byNumber?.detail).toBe('QM-POT-RDG-MOS-14, GTIN: 9520000030148');
  });

  test('nothing is found for nonsense', async () => {
    expect(await findAnything('zzqx')).toEqual([]);
  });
});

describe('the grid’s query', () => {
  const ask = (change: Partial<Parameters<typeof queryItems>[0]>) =>
    queryItems({
      columns: ['sku', 'name', 'price', 'category', 'gtin'],
      search: '',
      filters: {},
      sort: '',
      descending: false,
      from: 0,
      count: 50,
      ...change,
    });

  test('windows, filters, search and empty cells', async () => {
    const all = await ask({});
    expect([all.total, all.all, all.rows.length]).toEqual([242, 242, 50]);
    expect((await ask({ from: 200 })).rows).toHaveLength(42);
    expect((await ask({ filters: { category: '-' } })).total).toBe(3);
    expect(
      (await ask({ filters: { category: 'seeds' }, search: 'basil' })).rows.map(({ sku }) => sku),
    ).toEqual(['QM-SED-BAS-20', 'QM-SED-BAS-60', 'QM-SED-BAS-200']);
  });

  test('numbers sort as numbers, empty cells stand last both ways', async () => {
    const prices = async (descending: boolean) =>
      (await ask({ sort: 'price', descending, count: 242 })).rows.map(({ cells }) => Number(cells.price));
    expect(await prices(false)).toEqual([...(await prices(false))].sort((a, b) => a - b));
    expect((await prices(true))[0]).toBe(Math.max(...(await prices(false))));
    for (const descending of [true, false])
      expect((await ask({ sort: 'gtin', descending, count: 242 })).rows.at(-1)?.cells.gtin).toBe('');
  });
});

test('after any edits of draft and catalog every stage says what a process says that has just begun', async () => {
  const stages = async (of: {
    load: typeof loadFeedContext;
    stageViews: typeof stageViews;
    merchantCategories: typeof merchantCategories;
    titlesStage: typeof titlesStage;
    rulesStage: typeof rulesStage;
    fieldsStage: typeof fieldsStage;
  }) => {
    const now = await of.load(feed);
    if (!now) throw new Error('the demo feed is gone');
    return {
      line: await of.stageViews(now),
      categories: of.merchantCategories(now),
      titles: await of.titlesStage(now, undefined, ''),
      rules: (await of.rulesStage(now, 'moss')).rules,
      fields: (await of.fieldsStage(now, undefined)).rows,
    };
  };
  const here = {
    load: loadFeedContext,
    stageViews,
    merchantCategories,
    titlesStage,
    rulesStage,
    fieldsStage,
  };
  await stages(here);
  const { title } = (await work()).plans.draft;
  if (!title) throw new Error('the demo has no title pattern');
  const sku = 'QM-POT-RDG-CHA-14';
  const edits = [
    () => edit({ edit: 'place', placements: { 'Seed kits': { category: '9102' } } }),
    () => editCells([{ sku, attribute: 'name', text: 'Quite another pot with a name' }]),
    () => edit({ edit: 'title', set: { parts: title.parts.slice(0, 2) } }),
    () =>
      edit({
        edit: 'addRule',
        rule: ruleSchema.parse({
          id: 'moss',
          name: 'Moss',
          on: true,
          when: { field: 'headline', is: 'contains', value: 'moss' },
          then: [{ do: 'after', field: 'headline', text: ' – soft' }],
        }),
      }),
    () => editCells([{ sku, attribute: 'category', text: 'Printables' }]),
    () => edit({ edit: 'titleByHand', titles: { [sku]: { text: 'By hand', instead: '' } } }),
    () => edit({ edit: 'place', placements: { Printables: { leaveOut: 'no downloads here' } } }),
  ];
  for (const one of edits) {
    await one();
    await stages(here);
  }
  const known = await stages(here);
  await jest.isolateModulesAsync(async () => {
    const { loadFeedContext, merchantCategories } = await import('@/server/evaluation/feedContext');
    const { stageViews } = await import('@/server/stages/steps');
    const { titlesStage } = await import('@/server/stages/titles');
    const { rulesStage } = await import('@/server/stages/rules');
    const { fieldsStage } = await import('@/server/stages/fields');
    const anew = await stages({
      load: loadFeedContext,
      stageViews,
      merchantCategories,
      titlesStage,
      rulesStage,
      fieldsStage,
    });
    expect(known.rules.find(({ rule }) => rule.id === 'moss')?.matches).toBeGreaterThan(0);
    expect(known).toEqual(anew);
  });
});
