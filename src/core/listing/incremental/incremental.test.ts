import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { demoCatalog, demoIndex, demoPlan, demoRows, lanternry } from '../../../../tests/support/demo';
import { attributeIndex, type Row, type Value } from '../../catalog/value';
import { type Sheet, sheetSchema } from '../../channels/sheet';
import { noExternalFacts } from '../../checks/externalFacts';
import { fixedText, fromAttribute, topTermCode } from '../../compose/composition';
import { readKeywords } from '../../keywords/keyword';
import { applyEdit, type PlanEdit } from '../../plans/edit';
import type { Plan } from '../../plans/plan';
import { ruleSchema } from '../../rules/rule';
import { compile } from '../compile';
import type { CompiledPlan } from '../compiling/compiledPlan';
import { completenessOf } from '../completeness';
import { coverageIncrementally, coverageOf } from '../coverage';
import { type CatalogRows, evaluateAll } from '../evaluate';
import { countingBetween, differences, type Pair } from '../impact';
import { Listings } from '../listings';
import { atOnce } from '../steps';
import { evaluateIncrementally, evaluateRows, evaluatingRows } from './incremental';
import { touchedBy } from './touched';

const rule = (id: string, more: object): Plan['rules'][number] =>
  ruleSchema.parse({ id, name: id, when: { all: [] }, ...more });

/** Rules that read what others write, leave items out, and look at the place of a listing. */
const tangled: Plan['rules'] = [
  rule('a', {
    when: { field: 'brand', is: 'filled' },
    then: [{ do: 'after', field: 'headline', text: ' +' }],
  }),
  rule('b', {
    when: { field: 'headline', is: 'longerThan', value: '40' },
    then: [{ do: 'set', field: 'material', text: 'long' }],
  }),
  rule('c', { when: { under: ['3000'] }, then: [{ do: 'set', field: 'pattern', text: 'paper' }] }),
  rule('d', {
    when: { field: 'material', is: 'equals', value: 'long' },
    then: [{ do: 'leaveOut', reason: 'too long for us' }],
  }),
  rule('e', { when: { attribute: 'brand', is: 'empty' }, then: [{ do: 'clear', field: 'part_number' }] }),
];

