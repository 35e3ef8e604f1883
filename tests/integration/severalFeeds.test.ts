import { attributeSchema } from '@/core/catalog/attributes';
import { asText } from '@/core/catalog/value';
import { fixedText, fromAttribute } from '@/core/compose/composition';
import { planSchema } from '@/core/plans/plan';
import { saveAttribute } from '@/server/catalog/attributes';
import { channelOf } from '@/server/channels/channels';
import { listChannels } from '@/server/channels/sheets';
import { drilldownKinds, drilldownOf } from '@/server/evaluation/drilldown';
import { loadFeedContext } from '@/server/evaluation/feedContext';
import { suggestedFixOf } from '@/server/fixes/fixes';
import { rankedFixesOf } from '@/server/fixes/ranked';
import { copyRule } from '@/server/plans/copyRule';
import { editDraft, feedPlans, listFeeds, publishDraft } from '@/server/plans/drafts';
import { createFeed, duplicateFeed, previewDuplicate } from '@/server/plans/feeds';
import { categoriesStage } from '@/server/stages/categories';
import { fieldsStage } from '@/server/stages/fields';
import { rulesStage } from '@/server/stages/rules';
import { settingsStage } from '@/server/stages/settings';
import { stageViews } from '@/server/stages/steps';
import { saveWords, valuesStage } from '@/server/stages/values';
import { sendFeed } from '@/server/submissions/submissions';
import { bringIn } from '../support/runs';
import { closeDatabase, freshDemo } from '../support/stack';

beforeAll(freshDemo);
afterAll(closeDatabase);

const home = 'lanternry-de';
const work = async (code: string) => {
  const found = await loadFeedContext(code);
  if (!found) throw new Error(`there is no feed ${code}`);
  return found;
};
const revision = async (code: string) => (await feedPlans(code))?.revision ?? 0;
const edit = async (code: string, change: Parameters<typeof editDraft>[2]) =>
  expect(await editDraft(code, await revision(code), change)).toMatchObject({ ok: true });

describe('a copy for another market', () => {
  test('shows what goes along, is made once, and evaluates at once', async () => {
    const seen = await previewDuplicate(home, 'lanternry', 'AT', 'de');
    expect(seen.carried).toContain('12 category mappings');
    const code = await duplicateFeed(home, 'lanternry', 'AT', 'de');
    expect(code).toBe('lanternry-at');
    const plans = await feedPlans(code);
    expect(plans?.draft).toEqual({ ...planSchema.parse(seen.plan), feed: code });
    await expect(duplicateFeed(home, 'lanternry', 'AT', 'de')).rejects.toThrow('already a feed');
    await expect(duplicateFeed(home, 'lanternry', 'JP', 'ja')).rejects.toThrow('has no market JP');
    const [here, there] = [await work(home), await work(code)];
    expect([...there.draft.listings].map(({ sku }) => sku)).toEqual(
      [...here.draft.listings].map(({ sku }) => sku),
    );
  });
});

