import { z } from 'zod';
import { type AttributeIndex, asList, asText, type Row, type Value } from '../catalog/value';

/**
 * One condition language for requirement sheets ("must here"), scopes and rules.
 * Texts are compared without regard to letter case; `moreThan` and `lessThan` compare numbers.
 */
export const operators = [
  'empty',
  'filled',
  'equals',
  'differs',
  'oneOf',
  'contains',
  'lacks',
  'startsWith',
  'endsWith',
  'moreThan',
  'lessThan',
  'longerThan',
] as const;
export type Operator = (typeof operators)[number];

/** Operators that stand alone, without a value to compare with. */
export const unaryOperators: ReadonlySet<Operator> = new Set(['empty', 'filled']);

const operand = z.union([z.string(), z.array(z.string())]).optional();
const testSchema = z
  .strictObject({
    attribute: z.string().optional().meta({ description: 'attribute of the item' }),
    field: z.string().optional().meta({ description: 'field of the listing, after mapping' }),
    is: z.enum(operators),
    value: operand,
  })
  .refine((test) => (test.attribute === undefined) !== (test.field === undefined), {
    message: 'names either an attribute or a field',
  });
export type Test = z.infer<typeof testSchema>;

export type Condition =
  | Test
  | { all: Condition[] }
  | { any: Condition[] }
  | { not: Condition }
  | { under: string[] }
  | { country: string[] };

export const conditionSchema: z.ZodType<Condition> = z
  .lazy(() =>
    z.union([
      testSchema,
      z.strictObject({ all: z.array(conditionSchema) }),
      z.strictObject({ any: z.array(conditionSchema) }),
      z.strictObject({ not: conditionSchema }),
      z
        .strictObject({ under: z.array(z.string()).min(1) })
        .meta({ description: "within one of these branches of the channel's tree" }),
      z.strictObject({ country: z.array(z.string().length(2)).min(1) }),
    ]),
  )
  .meta({ id: 'Condition' });

/** What a compiled condition looks at: the item's attributes and the listing's fields, by slot. */
export type Predicate = (row: Row, values: readonly (Value | undefined)[]) => boolean;

/** What names in a condition stand for, in one feed. */
export interface ConditionScope {
  readonly index: AttributeIndex;
  fieldAt(code: string): number | undefined;
  /** Whether the category a listing is placed in lies in a branch. */
  isUnder(category: string, branch: string): boolean;
  readonly categoryField: number | undefined;
  readonly country: string;
}

const always: Predicate = () => true;
const never: Predicate = () => false;

/** Compiles a condition. Names that the feed does not know read as empty. */
export function compileCondition(condition: Condition, scope: ConditionScope): Predicate {
  if ('all' in condition) {
    const parts = condition.all
      .map((part) => compileCondition(part, scope))
      .filter((part) => part !== always);
    if (parts.length === 0) return always;
    if (parts.includes(never)) return never;
    return (row, values) => {
      for (const part of parts) if (!part(row, values)) return false;
      return true;
    };
  }
  if ('any' in condition) {
    const parts = condition.any.map((part) => compileCondition(part, scope)).filter((part) => part !== never);
    if (parts.length === 0) return never;
    if (parts.includes(always)) return always;
    return (row, values) => {
      for (const part of parts) if (part(row, values)) return true;
      return false;
    };
  }
  if ('not' in condition) {
    const part = compileCondition(condition.not, scope);
    return part === always ? never : part === never ? always : (row, values) => !part(row, values);
  }
  if ('country' in condition) return condition.country.includes(scope.country) ? always : never;
  if ('under' in condition) {
    const at = scope.categoryField;
    if (at === undefined) return never;
    // Each category is looked up in the tree once; listings of one category share the answer.
    const known = new Map<string, boolean>();
    return (_row, values) => {
      const category = values[at];
      if (typeof category !== 'string') return false;
      let within = known.get(category);
      if (within === undefined) {
        within = condition.under.some((branch) => scope.isUnder(category, branch));
        known.set(category, within);
      }
      return within;
    };
  }
  const test = compileTest(condition);
  if (condition.attribute !== undefined) {
    const slot = scope.index.slotOf(condition.attribute);
    return slot === undefined ? constant(test(undefined)) : (row) => test(row[slot]);
  }
  const at = scope.fieldAt(condition.field ?? '');
  return at === undefined ? constant(test(undefined)) : (_row, values) => test(values[at]);
}

const constant = (answer: boolean): Predicate => (answer ? always : never);

function compileTest({ is, value }: Test): (found: Value | undefined) => boolean {
  const wanted = asList(value).map((entry) => entry.toLowerCase());
  const first = wanted[0] ?? '';
  const number = Number(first);
  const text = (found: Value | undefined) =>
    (typeof found === 'string' ? found : asText(found)).toLowerCase();
  const each = (test: (entry: string) => boolean) => (found: Value | undefined) =>
    // Nearly every value is one text; no list is made for it.
    typeof found === 'string'
      ? test(found.toLowerCase())
      : asList(found).some((entry) => test(entry.toLowerCase()));
  switch (is) {
    case 'empty':
      return (found) => found === undefined;
    case 'filled':
      return (found) => found !== undefined;
    case 'equals':
      return each((entry) => entry === first);
    case 'differs':
      return (found) => !asList(found).some((entry) => entry.toLowerCase() === first);
    case 'oneOf': {
      const set = new Set(wanted);
      return each((entry) => set.has(entry));
    }
    case 'contains':
      return (found) => text(found).includes(first);
    case 'lacks':
      return (found) => !text(found).includes(first);
    case 'startsWith':
      return each((entry) => entry.startsWith(first));
    case 'endsWith':
      return each((entry) => entry.endsWith(first));
    case 'moreThan':
      return (found) => found !== undefined && Number.parseFloat(asText(found)) > number;
    case 'lessThan':
      return (found) => found !== undefined && Number.parseFloat(asText(found)) < number;
    case 'longerThan':
      return (found) => asText(found).length > number;
  }
}

/** The attributes a condition looks at. */
export function attributesIn(condition: Condition): string[] {
  if ('all' in condition) return condition.all.flatMap(attributesIn);
  if ('any' in condition) return condition.any.flatMap(attributesIn);
  if ('not' in condition) return attributesIn(condition.not);
  return 'attribute' in condition && condition.attribute !== undefined ? [condition.attribute] : [];
}

/** The fields a condition looks at. */
export function fieldsIn(condition: Condition): string[] {
  if ('all' in condition) return condition.all.flatMap(fieldsIn);
  if ('any' in condition) return condition.any.flatMap(fieldsIn);
  if ('not' in condition) return fieldsIn(condition.not);
  return 'field' in condition && condition.field !== undefined ? [condition.field] : [];
}

/** The branches of the tree a condition asks for. */
export function branchesIn(condition: Condition): string[] {
  if ('all' in condition) return condition.all.flatMap(branchesIn);
  if ('any' in condition) return condition.any.flatMap(branchesIn);
  if ('not' in condition) return branchesIn(condition.not);
  return 'under' in condition ? condition.under : [];
}