const edits: Record<string, PlanEdit> = {
  'one field': { edit: 'fields', fields: { material: fixedText('clay') } },
  'one field emptied': { edit: 'fields', fields: { brand: null } },
  'a field that conditions read': { edit: 'fields', fields: { stock: fixedText('pre_order') } },
  'a field that must be unique': { edit: 'fields', fields: { ref: fromAttribute('brand') } },
  'several fields': {
    edit: 'fields',
    fields: { barcode: null, part_number: null, about: fromAttribute('name') },
  },
  'a rule that holds back to be looked at': {
    edit: 'addRule',
    rule: {
      id: 'rule-77',
      name: 'Dear things',
      on: true,
      when: { all: [{ field: 'price', is: 'moreThan', value: '40' }] },
      then: [{ do: 'review', reason: 'dear' }],
    },
  },
  'a table': { edit: 'table', name: 'colours', table: { moss: 'purple', chalk: 'white' } },
  'a word': { edit: 'words', field: 'material', table: 'materials', words: { Stoneware: 'clay' } },
  'a placement': { edit: 'place', placements: { 'Pots, glazed': { category: '3101' }, Books: null } },
  'a excluded category': { edit: 'place', placements: { 'Pots, glazed': { leaveOut: 'not here' } } },
  'an exception': {
    edit: 'exceptions',
    exceptions: { 'QM-POT-RDG-MOS-14': { leaveOut: 'broken mould' } },
  },
  'the title': {
    edit: 'title',
    set: {
      parts: [{ attribute: 'name', glue: ' ', steps: [] }],
      dropFirst: [],
      keep: [],
      letterCase: 'title',
      sayOnce: false,
    },
  },
  'a branch with a title of its own': { edit: 'titleIn', branch: '3100', own: true },
  'the title of a branch': {
    edit: 'title',
    branch: '3000',
    set: {
      parts: [
        { attribute: 'name', glue: ' ', steps: [] },
        { attribute: topTermCode, glue: ' – ', steps: [] },
      ],
    },
  },
  'words abbreviated': { edit: 'title', set: { abbreviations: { 'drip tray': 'tray' }, nameOnPhone: true } },
  'search words': { edit: 'searchWords', set: { field: 'pattern', never: ['keramik'] } },
  'the rules': { edit: 'plan', plan: { ...demoPlan, rules: tangled } },
  'one rule of several': {
    edit: 'rule',
    id: 'b',
    set: { then: [{ do: 'set', field: 'material', text: 'rather long' }] },
  },
  'one rule switched off': { edit: 'rule', id: 'a', set: { on: false } },
  'a rule that leaves out, taken out': { edit: 'removeRule', id: 'd' },
  'a rule moved': { edit: 'moveRule', id: 'd', before: 'a' },
  'a rule on what no other touches': {
    edit: 'addRule',
    rule: rule('k', {
      when: { attribute: 'brand', is: 'filled' },
      then: [{ do: 'set', field: 'pattern', text: 'plain' }],
    }),
  },
  'no rules': { edit: 'plan', plan: { ...demoPlan, rules: [] } },
  'by category': {
    edit: 'perCategory',
    field: 'material',
    variants: [{ categories: ['Books'], composition: fixedText('paper') }],
  },
  'a title by hand': {
    edit: 'titleByHand',
    titles: { 'QM-POT-RDG-CHA-14': { text: 'Our ridge pot', instead: 'x' } },
  },
  'checks judged': {
    edit: 'checks',
    severity: { 'choice:colour': 'tip', 'missing:barcode': 'off' },
    waived: { a: { check: 'identifier:barcode', skus: ['QM-POT-RDG-INK-10'], reason: 'known' } },
    own: {
      o: {
        words: 'Dear pots want a pattern',
        field: 'pattern',
        severity: 'blocker',
        when: {
          all: [
            { attribute: 'price', is: 'moreThan', value: '30' },
            { field: 'pattern', is: 'empty' },
          ],
        },
      },
    },
  },
  'a rule that asks for issues': {
    edit: 'addRule',
    rule: {
      id: 'rule-78',
      name: 'What has no barcode',
      on: true,
      when: { all: [{ fact: 'issues', is: 'oneOf', value: ['missing:barcode', 'choice'] }] },
      then: [{ do: 'set', field: 'material', text: 'clay' }],
    },
  },
  'families singly': { edit: 'families', set: { families: { 'POT-RDG': 'singly' }, apart: ['glaze'] } },
  'a branch singly': { edit: 'families', set: { branches: { 3100: 'singly', 3000: 'singly' } } },
  'rules of every kind': {
    edit: 'plan',
    plan: {
      ...demoPlan,
      rules: [
        rule('f', {
          when: { field: 'headline', is: 'differsFrom', value: 'brand' },
          then: [
            { do: 'copyWord', field: 'colour', from: 'headline', words: { moss: 'green', chalk: 'white' } },
          ],
        }),
        rule('g', {
          when: { not: { any: [{ attribute: 'price', is: 'between', value: ['10', '30'] }] } },
          then: [
            { do: 'steps', field: 'headline', steps: [{ step: 'shorten', most: 40, measure: 'characters' }] },
            { do: 'leaveOut', reason: 'too dear' },
          ],
        }),
        rule('h', {
          when: { attribute: 'brand', is: 'equals', value: 'Tarnholt' },
          then: [
            { do: 'keep' },
            {
              do: 'compose',
              field: 'material',
              composition: fromAttribute('glaze', [{ step: 'lookUp', table: 'colours', otherwise: 'keep' }]),
            },
          ],
        }),
      ],
    },
  },
  'the scope': { edit: 'scope', scope: { attribute: 'brand', is: 'equals', value: 'Tarnholt' } },
  'a scope on a field': { edit: 'scope', scope: { field: 'material', is: 'filled' } },
  'what is met': { edit: 'met', what: 'address', on: true },
  'what is not translated': { edit: 'untranslated', to: 'nothing' },
};

