import { asText, type Row, sameValue, type Value } from '../../core/catalog/value';
import { fieldWithRole } from '../../core/channels/sheet';
import { wordsTwice } from '../../core/checks/texts/wordTwice';
import { type ChannelStatus, type ConditionScope, factsIn, fieldsIn } from '../../core/conditions/conditions';
import { fillFields, fillingOnly } from '../../core/listing/evaluate';
import { BATCH_ROWS, type Steps } from '../../core/listing/steps';
import { commonRules } from '../../core/rules/commonRules';
import {
  compileRule,
  holdsBack,
  kept,
  leavesOut,
  type Rule,
  readsOf,
  writesOf,
  writesWhole,
} from '../../core/rules/rule';
import { type ConditionPreview, conditionPreviewOf, metBy } from '../evaluation/conditionPreview';
import type { FeedContext } from '../evaluation/feedContext';
import { otherFeeds } from '../evaluation/otherFeeds';
import { titleMakerCount } from '../evaluation/titles';
import { memoFor } from '../runtime/memo';
import { inSlices } from '../runtime/timeBudget';

/** Something to be looked at in a rule. */
export interface RuleHint {
  readonly remark: 'neverFires' | 'overwritten' | 'undoes' | 'wordTwice' | 'goesBack';
  readonly words: string;
}

export interface RuleView {
  readonly rule: Rule;
  /** Items the condition holds for, at the rule's place in the order. */
  readonly matches: number;
  /** Listings whose values it changes or that it leaves out. */
  readonly changes: number;
  readonly examples: readonly { sku: string; field: string; before: string; after: string }[];
  readonly state: 'same' | 'new' | 'changed';
  readonly remarks: readonly RuleHint[];
}

export interface RulesStage extends ConditionPreview {
  readonly rules: readonly RuleView[];
  readonly titleField: string | undefined;
  readonly priceField: string | undefined;
  /** How many items meet each condition of the rule that is open, by where it stands in it. */
  readonly met: Readonly<Record<string, number>>;
  /** Rules that many begin with, made for this channel. */
  readonly shelf: readonly Rule[];
  /** The other feeds, to copy a rule to. */
  readonly others: readonly { readonly code: string; readonly name: string }[];
}

const MAX_EXAMPLES = 4;

/** What a rule does to the catalog, while it is counted. */
interface Counting {
  readonly trial: ReturnType<typeof compileRule>;
  /** The same, once the channel has accepted every listing; of rules that ask for how one stands there and write something. */
  readonly accepted: ReturnType<typeof compileRule> | undefined;
  matches: number;
  /** Listings to which it would apply no more once they are accepted as it made them. */
  passing: number;
  changes: number;
  /** Listings in which a word stands twice since it. */
  doubled: number;
  /** How many of the listings it changed a later rule wrote over, or made again what they were, by that rule. */
  readonly overwritten: Map<number, number>;
  readonly undone: Map<number, number>;
  readonly examples: RuleView['examples'][number][];
}

const count = (map: Map<number, number>, key: number) => map.set(key, (map.get(key) ?? 0) + 1);

/** Every rule over every row, in one pass, each over what the rules before it made. */
function* countingRules(work: FeedContext, rules: readonly Rule[], counts: readonly Counting[]): Steps<void> {
  const { snapshot, sheet, labelOf } = work;
  const compiled = { ...work.draft.compiled, title: titleMakerCount(work) };
  const positions = new Map(sheet.fields.map(({ code }, at) => [code, at]));
  const complete = rules.map(
    ({ then }) =>
      new Set(
        then.flatMap((action) =>
          'field' in action && writesWhole(action) ? (positions.get(action.field) ?? []) : [],
        ),
      ),
  );
  const texts = new Set(
    sheet.fields.flatMap(({ kind, role }, at) => (kind === 'text' && role !== 'id' ? [at] : [])),
  );
  const { scope } = compiled.plan;
  const filled = fillingOnly(compiled, [
    ...rules.flatMap((rule) => [...readsOf(rule), ...writesOf(rule)]),
    ...(scope ? fieldsIn(scope) : []),
  ]);
  // By the hundred thousand: what no rule applies to leaves nothing behind.
  const values: (Value | undefined)[] = new Array(sheet.fields.length);
  /** By field, which rule wrote it last and what stood there before it. */
  const writers = new Map<number, { rule: number; before: Value | undefined }>();
  for (let at = 0; at < snapshot.rows.length; at++) {
    if (at % BATCH_ROWS === 0) yield;
    const row = snapshot.rows[at] as Row;
    values.fill(undefined);
    if (writers.size > 0) writers.clear();
    let reason = fillFields(filled, row, values);
    if (compiled.inScope && !compiled.inScope(row, values)) continue;
    for (let n = 0; n < counts.length; n++) {
      const own = counts[n] as Counting;
      if (reason && !leavesOut(rules[n] as Rule)) continue;
      if (!own.trial.applies(row, values)) continue;
      own.matches++;
      const after = values.slice();
      const leaves = own.trial.apply(row, after);
      const changed: number[] = [];
      for (let position = 0; position < after.length; position++)
        if (!sameValue(after[position], values[position])) changed.push(position);
      const [first] = changed;
      const moved = leaves !== undefined && (leaves || undefined) !== (reason || undefined);
      if (first !== undefined && own.accepted?.applies(row, values) === false) own.passing++;
      if (first !== undefined || moved) {
        own.changes++;
        if (own.examples.length < MAX_EXAMPLES)
          own.examples.push({
            sku: snapshot.skus[at] ?? '',
            field: first === undefined ? 'Listing' : labelOf(sheet.fields[first]?.code ?? ''),
            before: first === undefined ? '' : asText(values[first]),
            after:
              first === undefined
                ? leaves === kept
                  ? 'taken in again'
                  : `excluded: ${leaves}`
                : asText(after[first]),
          });
        const more = changed.some((position) => {
          if (!texts.has(position)) return false;
          const before = new Set(wordsTwice(asText(values[position])));
          return wordsTwice(asText(after[position])).some((word) => !before.has(word));
        });
        if (more) own.doubled++;
      }
      if (!rules[n]?.on) continue;
      for (const position of changed) {
        const last = writers.get(position);
        const earlier = last && counts[last.rule];
        if (earlier && last.rule !== n) {
          if (sameValue(last.before, after[position])) count(earlier.undone, n);
          else if (complete[n]?.has(position)) count(earlier.overwritten, n);
        }
        writers.set(position, { rule: n, before: values[position] });
      }
      for (const position of changed) values[position] = after[position];
      reason = leaves ?? reason;
    }
  }
}

