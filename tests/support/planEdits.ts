/** Random edits of a plan, of every kind there is: a kind that is added does not compile until it has its generator here. */
import fc, { type Arbitrary } from 'fast-check';
import type { CategoryTree } from '../../src/core/categories/tree';
import type { Sheet } from '../../src/core/channels/sheet';
import { fixedText, fromAttribute } from '../../src/core/compose/composition';
import type { Condition } from '../../src/core/conditions/conditions';
import { type PlanEdit, planEditSchema } from '../../src/core/plans/edit';
import type { Plan } from '../../src/core/plans/plan';
import { ruleSchema } from '../../src/core/rules/rule';

type Composition = Plan['fields'][string];
type Rule = Plan['rules'][number];
type Kind = PlanEdit['edit'];

/** What edits are made of: the channel, and what the catalog has. */
export interface EditWorld {
  readonly sheet: Sheet;
  readonly tree: CategoryTree;
  readonly attributes: readonly string[];
  readonly categories: readonly string[];
  readonly families: readonly string[];
  readonly skus: readonly string[];
  readonly words: readonly string[];
}

const ids = ['a', 'b', 'c', 'd'] as const;
const tables = ['one', 'two'] as const;

/** Edits by kind over a world. */
export function planEdits(world: EditWorld, plan: Plan): { readonly [K in Kind]: Arbitrary<PlanEdit> } {
  const { sheet, tree } = world;
  const field = fc.constantFrom(...sheet.fields.map(({ code }) => code));
  const attribute = fc.constantFrom(...world.attributes);
  const category = fc.constantFrom(...world.categories);
  const sku = fc.constantFrom(...world.skus);
  const word = fc.constantFrom(...world.words, '', 'clay', '12', '9.90', '2026-12-24');
  const place = fc.constantFrom(...tree.byCode.keys());
  const placement: Arbitrary<Plan['placements'][string]> = fc.oneof(
    place.map((code) => ({ category: code })),
    fc.constantFrom('not here', 'too heavy').map((leaveOut) => ({ leaveOut })),
  );
  const table = fc.dictionary(
    fc.constantFrom(...world.words),
    word.filter((text) => text !== ''),
    { maxKeys: 4 },
  );
  const steps = fc.array(
    fc.oneof(
      fc.constantFrom({ step: 'lookUp' as const, table: 'one', otherwise: 'keep' as const }),
      fc.constantFrom({ step: 'shorten' as const, most: 20, measure: 'characters' as const }),
      fc.constantFrom({ step: 'case' as const, to: 'upper' as const }),
    ) as Arbitrary<never>,
    { maxLength: 1 },
  );
  const composition: Arbitrary<Composition> = fc.oneof(
    { weight: 4, arbitrary: fc.tuple(attribute, steps).map(([code, own]) => fromAttribute(code, own)) },
    { weight: 1, arbitrary: word.filter((text) => text !== '').map(fixedText) },
  );
  const test: Arbitrary<Condition> = fc.oneof(
    fc.record({ attribute, is: fc.constantFrom('filled' as const, 'empty' as const) }),
    fc.record({ field, is: fc.constantFrom('filled' as const, 'empty' as const) }),
    fc.record({ attribute, is: fc.constant('contains' as const), value: word }),
    fc.record({ field, is: fc.constantFrom('equals' as const, 'contains' as const), value: word }),
    fc.record({ field, is: fc.constant('longerThan' as const), value: fc.constantFrom('5', '40') }),
    place.map((code) => ({ under: [code] })),
    fc.constantFrom('DE', 'GB').map((code) => ({ country: [code] })),
    fc.constantFrom<Condition>(
      { fact: 'pictures', is: 'moreThan', value: '1' } as never,
      { fact: 'issues', is: 'oneOf', value: ['choice', 'missing:barcode'] },
      { fact: 'standing', is: 'oneOf', value: ['new'] },
    ),
  );
  const condition: Arbitrary<Condition> = fc.oneof(
    { weight: 3, arbitrary: test },
    { weight: 1, arbitrary: fc.array(test, { maxLength: 2 }).map((all) => ({ all })) },
    { weight: 1, arbitrary: fc.array(test, { minLength: 1, maxLength: 2 }).map((any) => ({ any })) },
    { weight: 1, arbitrary: test.map((not) => ({ not })) },
  );
  const action: Arbitrary<Rule['then'][number]> = fc.oneof(
    fc.record({
      do: fc.constantFrom('set' as const, 'before' as const, 'after' as const),
      field,
      text: word,
    }),
    fc.record({ do: fc.constant('compose' as const), field, composition }),
    fc.record({
      do: fc.constant('replace' as const),
      field,
      find: fc.constantFrom(...world.words),
      with: word,
    }),
    fc.record({ do: fc.constant('copyWord' as const), field, from: field, words: table }),
    fc.record({ do: fc.constant('clear' as const), field }),
    fc.constantFrom(
      { do: 'leaveOut' as const, reason: 'not now' },
      { do: 'review' as const, reason: 'look first' },
      { do: 'keep' as const },
    ),
  );
  const rule: Arbitrary<Rule> = fc
    .record({
      id: fc.constantFrom(...ids),
      when: condition,
      then: fc.array(action, { minLength: 1, maxLength: 2 }),
      on: fc.boolean(),
      group: fc.option(fc.constantFrom('first', 'second'), { nil: undefined }),
    })
    .map(({ group, ...more }) => ruleSchema.parse({ name: more.id, ...more, ...(group && { group }) }));
  const id = fc.constantFrom(...ids);
  const patternPart = fc.oneof(
    fc.record({ attribute, glue: fc.constantFrom(' ', ', ', ' – '), steps: fc.constant([]) }),
    fc.record({ text: fc.constantFrom('for', 'by'), glue: fc.constant(' ') }),
  );
  const titleOptions = fc.record(
    {
      parts: fc.array(patternPart, { minLength: 1, maxLength: 4 }),
      letterCase: fc.constantFrom('title' as const, 'sentence' as const, 'asis' as const),
      sayOnce: fc.boolean(),
      tellApart: fc.boolean(),
      nameOnPhone: fc.boolean(),
    },
    { requiredKeys: [] },
  ) as Arbitrary<never>;
  const shown = fc.constantFrom('together' as const, 'singly' as const);
  const orNull = <T>(arbitrary: Arbitrary<T>) => fc.option(arbitrary, { nil: null });
  const checkKey = fc
    .tuple(fc.constantFrom('missing', 'choice', 'length', 'identifier', 'origin', 'wordTwice'), field)
    .map(([check, code]) => `${check}:${code}`);
  const ownCheck = fc.record({
    words: fc.constant('Look at this'),
    field,
    severity: fc.constantFrom('blocker' as const, 'risk' as const, 'tip' as const),
    when: condition,
  });
  const of = <T extends PlanEdit>(arbitrary: Arbitrary<T>): Arbitrary<PlanEdit> =>
    arbitrary.map((edit) => planEditSchema.parse(edit));
  const edits: Omit<{ readonly [K in Kind]: Arbitrary<PlanEdit> }, 'plan'> = {
    fields: of(
      fc.record({
        edit: fc.constant('fields' as const),
        fields: fc.dictionary(field, orNull(composition), { minKeys: 1, maxKeys: 3 }),
      }),
    ),
    table: of(fc.record({ edit: fc.constant('table' as const), name: fc.constantFrom(...tables), table })),
    place: of(
      fc.record({
        edit: fc.constant('place' as const),
        placements: fc.dictionary(category, orNull(placement), { minKeys: 1, maxKeys: 3 }),
      }),
    ),
    exceptions: of(
      fc.record({
        edit: fc.constant('exceptions' as const),
        exceptions: fc.dictionary(sku, orNull(placement), { minKeys: 1, maxKeys: 3 }),
      }),
    ),
    title: of(
      fc
        .record({
          edit: fc.constant('title' as const),
          set: titleOptions,
          branch: fc.option(place, { nil: undefined }),
        })
        .map(({ branch, ...edit }) => (branch === undefined ? edit : { ...edit, branch })),
    ),
    titleIn: of(fc.record({ edit: fc.constant('titleIn' as const), branch: place, own: fc.boolean() })),
    families: of(
      fc.record({
        edit: fc.constant('families' as const),
        set: fc.record(
          {
            feed: shown,
            asOne: fc.boolean(),
            branches: fc.dictionary(place, orNull(shown), { maxKeys: 2 }),
            families: fc.dictionary(fc.constantFrom(...world.families), orNull(shown), { maxKeys: 2 }),
            apart: fc.uniqueArray(fc.constantFrom('glaze', 'color', 'size'), { maxLength: 2 }),
          },
          { requiredKeys: [] },
        ),
      }),
    ),
    checks: of(
      fc
        .record(
          {
            severity: fc.dictionary(
              checkKey,
              orNull(fc.constantFrom('blocker' as const, 'tip' as const, 'off' as const)),
              {
                maxKeys: 2,
              },
            ),
            waived: fc.dictionary(
              id,
              orNull(
                fc.record({
                  check: checkKey,
                  skus: fc.uniqueArray(sku, { minLength: 1, maxLength: 5 }),
                  reason: fc.constant('known'),
                }),
              ),
              { maxKeys: 2 },
            ),
            own: fc.dictionary(id, orNull(ownCheck), { maxKeys: 2 }),
          },
          { requiredKeys: [] },
        )
        .map((more) => ({ edit: 'checks' as const, ...more })),
    ),
    titleByHand: of(
      fc.record({
        edit: fc.constant('titleByHand' as const),
        titles: fc.dictionary(
          sku,
          orNull(word.filter((one) => one !== '').map((text) => ({ text, instead: 'x' }))),
          {
            minKeys: 1,
            maxKeys: 3,
          },
        ),
      }),
    ),
    joined: of(
      fc.record({
        edit: fc.constant('joined' as const),
        joined: fc.dictionary(sku, orNull(fc.constant({ entry: 'E-1', name: 'An entry' })), {
          minKeys: 1,
          maxKeys: 3,
        }),
      }),
    ),
    searchWords: of(
      fc.record({
        edit: fc.constant('searchWords' as const),
        set: orNull(fc.record({ field, never: fc.constant<string[]>(['keramik']) })),
      }),
    ),
    addRule: of(fc.record({ edit: fc.constant('addRule' as const), rule })),
    rule: of(
      fc.record({
        edit: fc.constant('rule' as const),
        id,
        set: fc.record(
          {
            on: fc.boolean(),
            when: condition,
            then: fc.array(action, { minLength: 1, maxLength: 2 }),
            group: orNull(fc.constantFrom('first', 'second')),
          },
          { requiredKeys: [] },
        ),
      }),
    ),
    ruleGroup: of(
      fc.record({
        edit: fc.constant('ruleGroup' as const),
        group: fc.constantFrom('first', 'second'),
        set: fc.oneof(fc.record({ on: fc.boolean() }), fc.record({ name: orNull(fc.constant('third')) })),
      }),
    ),
    removeRule: of(fc.record({ edit: fc.constant('removeRule' as const), id })),
    moveRule: of(fc.record({ edit: fc.constant('moveRule' as const), id, before: orNull(id) })),
    words: of(
      fc.record({
        edit: fc.constant('words' as const),
        field,
        table: fc.constantFrom(...tables),
        words: table,
      }),
    ),
    perCategory: of(
      fc.record({
        edit: fc.constant('perCategory' as const),
        field,
        variants: fc.array(
          fc.record({
            categories: fc.uniqueArray(category, { minLength: 1, maxLength: 2 }),
            composition,
          }),
          { maxLength: 2 },
        ),
      }),
    ),
    scope: of(fc.record({ edit: fc.constant('scope' as const), scope: orNull(condition) })),
    met: of(
      fc.record({
        edit: fc.constant('met' as const),
        what: fc.constantFrom('address', 'website', 'a document'),
        on: fc.boolean(),
      }),
    ),
    untranslated: of(
      fc.record({
        edit: fc.constant('untranslated' as const),
        to: fc.constantFrom('main' as const, 'nothing' as const),
      }),
    ),
  };
  return { ...edits, plan: fc.constant({ edit: 'plan' as const, plan }) };
}
