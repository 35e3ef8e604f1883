import { asText, type Row, type Value } from '../catalog/value';
import { type Comparison, partOf, severityOfShared, shownOfShared } from '../checks/comparing';
import type { FieldChecks } from '../checks/compileChecks';
import { type Issue, issueOf, type Report } from '../checks/issue';
import { IssueListPool } from '../checks/issueLists';
import type { Shared } from '../checks/listings/sharedValues';
import type { CompiledRule } from '../rules/rule';
import type { CompiledPlan, Joins } from './compiling/compiledPlan';
import { atOnce, BATCH_ROWS, type Steps } from './steps';

export type ListingState = 'ready' | 'blocked' | 'leftOut';

/** An item as one feed will show it. Values by field position. */
export interface Listing {
  readonly sku: string;
  readonly state: ListingState;
  /** Why it is left out. */
  readonly reason: string | undefined;
  readonly values: readonly (Value | undefined)[];
  readonly issues: readonly Issue[];
}

const none: readonly Issue[] = [];

/** The reason of a listing that the feed's scope leaves out. */
export const outOfScope = 'not in the scope of this feed';
/** The reason of a listing whose item does not join the feed yet. */
const waitsToJoin = 'new: held for this feed';
const outside: ReadonlySet<string | undefined> = new Set([outOfScope, waitsToJoin]);
/** Whether a listing is left out before any rule is asked. @param reason why it is left out */
export const isOutside = (reason: string | undefined): boolean => outside.has(reason);

/**
 * One item through the feed: mapping, placement, title, rules, checks.
 * Checks that compare listings with each other run afterwards, in {@link evaluateAll}.
 */
export function evaluate(compiled: CompiledPlan, sku: string, row: Row): Listing {
  const values: (Value | undefined)[] = new Array(compiled.sheet.fields.length).fill(undefined);
  const reason = fillValues(compiled, row, values);
  const stored = compiled.joins && onlyAsked(compiled.joins, row, values);
  if (reason !== undefined) return { sku, state: 'leftOut', reason, values, issues: none };
  let issues: Issue[] | undefined;
  let blocked = false;
  const { checks, judge } = compiled;
  const report: Report = (check, given, field, facts) => {
    const severity = judge ? judge(sku, check, field, given) : given;
    if (severity === undefined) return;
    if (severity === 'blocker') blocked = true;
    if (issues === undefined) issues = [];
    issues.push(issueOf(check, severity, field, facts));
  };
  for (let i = 0; i < checks.length; i++) {
    const check = checks[i] as FieldChecks;
    if (stored === undefined || stored.has(check.at)) check.run(row, values, report);
  }
  return { sku, state: blocked ? 'blocked' : 'ready', reason: undefined, values, issues: issues ?? none };
}

/** Fields, placement and title, before any rule; gives the reason where the placement leaves the item out. */
export function fillFields(
  compiled: CompiledPlan,
  row: Row,
  values: (Value | undefined)[],
): string | undefined {
  const { mapped } = compiled;
  for (let i = 0; i < mapped.length; i++) {
    const field = mapped[i] as (typeof mapped)[number];
    values[field.at] = field.run(row);
  }
  let reason: string | undefined;
  if (compiled.categoryAt >= 0) {
    const placed = compiled.placementOf(row);
    if (placed) {
      if ('category' in placed.placement) values[compiled.categoryAt] = placed.placement.category;
      else reason = placed.placement.leaveOut;
    }
  }
  if (compiled.title) values[compiled.titleAt] = compiled.title.run(row);
  return reason;
}

/**
 * A plan that fills some of its fields only, and says where items go: for those who look at few fields of every item.
 * @param codes of the fields that are looked at
 */
export function fillingOnly(compiled: CompiledPlan, codes: Iterable<string>): CompiledPlan {
  const wanted = new Set(codes);
  const at = new Set(compiled.sheet.fields.flatMap(({ code }, at) => (wanted.has(code) ? [at] : [])));
  return {
    ...compiled,
    mapped: compiled.mapped.filter((field) => at.has(field.at)),
    title: at.has(compiled.titleAt) ? compiled.title : undefined,
  };
}

/** Cleans the markup of what leaves. */
export function cleanFields(compiled: CompiledPlan, values: (Value | undefined)[]): void {
  for (const { at, clean } of compiled.markup) {
    const value = values[at];
    if (value !== undefined) values[at] = clean(value);
  }
}

/**
 * Leaves of a listing that joins an entry of the channel only what is asked of it then.
 * @returns the positions of what is asked; undefined where it joins none
 */
export function onlyAsked(
  { at, skuSlot, entries, asked }: Joins,
  row: Row,
  values: (Value | undefined)[],
): ReadonlySet<number> | undefined {
  const entry = entries.get(asText(row[skuSlot])) ?? values[at];
  if (entry === undefined) return undefined;
  for (let n = 0; n < values.length; n++) if (!asked.has(n)) values[n] = undefined;
  values[at] = entry;
  return asked;
}

/** Fills the values of a listing and gives the reason where the item is left out. */
export function fillValues(
  compiled: CompiledPlan,
  row: Row,
  values: (Value | undefined)[],
): string | undefined {
  const { rules } = compiled;
  let reason = fillFields(compiled, row, values);
  if (compiled.waits(row)) reason = waitsToJoin;
  else if (compiled.inScope && !compiled.inScope(row, values)) reason = outOfScope;
  else
    for (let i = 0; i < rules.length; i++) {
      const rule = rules[i] as CompiledRule;
      if (rule.applies(row, values)) reason = rule.apply(row, values) ?? reason;
    }
  cleanFields(compiled, values);
  // What was taken in again has an empty reason.
  return reason || undefined;
}

