import fc from 'fast-check';
import { compileDemo, demoCatalog, demoPlan, demoRows, lanternry } from '../../../tests/support/demo';
import { rowOf } from '../catalog/item';
import { asText, attributeIndex } from '../catalog/value';
import { fixedText, fromAttribute } from '../compose/composition';
import { blockerIndexOf } from '../fixes/blockerIndex';
import { rankedFixes } from '../fixes/rankedFixes';
import { applyEdit, type PlanEdit } from '../plans/edit';
import { countChanges, editWords } from '../plans/editWords';
import { categoryMappingFor, planSchema } from '../plans/plan';
import { compile } from './compile';
import { coverageOf } from './coverage';
import { evaluateAll, fillFields, fillingOnly, type Listing } from './evaluate';
import { explain } from './explain';
import { countingBetween, differences } from './impact';
import { touchedBy } from './incremental/touched';
import { Listings } from './listings';
import { atOnce } from './steps';

const compiled = compileDemo();
const listings = evaluateAll(compiled, demoCatalog);
const listingOf = (sku: string) => {
  const found = listings.find((listing) => listing.sku === sku);
  if (!found) throw new Error(`the demo has no ${sku}`);
  return found;
};
const at = (code: string) => lanternry.sheet.fields.findIndex((field) => field.code === code);

