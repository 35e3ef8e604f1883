import type { Issue } from './issue';

/**
 * Lists of issues, each kept once under a number: of a hundred thousand listings most are told the same of a field. What follows from a
 * list is found once for its number, and that two listings are told the same is seen without looking at what it is.
 */
export class IssueListPool {
  /** Number 0 is the list that says nothing. */
  private readonly lists: (readonly Issue[])[] = [[]];
  private readonly blocking: boolean[] = [false];
  private readonly issues = new Map<Issue, number>();
  private readonly byHash = new Map<number, number[]>();

  get size(): number {
    return this.lists.length;
  }

  /** The number of what a list says from one place to another. */
  numberOf(issues: readonly Issue[], from = 0, to = issues.length): number {
    if (from === to) return 0;
    let hash = to - from;
    for (let n = from; n < to; n++) {
      const issue = issues[n] as Issue;
      let number = this.issues.get(issue);
      if (number === undefined) {
        number = this.issues.size;
        this.issues.set(issue, number);
      }
      hash = (Math.imul(hash, 31) + number) | 0;
    }
    const alike = this.byHash.get(hash) ?? [];
    for (let n = 0; n < alike.length; n++)
      if (this.saysSame(alike[n] as number, issues, from, to)) return alike[n] as number;
    const stated = issues.slice(from, to);
    const number = this.lists.length;
    alike.push(number);
    this.byHash.set(hash, alike);
    this.lists.push(stated);
    this.blocking.push(stated.some(({ severity }) => severity === 'blocker'));
    return number;
  }

  /** Whether a list says just what another says from one place to another. */
  saysSame(number: number, issues: readonly Issue[], from: number, to: number): boolean {
    const list = this.list(number);
    if (list.length !== to - from) return false;
    for (let n = 0; n < list.length; n++) if (list[n] !== issues[from + n]) return false;
    return true;
  }

  list(number: number): readonly Issue[] {
    return this.lists[number] as readonly Issue[];
  }

  /** Whether a list holds a blocker. */
  blocks(number: number): boolean {
    return this.blocking[number] as boolean;
  }
}