/** The demo's catalog with every second name in German as well. */
const index = attributeIndex([...demoIndex.codes, 'name@de']);
const put = (row: Row, slot: number, value: Value | undefined): Row => {
  // Rows end with the last of their values.
  const next = [...row];
  next[slot] = value;
  return next;
};
const german = index.slotOf('name@de') ?? -1;
const catalog = {
  ...demoCatalog,
  rows: demoRows.map((row, at) => (at % 2 ? row : put(row, german, `Ware ${at}`))),
};
const keywords = new Map([['de', readKeywords(readFileSync('demo/keywords.csv', 'utf8'), 'de').keywords]]);
const compileDemo = (plan: Plan = demoPlan, sheet: Sheet = lanternry.sheet) =>
  compile(plan, sheet, lanternry.tree, index, { keywords });

const evaluated = (compiled: CompiledPlan, of: CatalogRows = catalog) =>
  new Listings(evaluateAll(compiled, of), compiled.sheet.fields);

function check(before: Plan, after: Plan, sheet: Sheet = lanternry.sheet): void {
  const [a, b] = [compileDemo(before, sheet), compileDemo(after, sheet)];
  const base = evaluated(a);
  const again = evaluateIncrementally(a, base, b, catalog);
  const complete = evaluated(b);
  expect([...again.listings]).toEqual([...complete]);
  const { fields } = lanternry.sheet;
  const counted = again.counted ?? fields.keys();
  expect(coverageIncrementally(coverageOf(base, fields), base, again.listings, counted)).toEqual(
    coverageOf(complete, fields),
  );
}

test('edit after edit, each evaluated and counted from the one before: the same as in full', () => {
  const published = compileDemo();
  const base = evaluated(published);
  const names = Object.keys(edits);
  // Most edits are of one field: those that follow each other on one or several are tried most.
  const often = ['one field', 'one field emptied', 'a rule on what no other touches', 'a placement'];
  fc.assert(
    fc.property(
      fc.array(fc.oneof(fc.constantFrom(...names), fc.constantFrom(...often)), {
        minLength: 2,
        maxLength: 6,
      }),
      fc.array(fc.constantFrom('material', 'brand', 'pattern', 'about', 'colour'), {
        minLength: 6,
        maxLength: 6,
      }),
      (sequence, fields) => {
        let plan = demoPlan;
        let before = { compiled: published, listings: base };
        /** Every draft on the way, as it was when it was made. */
        const onTheWay = [{ listings: base, was: JSON.stringify([...base]) }];
        const nothing: Pair = { before: base, after: base, fields: [] };
        let known = { between: atOnce(countingBetween(nothing)), of: nothing };
        for (const [step, name] of sequence.entries()) {
          const edit: PlanEdit =
            name === 'one field'
              ? { edit: 'fields', fields: { [fields[step] ?? '']: fixedText(`trial ${step % 2}`) } }
              : (edits[name] as PlanEdit);
          plan = applyEdit(plan, edit);
          const compiled = compileDemo(plan);
          const { listings } = evaluateIncrementally(before.compiled, before.listings, compiled, catalog);
          const complete = evaluated(compiled);
          expect([...listings]).toEqual([...complete]);
          const pair = { before: base, after: listings, fields: touchedBy(published, compiled)?.fields };
          const between = atOnce(countingBetween(pair, known));
          expect(between).toEqual(atOnce(countingBetween({ before: base, after: complete })));
          expect(differences(base, listings).length).toBe(between.impact.changed);
          known = { between, of: pair };
          before = { compiled, listings };
          onTheWay.push({ listings, was: JSON.stringify([...listings]) });
        }
        // Nobody’s listings change under him, though they share most of what they hold with those after them.
        for (const { listings, was } of onTheWay) expect(JSON.stringify([...listings]) === was).toBe(true);
        const last = before.listings;
        const all = lanternry.sheet.fields.map((_field, at) => at);
        const complete = [...last];
        expect(all.map((at) => last.column(at))).toEqual(
          all.map((at) => complete.map(({ values }) => values[at])),
        );
        atOnce(last.settling());
        expect([...last]).toEqual(complete);
        const stored = [...last];
        expect([...last].every((listing, i) => listing === stored[i])).toBe(true);
      },
    ),
    { numRuns: 60 },
  );
});

