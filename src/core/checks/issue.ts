import type { CheckName, Facts } from './registry';
import type { Severity } from './severity';

export type { CheckName, Facts } from './registry';
export type { Severity } from './severity';

/**
 * An issue is a fact, not a sentence: what was checked, how serious it is, which field, and the numbers behind it. The check's own
 * file turns facts into text.
 */
export type Issue = {
  [K in CheckName]: {
    readonly check: K;
    readonly severity: Severity;
    readonly field: string;
    readonly facts: Facts[K];
  };
}[CheckName];

/** Takes an issue of any check. */
export type Report = <K extends CheckName>(
  check: K,
  severity: Severity,
  field: string,
  facts: Facts[K],
) => void;

/** One thing for each check and field, made when it is first asked for: for what goes through issues by the hundred thousand. */
export class ByCause<T> {
  private readonly fields = new Map<string, Map<CheckName, T>>();

  constructor(private readonly make: (check: CheckName, field: string) => T) {}

  of(check: CheckName, field: string): T {
    let checks = this.fields.get(field);
    if (!checks) {
      checks = new Map();
      this.fields.set(field, checks);
    }
    const known = checks.get(check);
    if (known !== undefined) return known;
    const created = this.make(check, field);
    checks.set(check, created);
    return created;
  }

  /** All that were asked for, those of one field beside each other. */
  all(): T[] {
    return [...this.fields.values()].flatMap((checks) => [...checks.values()]);
  }
}

/** What was said lately of each field, by check, the latest first. */
const recent = new ByCause((): Issue[] => []);
/** So much is remembered of each: of most fields few things are said in turns. */
const MAX_LATELY = 8;

const alike = <K extends CheckName>(facts: Facts[K], others: Facts[K]): boolean => {
  for (const name in facts) if (facts[name] !== others[name]) return false;
  for (const name in others) if (!(name in facts)) return false;
  return true;
};

/**
 * An issue. Where the same was said of the field lately, it is the same object: of a hundred thousand listings most lack the
 * same, and issues would take more room than their values. Nobody changes what is in one.
 */
export function issueOf<K extends CheckName>(
  check: K,
  severity: Severity,
  field: string,
  facts: Facts[K],
): Issue {
  const stated = recent.of(check, field);
  for (let n = 0; n < stated.length; n++) {
    const known = stated[n] as Issue;
    if (known.severity !== severity || !alike(facts, known.facts as Facts[K])) continue;
    for (let back = n; back > 0; back--) stated[back] = stated[back - 1] as Issue;
    stated[0] = known;
    return known;
  }
  const issue = { check, severity, field, facts } as Issue;
  for (let back = Math.min(stated.length, MAX_LATELY - 1); back > 0; back--)
    stated[back] = stated[back - 1] as Issue;
  stated[0] = issue;
  return issue;
}

/** What identifies an issue on a listing, for comparing a draft with what is published. */
export const issueKey = (issue: Issue): string => `${issue.check}:${issue.field}`;