describe('value mappings', () => {
  test('every word with its count, left to do first; what is not a choice is work', async () => {
    const stage = await valuesStage(await work(home), 'colour');
    const { draft, sheet } = await work(home);
    const at = sheet.fields.findIndex(({ code }) => code === 'colour');
    const choices = new Set(sheet.fields[at]?.choices?.map(({ code }) => code));
    const refused = new Set(
      [...draft.listings]
        .filter(
          ({ state, values }) =>
            state !== 'leftOut' && values[at] !== undefined && !choices.has(asText(values[at])),
        )
        .map(({ values }) => asText(values[at])),
    );
    expect(
      stage.lines
        .filter(({ choice }) => choice === undefined)
        .map(({ word }) => word)
        .sort(),
    ).toEqual([...refused].sort());
    const firstDone = stage.lines.findIndex(({ choice }) => choice !== undefined);
    expect(stage.lines.slice(firstDone).every(({ choice }) => choice !== undefined)).toBe(true);
    const total = [...draft.listings].filter(
      ({ state, values }) => state !== 'leftOut' && values[at] !== undefined,
    ).length;
    expect(stage.lines.reduce((sum, { count }) => sum + count, 0)).toBe(total);
    expect(stage.sharing.map(({ feed: code, field }) => [code, field])).toEqual([['lanternry-at', 'colour']]);
  });

  test('a word said in one feed is said in those with the same choices, and never over what was said there', async () => {
    await edit('lanternry-at', { edit: 'words', field: 'colour', table: 'colours', words: { Ash: 'white' } });
    const before = await revision('lanternry-at');
    const result = await saveWords(
      await work(home),
      await revision(home),
      'colour',
      { moss: 'green', ash: 'grey' },
      true,
    );
    expect(result).toMatchObject({ ok: true, elsewhere: [{ name: 'Lanternry AT' }] });
    const [here, there] = [await feedPlans(home), await feedPlans('lanternry-at')];
    expect(here?.draft.tables.colours).toMatchObject({ moss: 'green', ash: 'grey' });
    expect(there?.draft.tables.colours).toMatchObject({ moss: 'green', Ash: 'white' });
    expect(there?.draft.tables.colours).not.toHaveProperty('ash');
    expect(there?.revision).toBe(before + 1);
    // Unasked, nothing is said elsewhere.
    const alone = await saveWords(await work(home), await revision(home), 'colour', { moss: 'grey' }, false);
    expect(alone).toMatchObject({ ok: true });
    expect(alone).not.toHaveProperty('told');
    expect((await feedPlans('lanternry-at'))?.draft.tables.colours?.moss).toBe('green');
  });

  test('an older hand is refused, and nothing is said elsewhere either', async () => {
    const before = await revision('lanternry-at');
    expect(await saveWords(await work(home), 1, 'colour', { lake: 'green' }, true)).toMatchObject({
      ok: false,
      reason: 'conflict',
    });
    expect(await revision('lanternry-at')).toBe(before);
  });

  test('a new word of an import is new work, with how it looks taken into account', async () => {
    const open = async () =>
      (await valuesStage(await work(home), 'colour')).fields.find(({ code }) => code === 'colour')?.open;
    const before = (await open()) ?? 0;
    await bringIn('more.csv', 'sku,name,category,color\nNEW-1,Wall pot,"Pots, glazed",bramblewick\n');
    expect(await open()).toBe(before + 1);
    const suggested = async () =>
      (await valuesStage(await work(home), 'colour')).lines.find(({ word }) => word === 'bramblewick')
        ?.suggestions;
    expect(await suggested()).toEqual([]);
    const color = (await work(home)).snapshot.attributes.find(({ code }) => code === 'color');
    await saveAttribute(
      attributeSchema.parse({ ...color, terms: [{ term: 'Bramblewick', synonyms: [], hex: '#6f3f86' }] }),
      false,
    );
    const [best] = (await suggested()) ?? [];
    expect(best).toMatchObject({ choice: 'purple' });
    expect(best?.reason).toContain('CIEDE2000');
    const stage = (await stageViews(await work(home))).find(({ key }) => key === 'fields');
    expect(stage?.tone).toBe('blocker');
  });
});

describe('what one feed teaches another', () => {
  test('a like field is suggested as it was mapped, ranked first, with where', async () => {
    const { sheet } = await channelOf('tessel-boards');
    const code = await createFeed('tessel-boards', 'DE', sheet.markets[0]?.languages[0] ?? 'de');
    await edit(home, { edit: 'fields', fields: { material: fromAttribute('use') } });
    await publishDraft(home, await revision(home), 'test');
    const row = (await fieldsStage(await work(code), undefined)).rows.find((one) => one.code === 'material');
    expect(row?.suggestions.map(({ attribute }) => attribute)).toContain('use');
    const learned = row?.suggestions.find(({ attribute }) => attribute === 'use');
    expect(learned?.reasons[0]).toBe('mapped like this in Lanternry DE: Material');
  });

  test('a category placed in one feed is found in another tree by its place', async () => {
    const code = 'orrin-bazaar-de';
    await createFeed('orrin-bazaar', 'DE', 'de');
    const stage = await categoriesStage(await work(code), { category: 'Books' });
    expect(stage.options.map(({ path }) => path).join()).toContain('Gartenbücher');
    const learned = stage.options.find(({ path }) => path.includes('Gartenbücher'));
    expect(learned?.learned).toContain('Lanternry');
    // In another market of the same channel it is as good as sure.
    const market = await createFeed('lanternry', 'GB', 'en');
    const [first] = (await categoriesStage(await work(market), { category: 'Books' })).options;
    expect(first).toMatchObject({ score: 98, code: '3101' });
  });

  test('a restricted branch asks for its document, and its listings wait for it', async () => {
    const code = 'orrin-bazaar-de';
    await edit(code, { edit: 'place', placements: { 'Plant food': { category: '13001' } } });
    const stage = await categoriesStage(await work(code), { category: 'Plant food', at: '13001' });
    expect(stage.looked?.restricted).toMatchObject({ document: 'safety data sheet', met: false });
    const waiting = async () =>
      [...(await work(code)).draft.listings].filter(({ issues }) =>
        issues.some(({ check }) => check === 'restricted'),
      ).length;
    expect(await waiting()).toBeGreaterThan(0);
    const condition = (await settingsStage(await work(code))).conditions.find(
      ({ code: one }) => one === 'safety data sheet',
    );
    expect(condition).toMatchObject({ met: false, listings: await waiting() });
    await edit(code, { edit: 'met', what: 'safety data sheet', on: true });
    expect(await waiting()).toBe(0);
  });

  test('one item of a category goes elsewhere', async () => {
    const code = 'orrin-bazaar-de';
    await edit(code, { edit: 'exceptions', exceptions: { 'SP-BOK-SHA-HAR': { category: '51002' } } });
    await edit(code, { edit: 'place', placements: { Books: { category: '51001' } } });
    const stage = await categoriesStage(await work(code), { category: 'Books' });
    expect(stage.exceptions).toMatchObject([
      { sku: 'SP-BOK-SHA-HAR', words: expect.stringContaining('Kochbücher') },
    ]);
    const { draft, sheet } = await work(code);
    const at = sheet.fields.findIndex(({ kind }) => kind === 'category');
    const placed = (sku: string) => [...draft.listings].find((one) => one.sku === sku)?.values[at];
    expect([placed('SP-BOK-SHA-HAR'), placed('SP-BOK-SHA-PAP')]).toEqual(['51002', '51001']);
  });
});