test('edits of the draft and of items by turns: the same as in full', () => {
  const slots = ['gtin', 'name', 'glaze', 'brand', 'family', 'category'].map(
    (code) => index.slotOf(code) ?? -1,
  );
  const turn = fc.oneof(
    fc.constantFrom(...Object.keys(edits)),
    fc.record({
      to: fc.nat(catalog.rows.length + 2),
      from: fc.nat(catalog.rows.length - 1),
      slot: fc.constantFrom(...slots),
    }),
    fc.constant({ drop: 2 }),
  );
  fc.assert(
    fc.property(fc.array(turn, { minLength: 3, maxLength: 7 }), (turns) => {
      let plan = demoPlan;
      let [rows, skus] = [catalog.rows, catalog.skus];
      let compiled = compileDemo();
      let listings = evaluated(compiled);
      for (const [n, one] of turns.entries()) {
        if (typeof one === 'string') {
          plan = applyEdit(plan, edits[one] as PlanEdit);
          const next = compileDemo(plan);
          ({ listings } = evaluateIncrementally(compiled, listings, next, { rows, skus }));
          compiled = next;
        } else if ('drop' in one) {
          const before = { rows, skus };
          [rows, skus] = [rows.slice(0, -one.drop), skus.slice(0, -one.drop)];
          listings = evaluateRows(listings, before, compiled, { rows, skus });
        } else {
          const before = { rows, skus };
          const row = put(rows[one.to] ?? rows[one.from] ?? [], one.slot, rows[one.from]?.[one.slot]);
          const isNew = one.to >= rows.length;
          const was = listings;
          rows = isNew ? [...rows, row] : rows.map((old, at) => (at === one.to ? row : old));
          skus = isNew ? [...skus, `NEW-${n}`] : skus;
          listings = evaluateRows(listings, before, compiled, { rows, skus });
          const { fields } = compiled.sheet;
          if (!isNew)
            expect(coverageIncrementally(coverageOf(was, fields), was, listings, fields.keys())).toEqual(
              coverageOf(listings, fields),
            );
        }
        expect([...listings]).toEqual(evaluateAll(compiled, { rows, skus }));
      }
    }),
    { numRuns: 12 },
  );
});

