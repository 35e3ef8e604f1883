import type { Condition, Operator, Test } from '@/core/conditions/conditions';
import { unaryOperators } from '@/core/conditions/conditions';

export const operatorWords: Readonly<Record<Operator, string>> = {
  empty: 'is empty',
  filled: 'is filled',
  equals: 'is',
  differs: 'is not',
  oneOf: 'is one of',
  contains: 'contains',
  lacks: 'does not contain',
  startsWith: 'begins with',
  endsWith: 'ends with',
  moreThan: 'is more than',
  lessThan: 'is less than',
  longerThan: 'is longer than',
};

type LabelOf = (kind: 'attribute' | 'field', code: string) => string;

function testWords(test: Test, labelOf: LabelOf): string {
  const subject =
    test.attribute !== undefined ? labelOf('attribute', test.attribute) : labelOf('field', test.field ?? '');
  const value = Array.isArray(test.value) ? test.value.join(', ') : (test.value ?? '');
  return `${subject} ${operatorWords[test.is]}${unaryOperators.has(test.is) ? '' : ` “${value}”`}`;
}

/** A condition in words. */
export function conditionWords(condition: Condition, labelOf: LabelOf): string {
  if ('all' in condition)
    return condition.all.length === 0
      ? 'always'
      : condition.all.map((one) => conditionWords(one, labelOf)).join(' and ');
  if ('any' in condition) return condition.any.map((one) => conditionWords(one, labelOf)).join(' or ');
  if ('not' in condition) return `not (${conditionWords(condition.not, labelOf)})`;
  if ('under' in condition) return `category within ${condition.under.join(', ')}`;
  if ('country' in condition) return `country is ${condition.country.join(', ')}`;
  return testWords(condition, labelOf);
}

/** A rule's condition as the form shows it: all or any of some tests. Other shapes are shown, not edited. */
export function asTests(condition: Condition): { join: 'all' | 'any'; tests: Test[] } | undefined {
  const only = (list: Condition[]): Test[] | undefined => {
    const tests = list.filter((one): one is Test => 'is' in one);
    return tests.length === list.length ? tests : undefined;
  };
  if ('is' in condition) return { join: 'all', tests: [condition] };
  if ('all' in condition) {
    const tests = only(condition.all);
    return tests && { join: 'all', tests };
  }
  if ('any' in condition) {
    const tests = only(condition.any);
    return tests && { join: 'any', tests };
  }
  return undefined;
}