describe('what the channel wants first', () => {
  test('is a short list; nothing is sent before it is there', async () => {
    const code = await createFeed('plazuela-norte', 'ES', 'es');
    const missing = async () =>
      (await settingsStage(await work(code))).conditions.filter(({ met }) => !met).map((one) => one.code);
    expect(await missing()).toEqual(['full_address', 'tax_number']);
    // The least that makes a listing ready: every must is a fixed text, and no condition of a place holds.
    const { sheet } = await work(code);
    const text = (kind: string, choices: readonly { code: string }[] | undefined) =>
      choices?.[0]?.code ??
      {
        money: '5.00 EUR',
        number: '3',
        link: 'https://a.example/1',
        pictures: 'https://a.example/1.jpg',
        measure: '1 kg',
        date: '2027-01-01',
      }[kind] ??
      'Un texto que es lo bastante largo para este canal';
    await edit(code, {
      edit: 'fields',
      fields: Object.fromEntries(
        sheet.fields
          .filter(({ need, kind }) => need === 'must' && kind !== 'category')
          .map((field) => [
            field.code,
            field.role === 'id' ? fromAttribute('sku') : fixedText(text(field.kind, field.choices)),
          ]),
      ),
    });
    await edit(code, { edit: 'place', placements: { Shelves: { category: '05.02.02' } } });
    await publishDraft(code, await revision(code), 'test');
    const placed = [...(await work(code)).published.listings].filter(({ sku }) => sku.startsWith('QM-STD'));
    expect(placed.flatMap(({ issues }) => issues.filter(({ severity }) => severity === 'blocker'))).toEqual(
      [],
    );
    expect([...(await work(code)).published.listings].some(({ state }) => state === 'ready')).toBe(true);
    expect(await sendFeed(code, 'everything')).toEqual({ ok: false, reason: 'conditions' });
    await edit(code, { edit: 'met', what: 'full_address', on: true });
    await edit(code, { edit: 'met', what: 'tax_number', on: true });
    expect(await missing()).toEqual([]);
    await publishDraft(code, await revision(code), 'test');
    expect(await sendFeed(code, 'everything')).toMatchObject({ ok: true, held: false });
  });

  test('a scope takes items by conditions and says how many', async () => {
    const all = await settingsStage(await work(home));
    await edit(home, { edit: 'scope', scope: { attribute: 'brand', is: 'equals', value: 'Tarnholt' } });
    const some = await settingsStage(await work(home));
    const { snapshot } = await work(home);
    const slot = snapshot.index.slotOf('brand') ?? -1;
    const tarnholt = snapshot.rows.filter((row) => asText(row[slot]) === 'Tarnholt').length;
    expect(some.taken).toBeLessThan(all.taken);
    expect(some.taken).toBeLessThanOrEqual(tarnholt);
    await edit(home, { edit: 'scope', scope: null });
    expect((await settingsStage(await work(home))).taken).toBe(all.taken);
  });
});