describe('what is computed again equals what is computed in full', () => {
  test.each(Object.entries(edits))('after %s', (_name, edit) => {
    check(demoPlan, applyEdit(demoPlan, edit));
  });
  test.each(Object.entries(edits))('taking back %s', (_name, edit) => {
    check(applyEdit(demoPlan, edit), demoPlan);
  });
  test('after any edits on any edits', () => {
    const some = fc.uniqueArray(fc.constantFrom(...Object.values(edits)), { maxLength: 4 });
    fc.assert(
      fc.property(some, some, (first, second) => {
        const before = first.reduce(applyEdit, demoPlan);
        check(before, second.reduce(applyEdit, before));
      }),
      { numRuns: 6 },
    );
  });
  test('whatever rules there are, and whichever of them are added, changed, moved or taken out', () => {
    const when = fc.constantFrom<object>(
      { attribute: 'name', is: 'contains', value: 'pot' },
      { field: 'headline', is: 'contains', value: 'moss' },
      { field: 'material', is: 'filled' },
      { field: 'about', is: 'longerThan', value: '200' },
      { under: ['3000'] },
      { not: { field: 'headline', is: 'differsFrom', value: 'brand' } },
    );
    const action = fc.constantFrom<object>(
      { do: 'set', field: 'material', text: 'clay' },
      { do: 'clear', field: 'material' },
      { do: 'replace', field: 'headline', find: 'pot', with: 'moss' },
      { do: 'after', field: 'about', text: ' <script>x</script>' },
      { do: 'set', field: 'category', text: '3101' },
      { do: 'leaveOut', reason: 'not now' },
      { do: 'keep' },
    );
    const some = fc.uniqueArray(
      fc.record({ id: fc.constantFrom('a', 'b', 'c', 'd'), when, then: fc.tuple(action), on: fc.boolean() }),
      { selector: ({ id }) => id, maxLength: 4 },
    );
    const plan = (rules: readonly { id: string; when: object; then: object[]; on: boolean }[]): Plan => ({
      ...demoPlan,
      rules: rules.map(({ id, on, ...more }) => ({ ...rule(id, more), on })),
    });
    fc.assert(
      fc.property(some, some, fc.nat(3), (first, second, stored) => {
        // Some of the rules stay, the others are as they come.
        const stay = first.slice(0, stored);
        const ids = new Set(stay.map(({ id }) => id));
        check(plan(first), plan([...stay, ...second.filter(({ id }) => !ids.has(id))]));
      }),
      { numRuns: 30 },
    );
  });
});

/** The sheet of a channel that has entries already, which items may join. */
const joining: Sheet = sheetSchema.parse({
  ...lanternry.sheet,
  delivery: {
    ...lanternry.sheet.delivery,
    joins: {
      byNumber: '/entries?number={number}',
      entry: 'number',
      says: { name: 'name' },
      field: 'author',
      asked: ['price', 'stock', 'condition', 'material'],
    },
  },
});
const joinedPlan = applyEdit(demoPlan, {
  edit: 'joined',
  joined: Object.fromEntries(
    ['QM-POT-RDG-MOS-14', 'QM-POT-RDG-INK-10', demoCatalog.skus.at(-1) ?? ''].map((sku) => [
      sku,
      { entry: `E-${sku}`, name: 'An entry' },
    ]),
  ),
});