/** The scope of conditions where every listing is there as it was sent. */
const acceptedIn = (scope: ConditionScope): ConditionScope => ({
  ...scope,
  factReader: (fact) =>
    fact === 'standing'
      ? () => ['there' satisfies ChannelStatus]
      : (scope.factReader?.(fact) ?? (() => undefined)),
});

/** What is to be said of a rule beside its figures. */
function remarksOf(rules: readonly Rule[], counts: readonly Counting[], n: number): RuleHint[] {
  const [rule, own] = [rules[n], counts[n]];
  if (!rule || !own) return [];
  const nameOf = (at: number) => `“${rules[at]?.name}”`;
  const found: RuleHint[] = [];
  if (own.matches === 0)
    found.push({ remark: 'neverFires', words: 'never applies: no item meets the condition' });
  else if (own.changes === 0 && !holdsBack(rule))
    found.push({ remark: 'neverFires', words: 'changes nothing: every value is already like that' });
  for (const [later, times] of own.overwritten)
    if (times === own.changes)
      found.push({ remark: 'overwritten', words: `all its changes are overwritten by ${nameOf(later)}` });
  for (const [earlier, one] of counts.entries()) {
    const times = one.undone.get(n) ?? 0;
    if (times > 0)
      found.push({ remark: 'undoes', words: `undoes ${nameOf(earlier)} on ${times} of its ${one.changes}` });
  }
  if (own.passing > 0)
    found.push({
      remark: 'goesBack',
      words: `is undone on ${own.passing} of ${own.changes} once the channel accepts them, because it asks for their state there`,
    });
  if (own.doubled > 0)
    found.push({ remark: 'wordTwice', words: `a word is repeated in ${own.doubled} of ${own.changes}` });
  return found;
}

/** The Rules stage: each rule with what it does to the whole catalog at its place in the order. @param open the rule that is open */
export async function rulesStage(work: FeedContext, open: string | undefined): Promise<RulesStage> {
  const { plans, sheet, draft } = work;
  const { rules } = plans.draft;
  const { scope, context } = draft.compiled;
  const counts = await memoFor(draft, 'rules', async () => {
    const created = rules.map(
      (rule): Counting => ({
        trial: compileRule({ ...rule, on: true }, scope, context),
        accepted:
          factsIn(rule.when).includes('standing') && rule.then.some((action) => 'field' in action)
            ? compileRule({ ...rule, on: true }, acceptedIn(scope), context)
            : undefined,
        matches: 0,
        passing: 0,
        changes: 0,
        doubled: 0,
        overwritten: new Map(),
        undone: new Map(),
        examples: [],
      }),
    );
    if (rules.length > 0) await inSlices(countingRules(work, rules, created));
    return created;
  });
  const current = rules.find(({ id }) => id === open);
  const met = current ? await metBy(work, current.when) : {};
  const published = new Map((plans.published?.rules ?? []).map((rule) => [rule.id, JSON.stringify(rule)]));
  const views = rules.map((rule, n): RuleView => {
    const known = published.get(rule.id);
    const { matches = 0, changes = 0, examples = [] } = counts[n] ?? {};
    return {
      rule,
      matches,
      changes,
      examples,
      remarks: remarksOf(rules, counts, n),
      state: known === undefined ? 'new' : known === JSON.stringify(rule) ? 'same' : 'changed',
    };
  });
  return {
    rules: views,
    ...conditionPreviewOf(work),
    titleField: fieldWithRole(sheet, 'title')?.code,
    priceField: fieldWithRole(sheet, 'price')?.code,
    met,
    shelf: commonRules(sheet),
    others: (await otherFeeds(work.plans.head.code)).map(({ head, name }) => ({ code: head.code, name })),
  };
}