describe('a listing of the demo', () => {
  test('is what a person would write by hand', () => {
    const { values, state } = listingOf('QM-POT-RDG-CHA-14');
    expect(state).toBe('ready');
    const read = (code: string) => values[at(code)];
    expect(read('headline')).toBe(
      'Tarnholt Ridge pot with drip tray and felt feet, chalk, 14 cm · Stoneware · for herbs and succulents',
    );
    expect(read('price')).toBe('24.90 EUR');
    expect(read('colour')).toBe('white');
    expect(read('place')).toBe('7302');
    expect(read('stock')).toBe('available');
    expect(read('picture')).toBe('https://quillmoss.example/pictures/qm-pot-rdg-cha-14-1.jpg');
    expect(asText(read('about'))).not.toContain('<p>');
  });

  test('the brand stands once, even where the name has it too', () => {
    expect(listingOf('QM-POT-FEN-CHA-12').values[at('headline')]).toMatch(/^Tarnholt Fen pot/);
  });

  // The mistakes that demo/world.ts makes on purpose, each found by the check that is there for it.
  test.each([
    ['QM-POT-RDG-MOS-14', 'choice', 'colour'],
    ['QM-POT-RDG-INK-10', 'identifier', 'barcode'],
    ['QM-SED-ROC-20', 'missing', undefined],
    ['SP-BOK-WAT-HAR', 'money', 'price'],
  ])('%s is told apart', (sku, check, field) => {
    const issues = demoCatalog.skus.includes(sku) ? listingOf(sku).issues : [];
    if (field === undefined) return expect(issues.every(({ severity }) => severity !== 'blocker')).toBe(true);
    expect(
      issues.some((issue) => issue.check === check && issue.field === field && issue.severity === 'blocker'),
    ).toBe(true);
  });

  test('what is sold out and may be ordered all the same is on back-order where the channel has a word for it', () => {
    const index = attributeIndex([...compiled.index.codes, 'backOrder']);
    const of = (choices: readonly string[]) => {
      const sheet = {
        ...lanternry.sheet,
        fields: lanternry.sheet.fields.map((field) =>
          field.code === 'stock'
            ? { ...field, choices: choices.map((code) => ({ code, labels: {}, synonyms: [] })) }
            : field,
        ),
      };
      const plan = {
        ...demoPlan,
        fields: {
          ...demoPlan.fields,
          stock: fromAttribute('availability', [
            { step: 'lookUp', table: 'of stock', otherwise: 'empty' } as const,
          ]),
        },
        tables: {
          ...demoPlan.tables,
          'of stock': { InStock: 'available', OutOfStock: 'sold_out', BackOrder: 'later' },
        },
      };
      return compile(planSchema.parse(plan), sheet, lanternry.tree, index);
    };
    const row = (availability: string, backOrder: string | undefined) =>
      rowOf({ sku: 'A', values: { availability, ...(backOrder && { backOrder }) } }, undefined, index);
    const sent = (using: ReturnType<typeof of>, given: ReturnType<typeof row>) =>
      using.compositions[at('stock')]?.run(given);
    const knows = of(['available', 'sold_out', 'later']);
    expect((['true', 'false', undefined] as const).map((may) => sent(knows, row('OutOfStock', may)))).toEqual(
      ['later', 'sold_out', 'sold_out'],
    );
    expect(sent(knows, row('InStock', 'true'))).toBe('available');
    // A channel without such a choice still gets “sold out”.
    expect(sent(of(['available', 'sold_out']), row('OutOfStock', 'true'))).toBe('sold_out');
    const knots = explain(knows, row('OutOfStock', 'true'), 'stock');
    expect(knots.map(({ what, value }) => [what, value]).slice(0, 2)).toEqual([
      ['backOrder', 'true'],
      ['availability', 'BackOrder'],
    ]);
  });

  test('the axes of a family are sent for variants only', () => {
    const sheet = {
      ...lanternry.sheet,
      fields: lanternry.sheet.fields.map((field) =>
        field.code === 'material' ? { ...field, role: 'axes' as const } : field,
      ),
    };
    const plan = { ...demoPlan, fields: { ...demoPlan.fields, material: fixedText('glaze') } };
    const using = compile(plan, sheet, lanternry.tree, compiled.index);
    const sent = (family: string | undefined) => {
      const row = rowOf({ sku: 'A', values: {}, ...(family && { family }) }, undefined, compiled.index);
      return [using.compositions[at('material')]?.run(row), explain(using, row, 'material').at(-1)?.value];
    };
    expect([sent('F'), sent(undefined)]).toEqual([
      ['glaze', 'glaze'],
      [undefined, undefined],
    ]);
  });

  test('rules and placements leave items out, with their reasons', () => {
    expect(listingOf('VR-LGT-HAL-TYG-20')).toMatchObject({
      state: 'leftOut',
      reason: 'plug is not sold in Germany',
    });
    expect(listingOf('QM-WRP-PAP-LEA')).toMatchObject({ state: 'leftOut', reason: 'not sold here' });
  });

  test('blocked means a blocker, ready means none', () => {
    for (const { state, issues } of listings)
      if (state !== 'leftOut')
        expect(issues.some(({ severity }) => severity === 'blocker')).toBe(state === 'blocked');
  });
});

test('lineage ends in the value of the bulk run, for every field of every listing', () => {
  listings.forEach((listing, i) => {
    if (listing.state === 'leftOut') return;
    for (const [position, { code, kind }] of lanternry.sheet.fields.entries()) {
      const knots = explain(compiled, demoRows[i] ?? [], code);
      const value = listing.values[position];
      if (value === undefined || kind === 'category') continue;
      expect([listing.sku, code, asText(knots.findLast((knot) => knot.value !== undefined)?.value)]).toEqual([
        listing.sku,
        code,
        asText(value),
      ]);
    }
  });
});

test('the same id twice blocks both and names the other', () => {
  const twice = { skus: ['A', 'B', 'C'], rows: [demoRows[0] ?? [], demoRows[0] ?? [], demoRows[3] ?? []] };
  const found = evaluateAll(compiled, twice);
  expect(
    found.map(({ issues }) => issues.filter(({ check }) => check === 'duplicate').map(({ facts }) => facts)),
  ).toEqual([
    [{ found: 'QM-POT-RDG-MOS-10', others: ['B'], count: 1 }],
    [{ found: 'QM-POT-RDG-MOS-10', others: ['A'], count: 1 }],
    [],
  ]);
});