describe('where items join what the channel has', () => {
  const positionOf = (code: string) => joining.fields.findIndex((field) => field.code === code);

  test('one that joins has the entry and what is asked, and nothing else is wanted of it', () => {
    const compiled = compileDemo(joinedPlan, joining);
    const listing = evaluateAll(compiled, catalog).find(({ sku }) => sku === 'QM-POT-RDG-INK-10');
    const plain = evaluateAll(compileDemo(demoPlan, joining), catalog).find(
      ({ sku }) => sku === 'QM-POT-RDG-INK-10',
    );
    const filled = joining.fields.flatMap(({ code }, at) =>
      listing?.values[at] === undefined ? [] : [code],
    );
    expect(filled).toEqual(['ref', 'price', 'stock', 'condition', 'material', 'author']);
    expect(listing?.values[positionOf('author')]).toBe('E-QM-POT-RDG-INK-10');
    for (const code of ['ref', 'price', 'stock', 'condition'])
      expect(listing?.values[positionOf(code)]).toEqual(plain?.values[positionOf(code)]);
    // By itself it lacks more than one thing.
    expect(plain?.state).toBe('blocked');
    expect(listing).toMatchObject({ state: 'ready', issues: [] });
    const at = catalog.skus.indexOf('QM-POT-RDG-INK-10');
    expect(
      completenessOf(compiled, listing ?? { values: [], issues: [] }, catalog.rows[at] ?? []),
    ).toMatchObject({
      lacking: [],
    });
  });

  test('a field that carries the entry may be mapped as well', () => {
    const plan = applyEdit(demoPlan, {
      edit: 'fields',
      fields: { author: fixedText('E-1') },
    });
    const [first] = evaluateAll(compileDemo(plan, joining), catalog);
    expect(first?.values[positionOf('headline')]).toBeUndefined();
    expect(first?.values[positionOf('author')]).toBe('E-1');
  });

  test('parted, it is what it was', () => {
    const parted = applyEdit(joinedPlan, {
      edit: 'joined',
      joined: Object.fromEntries(Object.keys(joinedPlan.joined ?? {}).map((sku) => [sku, null])),
    });
    expect(parted).toEqual(demoPlan);
  });

  test.each(Object.entries(edits))(
    'what is computed again equals what is computed in full, after %s',
    (_name, edit) => {
      check(joinedPlan, applyEdit(joinedPlan, edit), joining);
      check(applyEdit(joinedPlan, edit), joinedPlan, joining);
    },
  );

  test('and after any edits on any edits, joining and parting among them', () => {
    const all: PlanEdit[] = [
      ...Object.values(edits),
      {
        edit: 'joined',
        joined: { 'QM-POT-RDG-MOS-14': null, 'QM-POT-RDG-CHA-14': { entry: 'E-9', name: '' } },
      },
      { edit: 'fields', fields: { author: fromAttribute('mpn') } },
      { edit: 'fields', fields: { author: null } },
    ];
    const some = fc.uniqueArray(fc.constantFrom(...all), { maxLength: 4 });
    fc.assert(
      fc.property(some, some, (first, second) => {
        const before = first.reduce(applyEdit, joinedPlan);
        check(before, second.reduce(applyEdit, before), joining);
      }),
      { numRuns: 6 },
    );
  });
});

test('where rows of the catalog change, only their listings are made anew, and all are as in full', () => {
  const compiled = compileDemo();
  const base = evaluated(compiled);
  const slot = compiled.index.slotOf('sku') ?? -1;
  const gtin = compiled.index.slotOf('gtin') ?? -1;
  // A barcode that another has, one row gone from the end, one more.
  const [first = [], second = [], ...rest] = catalog.rows;
  const rows = [first, put(second, gtin, first[gtin]), ...rest.slice(0, -1)];
  rows.push(put(first, slot, 'QM-NEW'));
  const skus = [...catalog.skus.slice(0, -1), 'QM-NEW'];
  const again = evaluateRows(base, catalog, compiled, { skus, rows });
  expect([...again]).toEqual(evaluateAll(compiled, { skus, rows }));
  expect(again.positions((i) => i >= base.length || !again.same(base, i)).length).toBeLessThan(12);
});

test('whatever is shared or no longer shared, in whatever order, all are as in full', () => {
  const compiled = compileDemo();
  const slots = ['gtin', 'name', 'image', 'description', 'family', 'category'].map(
    (code) => compiled.index.slotOf(code) ?? -1,
  );
  const small = { skus: catalog.skus.slice(0, 14), rows: catalog.rows.slice(0, 14) };
  // A value of one item put to another, or a new item that begins as a copy.
  const change = fc.record({
    to: fc.nat(15),
    from: fc.nat(13),
    slot: fc.constantFrom(...slots),
    add: fc.boolean(),
  });
  fc.assert(
    fc.property(
      fc.array(fc.array(change, { minLength: 1, maxLength: 3 }), { minLength: 1, maxLength: 5 }),
      (rounds) => {
        let before = small;
        let listings = evaluated(compiled, before);
        for (const [round, changes] of rounds.entries()) {
          const rows = [...before.rows];
          const skus = [...before.skus];
          for (const [n, { to, from, slot, add }] of changes.entries()) {
            const given = before.rows[from]?.[slot];
            if (add) {
              rows.push([...(before.rows[to % before.rows.length] ?? [])]);
              skus.push(`NEW-${round}-${n}`);
            } else {
              const at = to % before.rows.length;
              rows[at] = put(rows[at] ?? [], slot, given);
            }
          }
          const after = { skus, rows };
          listings = evaluateRows(listings, before, compiled, after);
          expect([...listings]).toEqual(evaluateAll(compiled, after));
          before = after;
        }
      },
    ),
    { numRuns: 60 },
  );
});