test('the figures of a field are the numbers of the items behind them', async () => {
  const found = await work(home);
  const { coverage, sheet } = found;
  for (const [at, { code }] of sheet.fields.entries()) {
    const counts = drilldownOf(found, code, 'filled')?.counts;
    expect(counts).toEqual({
      filled: (coverage[at]?.filled ?? 0) + (coverage[at]?.failing ?? 0),
      failing: coverage[at]?.failing,
      missing: coverage[at]?.missing,
      bad: (coverage[at]?.failing ?? 0) + (coverage[at]?.missing ?? 0),
      empty: coverage[at]?.empty,
    });
  }
  for (const kind of drilldownKinds) {
    const behind = drilldownOf(found, 'colour', kind);
    expect(behind?.lines).toHaveLength(behind?.total ?? -1);
  }
  expect(drilldownOf(found, 'nothing', 'filled')).toBeUndefined();
});

describe('a rule for other feeds', () => {
  test('holds listings back until they were looked at, and is copied to where its fields are', async () => {
    const dear = {
      id: 'rule-50',
      name: 'Dear things are looked at',
      on: true,
      when: { all: [{ field: 'price', is: 'moreThan' as const, value: '60' }] },
      then: [{ do: 'review' as const, reason: 'dear' }],
    };
    const before = await work(home);
    await edit(home, { edit: 'addRule', rule: dear });
    const held = (found: Awaited<ReturnType<typeof work>>) =>
      [...found.draft.listings].filter(({ issues }) => issues.some(({ check }) => check === 'review'));
    const after = await work(home);
    const [first, ...others] = held(after);
    expect(others.length).toBeGreaterThan(3);
    expect(held(before)).toEqual([]);
    expect(held(after).every(({ state }) => state === 'blocked')).toBe(true);
    const price = after.sheet.fields.findIndex(({ role }) => role === 'price');
    expect(held(after).every(({ values }) => Number.parseFloat(asText(values[price])) > 60)).toBe(true);
    // Nobody can work out what a person must look at, and the rule does what it is for.
    expect(await suggestedFixOf(after, 'review:ref')).toBeUndefined();
    expect((await rankedFixesOf(after)).find(({ key }) => key === 'review:ref')).toMatchObject({
      stage: 'rules',
    });
    const [seen] = (await rulesStage(after, undefined)).rules.slice(-1);
    expect(seen).toMatchObject({ rule: { id: dear.id }, changes: 0, remarks: [] });
    // Looked at: it goes, the others stay.
    await edit(home, {
      edit: 'checks',
      waived: { seen: { check: 'review:ref', skus: [first?.sku ?? ''], reason: 'looked at' } },
    });
    expect(held(await work(home)).map(({ sku }) => sku)).toEqual(others.map(({ sku }) => sku));

    const copies = await copyRule(home, dear.id, ['lanternry-at', 'plazuela-norte-es']);
    expect(copies.refused).toEqual([]);
    expect(copies.told).toHaveLength(2);
    expect((await work('plazuela-norte-es')).plans.draft.rules.at(-1)).toMatchObject({
      name: dear.name,
      when: { all: [{ field: 'precio', is: 'moreThan', value: '60' }] },
      then: dear.then,
    });
    expect((await copyRule(home, dear.id, ['plazuela-norte-es'])).refused).toEqual([
      expect.stringMatching(/already has this rule$/),
    ]);
    await edit(home, {
      edit: 'addRule',
      rule: { ...dear, id: 'rule-51', then: [{ do: 'clear', field: 'energy_class' }] },
    });
    expect(await copyRule(home, 'rule-51', ['plazuela-norte-es'])).toMatchObject({
      told: [],
      refused: [expect.stringMatching(/does not have: /)],
    });
    await expect(copyRule(home, 'rule-99', ['lanternry-at'])).rejects.toMatchObject({ code: 'noRule' });
  });
});

test('a new feed of any channel tells all variants of a family apart by their titles', async () => {
  const known = new Set(
    (await listFeeds()).map(({ channel, country, language }) => `${channel} ${country} ${language}`),
  );
  let made = 0;
  for (const { code: channel, markets } of await listChannels()) {
    const free = markets
      .flatMap(({ country, languages }) => languages.map((language) => ({ country, language })))
      .find(({ country, language }) => !known.has(`${channel} ${country} ${language}`));
    if (!free) continue;
    const feed = await createFeed(channel, free.country, free.language);
    const { draft, snapshot } = await work(feed);
    const family = snapshot.index.slotOf('family') ?? -1;
    const titles = new Map<string, string>();
    for (const [at, row] of snapshot.rows.entries()) {
      if (row[family] === undefined) continue;
      const title = `${asText(row[family])}: ${asText(draft.listings.valueAt(at, draft.compiled.titleAt))}`;
      expect([feed, title, titles.get(title)]).toEqual([feed, title, undefined]);
      titles.set(title, draft.listings.skuAt(at));
    }
    made++;
  }
  expect(made).toBeGreaterThan(4);
});