/** After so many rows bulk work asks whether it may go on. */
export const watchEvery = 32;

export interface CatalogRows {
  readonly skus: readonly string[];
  readonly rows: readonly Row[];
}

/** Items through a feed, each by itself, step by step: nothing is compared. */
export function* evaluatingAlone(compiled: CompiledPlan, { skus, rows }: CatalogRows): Steps<Listing[]> {
  const { watch } = compiled;
  const listings: Listing[] = new Array(rows.length);
  for (let i = 0; i < rows.length; i++) {
    if (watch && i % watchEvery === 0) watch(i);
    if (i % BATCH_ROWS === 0) yield;
    listings[i] = evaluate(compiled, skus[i] as string, rows[i] as Row);
  }
  return listings;
}

/** A whole catalog through a feed, with the checks that compare listings, step by step. Order is the catalog's. */
export function* evaluatingAll(compiled: CompiledPlan, catalog: CatalogRows): Steps<Listing[]> {
  const listings = yield* evaluatingAlone(compiled, catalog);
  addCompared(compiled, listings, catalog.rows);
  const stated = new IssueListPool();
  for (let i = 0; i < listings.length; i++) {
    if (i % BATCH_ROWS === 0) yield;
    const listing: { issues: readonly Issue[] } = listings[i] as Listing;
    listing.issues = stated.list(stated.numberOf(listing.issues));
  }
  return listings;
}

/** The same at once. */
export const evaluateAll = (compiled: CompiledPlan, catalog: CatalogRows): Listing[] =>
  atOnce(evaluatingAll(compiled, catalog));

/** How many of the others an issue names. */
export const MAX_NAMED = 3;

/** What of listings is compared. */
export interface Compared {
  skuAt(i: number): string;
  valueAt(i: number, field: number): Value | undefined;
}

/**
 * What is said of listings that share something, of each by its place in the group; nothing where all are of one part.
 * @param group places of the listings
 * @param rows of the same items in the same order
 */
export function sharedIssues(
  { index, judge }: Pick<CompiledPlan, 'index' | 'judge'>,
  comparison: Comparison,
  group: readonly number[],
  listings: Compared,
  rows: readonly Row[],
): readonly (Issue | undefined)[] | undefined {
  const { check, field, at } = comparison;
  const familySlot = index.slotOf('family');
  const skuOf = (n: number) => listings.skuAt(group[n] as number);
  const parts = group.map((i) => partOf(comparison, listings.skuAt(i), rows[i], familySlot));
  const sizes = new Map<string, number>();
  for (const part of parts) sizes.set(part, (sizes.get(part) ?? 0) + 1);
  if (sizes.size < 2) return undefined;
  // The first few of different parts are enough to name others to anyone.
  const named = new Map<string, string>();
  for (let n = 0; n < group.length && named.size <= MAX_NAMED; n++) {
    const part = parts[n] as string;
    if (!named.has(part)) named.set(part, skuOf(n));
  }
  const othersThan = (own: string) =>
    [...named].flatMap(([one, sku]) => (one === own ? [] : [sku])).slice(0, MAX_NAMED);
  const others = othersThan('');
  // Nearly all are told the same: it is made once, and not for each of thousands that have one text.
  const stated = new Map<string, Issue>();
  return parts.map((own, n) => {
    const found = shownOfShared(check, listings.valueAt(group[n] as number, at));
    const severity = severityOfShared(judge, skuOf(n), check, field);
    if (severity === undefined) return undefined;
    const count = group.length - (sizes.get(own) ?? 0);
    const isNamed = named.has(own);
    const key = `${severity} ${count} ${isNamed ? own : ''}`;
    const known = stated.get(key);
    if (known && (known.facts as Shared).found === found) return known;
    const facts = { found, others: isNamed ? othersThan(own) : others, count };
    const issue: Issue = { check, severity, field, facts };
    stated.set(key, issue);
    return issue;
  });
}

/**
 * Adds an issue to every listing that shares with others what should not be shared. Changes the array, not the listings.
 * @param rows of the same items in the same order
 */
export function addCompared(compiled: CompiledPlan, listings: Listing[], rows: readonly Row[]): void {
  const all: Compared = {
    skuAt: (i) => (listings[i] as Listing).sku,
    valueAt: (i, field) => (listings[i] as Listing).values[field],
  };
  for (const comparison of compiled.compared) {
    // Most share nothing: only those that do are gathered in a list.
    const first = new Map<string, number>();
    const holders = new Map<string, number[]>();
    for (let i = 0; i < listings.length; i++) {
      const { state, values } = listings[i] as Listing;
      const key = state === 'leftOut' ? undefined : comparison.keyOf(values[comparison.at]);
      if (key === undefined) continue;
      const one = first.get(key);
      if (one === undefined) first.set(key, i);
      else {
        const known = holders.get(key);
        if (known) known.push(i);
        else holders.set(key, [one, i]);
      }
    }
    for (const group of holders.values())
      sharedIssues(compiled, comparison, group, all, rows)?.forEach((issue, n) => {
        if (!issue) return;
        const i = group[n] as number;
        const listing = listings[i] as Listing;
        listings[i] = {
          ...listing,
          state: issue.severity === 'blocker' ? 'blocked' : listing.state,
          issues: [...listing.issues, issue],
        };
      });
  }
}