test('a picture that is found to be another’s is told at both, though no value has changed', () => {
  const image = index.slotOf('image') ?? -1;
  let same: string | undefined;
  const picture = (link: string) =>
    link === 'https://quillmoss.example/b.jpg' && same !== undefined
      ? { width: 1200, height: 1200, format: 'jpeg', whiteBorder: 1, same }
      : undefined;
  const compiled = compile(demoPlan, lanternry.sheet, lanternry.tree, index, {
    keywords,
    seen: { ...noExternalFacts, picture },
  });
  // Of two families, whose pictures nobody else has.
  const [pot = -1, book = -1] = ['QM-POT-RDG-MOS-10', 'QM-CLO-GLA-18'].map((sku) =>
    catalog.skus.indexOf(sku),
  );
  const rows = [...catalog.rows];
  rows[pot] = put(rows[pot] ?? [], image, ['https://quillmoss.example/a.jpg']);
  rows[book] = put(rows[book] ?? [], image, ['https://quillmoss.example/b.jpg']);
  const before = { skus: catalog.skus, rows };
  const base = evaluated(compiled, before);
  same = 'https://quillmoss.example/a.jpg';
  const after = { skus: catalog.skus, rows: rows.map((row, i) => (i === book ? [...row] : row)) };
  const again = evaluateRows(base, before, compiled, after);
  expect([...again]).toEqual(evaluateAll(compiled, after));
  expect(again.positions((i) => !again.same(base, i)).sort()).toEqual([pot, book].sort());
});

test('a picture that is found to be another’s while listings are compared is told once they are compared again', () => {
  const image = index.slotOf('image') ?? -1;
  const link = (name: string) => [`https://quillmoss.example/${name}.jpg`];
  const [pot = -1, book = -1, third = -1] = ['QM-POT-RDG-MOS-10', 'QM-CLO-GLA-18', 'QM-SED-BAS-20'].map(
    (sku) => catalog.skus.indexOf(sku),
  );
  const start = [...catalog.rows];
  for (const [at, name] of [
    [pot, 'a'],
    [book, 'b'],
  ] as const)
    start[at] = put(start[at] ?? [], image, link(name));
  const { skus } = catalog;
  fc.assert(
    fc.property(fc.nat(40), (step) => {
      let [same, picturesAsOf]: [string | undefined, object] = [undefined, {}];
      const seen = {
        ...noExternalFacts,
        get picturesAsOf() {
          return picturesAsOf;
        },
        picture: (one: string) =>
          one === link('b')[0] && same !== undefined
            ? { width: 1200, height: 1200, format: 'jpeg', whiteBorder: 1, same }
            : undefined,
      };
      const compiled = compile(demoPlan, lanternry.sheet, lanternry.tree, index, { keywords, seen });
      let rows = start;
      let listings = evaluated(compiled, { skus, rows });
      const go = (next: readonly Row[], at?: number) => {
        const steps = evaluatingRows(listings, { skus, rows }, compiled, { skus, rows: next });
        for (let n = 0; ; n++) {
          if (n === at) [same, picturesAsOf] = [link('a')[0], {}];
          const { done, value } = steps.next();
          if (done) [listings, rows] = [value, [...next]];
          if (done) return;
        }
      };
      // Another picture of another item: what is shared is numbered anew, when the first two are found to be one.
      go(
        start.map((row, i) => (i === third ? put(row, image, link('c')) : row)),
        step,
      );
      if (same === undefined) [same, picturesAsOf] = [link('a')[0], {}];
      go(rows.map((row, i) => (i === book ? [...row] : row)));
      expect([...listings]).toEqual(evaluateAll(compiled, { skus, rows }));
      go(rows.map((row, i) => (i === third ? put(row, image, link('d')) : row)));
      expect([...listings]).toEqual(evaluateAll(compiled, { skus, rows }));
    }),
    { numRuns: 25 },
  );
});

