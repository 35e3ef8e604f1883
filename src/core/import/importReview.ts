import { z } from 'zod';
import { MAX_TEXT } from '../catalog/value';
import { counted, formatNumber } from '../formatting/formatting';
import { named } from '../forms/forms';
import type { Rejection } from './mapping/mapping';

const percent = (usual: number, label: string, description: string) =>
  named(z.number().min(0).max(100).default(usual).meta({ description }), label);

/** From where on an automatic import is held for review. Shares are in per cent. */
export const importLimitsSchema = z.strictObject({
  missing: percent(20, 'Missing, %', '% of the source’s items that the file no longer has'),
  price: named(
    z.number().min(0).default(50).meta({ description: '% by which a price may change' }),
    'Price changes by, %',
  ),
  prices: percent(5, 'Prices beyond, %', '% of the source’s items whose price may change by more'),
  rejected: percent(20, 'Rejected rows, %', '% of the rows that are rejected'),
  fresh: percent(50, 'New items, %', 'new items, in % of the items that the source has'),
  fewer: percent(30, 'Fewer rows, %', '% fewer rows than the source ever had'),
});
export type ImportLimits = z.infer<typeof importLimitsSchema>;

/** What a checked import would do, in numbers. */
export interface ImportFacts {
  readonly rows: number;
  /** Items that the source brought before; 0 where it brought none yet. */
  readonly known: number;
  readonly fresh: number;
  /** Items that the file no longer has and that would be archived or out of stock. */
  readonly missing: number;
  /** Items whose price changes by more than the limit. */
  readonly prices: number;
  readonly rejected: number;
  /** The fewest rows that an applied import of the source had; undefined where there is none. */
  readonly fewest: number | undefined;
  /** Whether the file ends in the middle of a record. */
  readonly cutOff: boolean;
}

/** Why an import is held for review, as facts. */
export type ImportAlarm =
  | { readonly alarm: 'cutOff' }
  | { readonly alarm: 'fewer'; readonly count: number; readonly of: number; readonly limit: number }
  | {
      readonly alarm: 'missing' | 'rejected' | 'fresh' | 'prices';
      readonly count: number;
      readonly of: number;
      readonly limit: number;
    };

/** What looks wrong about an import before it is applied. */
export function importAlarms(facts: ImportFacts, limits: ImportLimits): ImportAlarm[] {
  const beyond = (count: number, of: number, limit: number) => count > 0 && count * 100 > limit * of;
  const { rows, known, fresh, missing, prices, rejected, fewest, cutOff } = facts;
  const alarms: ImportAlarm[] = cutOff ? [{ alarm: 'cutOff' }] : [];
  if (fewest !== undefined && fewest > 0 && beyond(fewest - rows, fewest, limits.fewer))
    alarms.push({ alarm: 'fewer', count: rows, of: fewest, limit: limits.fewer });
  const shares = [
    ['missing', missing, known],
    ['prices', prices, known],
    ['rejected', rejected, rows],
    // The first import brings nothing but new items.
    ['fresh', known === 0 ? 0 : fresh, known],
  ] as const;
  for (const [alarm, count, of] of shares)
    if (beyond(count, of, limits[alarm])) alarms.push({ alarm, count, of, limit: limits[alarm] });
  return alarms;
}

const items = (count: number) => counted(count, 'item');

/** Why an import is held, in words. */
export function importAlarmText(alarm: ImportAlarm): string {
  switch (alarm.alarm) {
    case 'cutOff':
      return 'The file ends in the middle of a record, as if it was truncated';
    case 'fewer':
      return `The file has ${alarm.count} rows; the source never had fewer than ${alarm.of} (limit: ${alarm.limit} % fewer)`;
    case 'missing':
      return `${alarm.count} of ${items(alarm.of)} of this source are missing from the file (limit ${alarm.limit} %)`;
    case 'prices':
      return `${alarm.count} of ${items(alarm.of)} would get a very different price (limit ${alarm.limit} %)`;
    case 'rejected':
      return `${alarm.count} of ${alarm.of} rows are rejected (limit ${alarm.limit} %)`;
    case 'fresh':
      return `${items(alarm.count)} would be new beside the ${alarm.of} of this source (limit ${alarm.limit} %)`;
  }
}

/** Whether an amount changes by more than so many per cent. @param before, after amounts, "12.50 EUR" */
export function changesBeyond(before: string, after: string, limit: number): boolean {
  const [from, to] = [before, after].map((text) => Number(/^-?\d+(?:\.\d+)?/.exec(text.trim())?.[0]));
  if (from === undefined || to === undefined || Number.isNaN(from) || Number.isNaN(to)) return false;
  return from === 0 ? to !== 0 : Math.abs((to - from) / from) * 100 > limit;
}

/**
 * Whether delimited text ends in the middle of a record: its last line is not ended, and has fewer separators than the line
 * before it, or a quotation mark that is not closed.
 * @param tail the last part of the file, at least two lines @param separator what stands between values
 */
export function endsWithinRecord(tail: string, separator: string): boolean {
  if (tail === '' || /[\r\n]$/.test(tail)) return false;
  const lines = tail.split(/\r\n|\n|\r/).filter((line) => line !== '');
  const [before, last] = [lines.at(-2), lines.at(-1)];
  if (before === undefined || last === undefined) return false;
  const count = (line: string, what: string) => line.split(what).length - 1;
  if (count(last, '"') % 2 === 1 && count(before, '"') % 2 === 0) return true;
  const bare = (line: string) => line.replace(/"(?:[^"]|"")*"/g, '');
  return count(bare(last), separator) < count(bare(before), separator);
}

/** What a rejection says. */
export function rejectionWords(rejection: Rejection): string {
  switch (rejection.reason) {
    case 'noSku':
      return 'has no SKU';
    case 'noKey':
      return `has no ${rejection.key.toUpperCase()}, the identifier of this source’s items`;
    case 'noName':
      return 'has no name';
    case 'price':
      return `price “${rejection.found}” is not an amount`;
    case 'number':
      return `${rejection.attribute} “${rejection.found}” is not a number`;
    case 'negative':
      return `${rejection.attribute} “${rejection.found}” is below zero`;
    case 'yesNo':
      return `${rejection.attribute} “${rejection.found}” is neither yes nor no`;
    case 'tooLong':
      return `${rejection.attribute} is longer than the ${formatNumber(MAX_TEXT)} characters a value may have`;
    case 'currencies':
      return `${rejection.attribute} “${rejection.found}” is not in ${rejection.currency}, the currency of the row`;
    case 'repeated':
      return `repeats the SKU ${rejection.sku} of row ${rejection.row}`;
    case 'decimalSign':
      return `${rejection.attribute} “${rejection.found}” swaps the decimal separators of its column; accept the repair or correct it`;
    case 'formula':
      return `“${rejection.column}” holds a formula, “${rejection.found.slice(0, 40)}”, which is not calculated`;
  }
}
