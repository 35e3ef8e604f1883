import type { Channel } from '../channels/bundle';
import { fieldWithRole, merchantNeedsIn } from '../channels/sheet';
import { withElsewhere } from '../channels/suggestions';
import type { Composition } from '../compose/composition';
import { attributesIn, branchesIn, type Condition, factsIn, fieldsIn } from '../conditions/conditions';
import { counted } from '../formatting/formatting';
import type { Action } from '../rules/actions';
import { copiedRule } from '../rules/copying';

import { type CategoryMapping, emptyPlan, type Plan } from './plan';

/** What a feed's plan becomes in another market or channel, and what of it stays behind. */
export interface CarriedOver {
  readonly plan: Plan;
  readonly carried: readonly string[];
  readonly left: readonly string[];
}

/** From this confidence on the mapping of a similar field is taken along to another channel. */
const sureFrom = 85;

const hasText = ({ alternatives }: Composition): boolean =>
  alternatives.some(({ parts }) => parts.some((part) => 'text' in part && /\p{L}{2}/u.test(part.text)));

/** Whether a condition asks only for attributes of items, which every feed has. */
const onlyAttributes = (condition: Condition): boolean =>
  fieldsIn(condition).length === 0 &&
  factsIn(condition).length === 0 &&
  branchesIn(condition).length === 0 &&
  attributesIn(condition).length > 0;

/** Whether an action writes words of its own into a listing. */
const saysWords = (action: Action): boolean =>
  ('text' in action && /\p{L}{2}/u.test(action.text)) ||
  (action.do === 'replace' && /\p{L}{2}/u.test(action.with)) ||
  (action.do === 'compose' && hasText(action.composition));

const keep = <T>(
  record: Readonly<Record<string, T>>,
  test: (value: T, key: string) => boolean,
): Record<string, T> => Object.fromEntries(Object.entries(record).filter(([key, value]) => test(value, key)));

/**
 * A plan for a new feed from an existing one. In the same channel everything goes along; in another only what its sheet has
 * a like place for. Fixed texts in another language are named, so that somebody looks at them.
 */
export function carryOver(from: Plan, before: Channel, after: Channel, market: Plan['market']): CarriedOver {
  return before.sheet.code === after.sheet.code
    ? toMarket(from, after, market)
    : toChannel(from, before, after, market);
}

function toMarket(from: Plan, { sheet }: Channel, market: Plan['market']): CarriedOver {
  const foreign = market.language !== from.market.language;
  const texts = sheet.fields
    .filter(({ kind, role }) => (kind === 'text' || kind === 'richText') && role !== 'brand')
    .filter(({ code }) => from.fields[code] && hasText(from.fields[code]))
    .map(({ label }) => label);
  const conditions = new Set(merchantNeedsIn(sheet, market.country).map(({ code }) => code));
  const met = from.met.filter((one) => conditions.has(one));
  return {
    plan: { ...from, market, met },
    carried: [
      counted(Object.keys(from.fields).length, 'field mapping', 'field mappings'),
      counted(Object.keys(from.placements).length, 'category mapping', 'category mappings'),
      counted(Object.keys(from.tables).length, 'value mapping', 'value mappings'),
      ...(from.title ? ['the title pattern'] : []),
      counted(from.rules.length, 'rule', 'rules'),
      ...(from.scope ? ['its scope'] : []),
    ].filter((words) => !words.startsWith('0 ')),
    left: [
      ...(foreign && texts.length > 0
        ? [`check the fixed texts in ${texts.join(', ')}: they are in ${from.market.language}`]
        : []),
      ...(from.met.length > met.length ? ['prerequisites met for the other market'] : []),
    ],
  };
}

function toChannel(from: Plan, before: Channel, after: Channel, market: Plan['market']): CarriedOver {
  const elsewhere = before.sheet.fields.flatMap((field) => {
    const composition = from.fields[field.code];
    return composition ? [{ field, composition, where: before.sheet.name }] : [];
  });
  const fields = Object.fromEntries(
    after.sheet.fields.flatMap((field) => {
      if (field.kind === 'category') return [];
      const [best] = withElsewhere(field, [], elsewhere, 1);
      return best && best.score >= sureFrom ? [[field.code, best.composition] as const] : [];
    }),
  );
  const leftOut = (placement: CategoryMapping) => 'leaveOut' in placement;
  const placements = keep(from.placements, leftOut);
  const exceptions = keep(from.exceptions, leftOut);
  const rules = from.rules.flatMap((rule) => {
    const copied = copiedRule(rule, before.sheet, after.sheet);
    return 'rule' in copied ? [copied.rule] : [];
  });
  const title = from.title && fieldWithRole(after.sheet, 'title') ? from.title : undefined;
  const scope = from.scope && onlyAttributes(from.scope) ? from.scope : undefined;
  const placed = Object.keys(from.placements).length - Object.keys(placements).length;
  return {
    plan: {
      ...emptyPlan(after.sheet.code, market),
      fields,
      placements,
      exceptions,
      rules,
      ...(title ? { title } : {}),
      ...(scope ? { scope } : {}),
    },
    carried: [
      counted(Object.keys(fields).length, 'mapping of a similar field', 'mappings of similar fields'),
      ...(title ? ['the title pattern'] : []),
      counted(Object.keys(placements).length, 'excluded category', 'excluded categories'),
      counted(rules.length, 'rule', 'rules'),
      ...(scope ? ['its scope'] : []),
    ].filter((words) => !words.startsWith('0 ')),
    left: [
      ...(placed > 0
        ? [
            `${counted(placed, 'category mapping', 'category mappings')}: this tree is different; they improve its suggestions`,
          ]
        : []),
      ...(Object.keys(from.tables).length > 0 ? ['value mappings: its choices differ'] : []),
      ...(market.language !== from.market.language && rules.some(({ then }) => then.some(saysWords))
        ? [`check the texts that rules write: they are in ${from.market.language}`]
        : []),
      ...(from.rules.length > rules.length
        ? [`${counted(from.rules.length - rules.length, 'rule', 'rules')} on fields it does not have`]
        : []),
    ],
  };
}