describe('the impact of a draft', () => {
  const withMoss = applyEdit(demoPlan, {
    edit: 'words',
    field: 'colour',
    table: 'colours',
    words: { moss: 'green' },
  });
  const after = evaluateAll(compileDemo(withMoss), demoCatalog);

  test('counts exactly what a comparison by hand counts', () => {
    const moss = listings.filter(
      ({ values, state }) => state !== 'leftOut' && values[at('colour')] === 'moss',
    );
    expect(moss.length).toBeGreaterThan(10);
    const { impact, fields } = atOnce(
      countingBetween({
        before: new Listings(listings, lanternry.sheet.fields),
        after: new Listings(after, lanternry.sheet.fields),
      }),
    );
    expect([...fields].flatMap((count, field) => (count > 0 ? [[field, count]] : []))).toEqual([
      [at('colour'), moss.length],
    ]);
    expect(impact).toMatchObject({
      changed: moss.length,
      cleared: moss.length,
      appeared: 0,
      total: demoCatalog.skus.length,
      newlyBlocked: 0,
    });
    expect(impact.newlyReady).toBe(
      after.filter(({ state }) => state === 'ready').length -
        listings.filter(({ state }) => state === 'ready').length,
    );
  });

  test('no change, no difference', () => {
    const again = new Listings(evaluateAll(compileDemo(), demoCatalog), lanternry.sheet.fields);
    expect(differences(new Listings(listings, lanternry.sheet.fields), again)).toEqual([]);
  });

  test('what appears is told as well', () => {
    const broken = applyEdit(demoPlan, { edit: 'fields', fields: { price: null } });
    const without = evaluateAll(compileDemo(broken), demoCatalog);
    const { impact } = atOnce(
      countingBetween({
        before: new Listings(listings, lanternry.sheet.fields),
        after: new Listings(without, lanternry.sheet.fields),
      }),
    );
    expect(impact.appeared).toBeGreaterThan(200);
    expect(impact.newlyBlocked).toBe(listings.filter(({ state }) => state === 'ready').length);
  });
});

describe('the impact, counted on from the last one', () => {
  const edits: PlanEdit[] = [
    { edit: 'words', field: 'colour', table: 'colours', words: { moss: 'green' } },
    { edit: 'fields', fields: { price: null } },
    { edit: 'fields', fields: { brand: fixedText('Quillmoss') } },
    { edit: 'place', placements: { Books: { leaveOut: 'not here' } } },
    { edit: 'fields', fields: { barcode: null } },
  ];
  const plans = [[], ...edits.map((edit) => [edit]), edits].map((some) => some.reduce(applyEdit, demoPlan));
  const created = plans.map((plan) => {
    const compiled = compileDemo(plan);
    return { compiled, listings: evaluateAll(compiled, demoCatalog) };
  });

  test('is what a comparison of all listings one by one says, whatever it goes on from', () => {
    const evaluation = fc.nat(created.length - 1).map((n) => created[n] as (typeof created)[number]);
    const cut = fc.tuple(evaluation, evaluation, fc.boolean());
    const place = fc.nat(demoCatalog.skus.length);
    /** A part of what two plans make; of some it is known which fields they can differ in. */
    const pairOf = (
      [one, other, told]: [(typeof created)[number], (typeof created)[number], boolean],
      part: (listings: readonly Listing[]) => readonly Listing[],
    ) => ({
      before: new Listings(part(one.listings), lanternry.sheet.fields),
      after: new Listings(part(other.listings), lanternry.sheet.fields),
      fields: told ? touchedBy(one.compiled, other.compiled)?.fields : undefined,
    });
    fc.assert(
      fc.property(cut, cut, place, place, (first, second, from, to) => {
        const of = pairOf(first, (listings) => listings.slice(from));
        const next = pairOf(second, (listings) => listings.slice(0, to));
        const known = { between: atOnce(countingBetween(of)), of };
        const found = differences(next.before, next.after);
        const moved = (state: string) =>
          found.filter((one) => one.before.state !== state && one.after.state === state).length;
        const { impact, fields } = atOnce(countingBetween(next, known));
        expect(impact).toEqual({
          changed: found.length,
          total: to,
          cleared: found.reduce((sum, { cleared }) => sum + cleared.length, 0),
          appeared: found.reduce((sum, { appeared }) => sum + appeared.length, 0),
          newlyReady: moved('ready'),
          newlyBlocked: moved('blocked'),
        });
        for (const [field, count] of fields.entries())
          expect(count).toBe(found.filter((one) => one.fields.includes(field)).length);
      }),
      { numRuns: 40 },
    );
  });
});