describe('what is touched', () => {
  const touched = (edit: PlanEdit, plan: Plan = demoPlan) => {
    const found = touchedBy(compileDemo(plan), compileDemo(applyEdit(plan, edit)));
    return found && [...found.fields].map((at) => lanternry.sheet.fields[at]?.code).sort();
  };
  test('nothing by nothing', () => {
    expect(touched({ edit: 'fields', fields: {} })).toEqual([]);
  });
  test('one field by its mapping', () => {
    expect(touched({ edit: 'fields', fields: { material: fixedText('clay') } })).toEqual(['material']);
  });
  test('every field that looks words up in a table', () => {
    expect(touched({ edit: 'table', name: 'colours', table: {} })).toEqual(['colour']);
  });
  test('what a rule writes where it reads what changed, and so on', () => {
    const plan = { ...demoPlan, rules: tangled };
    expect(touched({ edit: 'fields', fields: { brand: fixedText('Tarnholt') } }, plan)).toEqual([
      'brand',
      'headline',
      'material',
    ]);
  });
  test('by a rule what it writes, and what the rules after it make of that; what others write stays', () => {
    const plan = { ...demoPlan, rules: tangled };
    const add = (then: object[], when: object = { all: [] }): PlanEdit => ({
      edit: 'addRule',
      rule: rule('k', { when, then }),
    });
    expect(touched(add([{ do: 'set', field: 'size', text: 'one' }]), plan)).toEqual(['size']);
    expect(touched({ edit: 'rule', id: 'c', set: { on: false } }, plan)).toEqual(['pattern']);
    // It reads what two others have written, which is made anew for it.
    expect(
      touched(add([{ do: 'set', field: 'size', text: 'one' }], { field: 'material', is: 'filled' }), plan),
    ).toEqual(['headline', 'material', 'size']);
  });
  test('everything by the scope', () => {
    expect(touched({ edit: 'scope', scope: { attribute: 'name', is: 'filled' } })).toBeUndefined();
  });
  test('no title is made anew for a rule that looks at titles last, and does not apply', () => {
    const a = compileDemo();
    const base = evaluated(a);
    const edit: PlanEdit = {
      edit: 'addRule',
      rule: rule('k', {
        when: { field: 'headline', is: 'contains', value: 'mint' },
        then: [{ do: 'replace', field: 'headline', find: 'mint', with: '' }],
      }),
    };
    const after = compileDemo(applyEdit(demoPlan, edit));
    const run = jest.fn(after.title?.run);
    const { listings } = evaluateIncrementally(
      a,
      base,
      { ...after, title: after.title && { ...after.title, run } },
      catalog,
    );
    const minty = [...base].filter(({ values }) =>
      values.some((value) => /mint/i.test(String(value))),
    ).length;
    expect(run.mock.calls.length).toBeLessThanOrEqual(minty);
    expect([...listings]).toEqual(evaluateAll(after, catalog));
  });
  test('listings that stay as they are stay the same objects', () => {
    const a = compileDemo();
    const base = evaluated(a);
    const edit: PlanEdit = {
      edit: 'exceptions',
      exceptions: { 'QM-POT-RDG-MOS-14': { category: '3101' } },
    };
    const { listings } = evaluateIncrementally(a, base, compileDemo(applyEdit(demoPlan, edit)), catalog);
    expect(listings.positions((i) => !listings.same(base, i)).map((i) => listings.skuAt(i))).toEqual([
      'QM-POT-RDG-MOS-14',
    ]);
    expect([...listings].filter((listing, i) => listing !== base.at(i))).toHaveLength(1);
  });
});