describe('edits', () => {
  test('leave the plan they are given as it is, and the result stays valid', () => {
    const before = JSON.stringify(demoPlan);
    const after = applyEdit(demoPlan, {
      edit: 'place',
      placements: { 'Seed kits': { category: '9102' }, Books: null },
    });
    expect(JSON.stringify(demoPlan)).toBe(before);
    expect(planSchema.parse(after).placements).toMatchObject({ 'Seed kits': { category: '9102' } });
    expect(after.placements.Books).toBeUndefined();
    expect(countChanges(demoPlan, after)).toBe(2);
    expect(countChanges(demoPlan, demoPlan)).toBe(0);
  });

  test('a value table is looked up once, however often words are added', () => {
    const once = applyEdit(demoPlan, {
      edit: 'words',
      field: 'material',
      table: 'materials',
      words: { Linen: 'linen' },
    });
    const twice = applyEdit(once, {
      edit: 'words',
      field: 'material',
      table: 'materials',
      words: { Steel: 'steel' },
    });
    expect(twice.fields.material?.steps).toHaveLength(1);
    expect(twice.tables.materials).toEqual({ Linen: 'linen', Steel: 'steel' });
    expect(editWords({ edit: 'fields', fields: { price: null } }, demoPlan, () => 'Price')).toBe(
      'emptied Price',
    );
  });

  test('what undo and history say of a rule names it as the person does', () => {
    const [rule] = demoPlan.rules;
    if (!rule) throw new Error('the demo has no rule');
    const words = (edit: Parameters<typeof editWords>[0]) => editWords(edit, demoPlan, (field) => field);
    const name = `“${rule.name}”`;
    expect(words({ edit: 'rule', id: rule.id, set: { on: false } })).toBe(`switched the rule ${name} off`);
    expect(words({ edit: 'rule', id: rule.id, set: { name: 'Other' } })).toBe(`changed the rule ${name}`);
    expect(words({ edit: 'moveRule', id: rule.id, before: null })).toBe(`moved the rule ${name}`);
    expect(words({ edit: 'ruleGroup', group: 'Season', set: { on: false } })).toBe(
      'switched the rules of “Season” off',
    );
    expect(words({ edit: 'ruleGroup', group: 'Season', set: { name: 'Autumn' } })).toBe(
      'renamed the group “Season” to “Autumn”',
    );
    expect(words({ edit: 'ruleGroup', group: 'Season', set: { name: null } })).toBe(
      'dissolved the group “Season”',
    );
    expect(words({ edit: 'removeRule', id: rule.id })).toBe(`deleted the rule ${name}`);
    // One that somebody else has taken out by now.
    expect(words({ edit: 'removeRule', id: 'gone' })).toBe('deleted the rule “gone”');
  });

  test('rules are gathered in groups, switched, called otherwise and dissolved together; all else of them stays', () => {
    const grouped = demoPlan.rules.map(({ id }) => id).slice(0, 2);
    const plan = grouped.reduce(
      (now, id) => applyEdit(now, { edit: 'rule', id, set: { group: 'Season' } }),
      demoPlan,
    );
    const of = (one: typeof plan) =>
      one.rules.flatMap(({ id, group, on }) => (group ? [[id, group, on]] : []));
    expect(of(plan)).toEqual(grouped.map((id) => [id, 'Season', true]));
    const off = applyEdit(plan, { edit: 'ruleGroup', group: 'Season', set: { on: false } });
    expect(of(off)).toEqual(grouped.map((id) => [id, 'Season', false]));
    expect(off.rules.filter(({ group }) => !group)).toEqual(demoPlan.rules.slice(2));
    const renamed = applyEdit(off, { edit: 'ruleGroup', group: 'Season', set: { name: 'Autumn' } });
    expect(of(renamed)).toEqual(grouped.map((id) => [id, 'Autumn', false]));
    const none = applyEdit(applyEdit(renamed, { edit: 'ruleGroup', group: 'Autumn', set: { on: true } }), {
      edit: 'ruleGroup',
      group: 'Autumn',
      set: { name: null },
    });
    expect(none).toEqual(demoPlan);
    // One leaves alone.
    const [first = ''] = grouped;
    expect(of(applyEdit(plan, { edit: 'rule', id: first, set: { group: null } }))).toEqual(
      grouped.slice(1).map((id) => [id, 'Season', true]),
    );
  });

  test('a branch places its sub-categories, the nearest branch counts', () => {
    const placements = { Growing: { category: '1' }, 'Growing > Pots': { category: '2' } };
    expect(categoryMappingFor(placements, 'Growing > Pots > Glazed')).toEqual({
      placement: { category: '2' },
      from: 'Growing > Pots',
    });
    expect(categoryMappingFor(placements, 'Growing > Lamps')).toEqual({
      placement: { category: '1' },
      from: 'Growing',
    });
    expect(categoryMappingFor(placements, 'Books')).toBeUndefined();
  });
});

test('coverage adds up to the listings in scope', () => {
  const scope = listings.filter(({ state }) => state !== 'leftOut').length;
  for (const { filled, failing, missing, empty, total } of coverageOf(
    new Listings(listings, lanternry.sheet.fields),
    lanternry.sheet.fields,
  )) {
    expect(total).toBe(scope);
    expect(filled + failing + missing + empty).toBe(scope);
  }
});

test('remedies: carrying the first one out frees as many listings as it says', () => {
  const [first] = rankedFixes(
    new Listings(listings, lanternry.sheet.fields),
    atOnce(blockerIndexOf(new Listings(listings, lanternry.sheet.fields))),
    (field) => field,
    () => 'fields',
  ).filter(({ issue }) => issue.check === 'choice' && issue.field === 'colour');
  const fixed = evaluateAll(
    compileDemo(
      applyEdit(demoPlan, {
        edit: 'words',
        field: 'colour',
        table: 'colours',
        words: { moss: 'green', ash: 'grey' },
      }),
    ),
    demoCatalog,
  );
  const ready = (list: typeof listings) => list.filter(({ state }) => state === 'ready').length;
  expect(ready(fixed) - ready(listings)).toBe(first?.frees);
});

test('a plan that fills some fields only fills these as the whole plan does, and places alike', () => {
  const { fields } = lanternry.sheet;
  const filled = (plan: typeof compiled, row: (typeof demoRows)[number]) => {
    const values: (string | readonly string[] | undefined)[] = new Array(fields.length).fill(undefined);
    const reason = fillFields(plan, row, values);
    return { values, reason };
  };
  fc.assert(
    fc.property(fc.subarray(fields.map(({ code }) => code)), fc.constantFrom(...demoRows), (codes, row) => {
      const [some, all] = [filled(fillingOnly(compiled, codes), row), filled(compiled, row)];
      expect(some.reason).toBe(all.reason);
      for (const [position, { code, kind }] of fields.entries())
        expect(some.values[position]).toEqual(
          codes.includes(code) || kind === 'category' ? all.values[position] : undefined,
        );
    }),
  );
});
