import { asList, type Value } from '../../core/catalog/value';
import { fieldWithRole, type Sheet } from '../../core/channels/sheet';
import { dueText } from '../../core/ledger/messages';
import { priceChange } from '../../core/ledger/review';
import type { FeedContext } from '../evaluation/feedContext';
import { changedListings, type DueListing, type FeedDue, titleOf, valuesByField } from '../submissions/due';

/** One line of what would change: a value, or a listing that comes or goes. */
export interface ChangeLine {
  readonly sku: string;
  readonly lead: boolean;
  readonly title: string;
  /** The field, where lines of several are shown. */
  readonly field: string | undefined;
  readonly before: string;
  readonly after: string;
  /** In per cent, of a price. */
  readonly change: number | undefined;
}

const shown = (value: Value | undefined): string => asList(value).join(' · ');

export function figuresOf({ counts, listings }: FeedDue) {
  const of = (reason: DueListing['reason']) =>
    listings.filter((one) => one.due === 'withdraw' && one.reason === reason).length;
  const parts = [
    [of('leftOut'), 'excluded'],
    [of('archived'), 'archived or deleted'],
    [of('blocked'), 'blocked'],
  ] as const;
  const gone = parts.flatMap(([count, words]) => (count > 0 ? [`${count} ${words}`] : [])).join(', ');
  const changed = counts.changed + counts.mended + counts.again;
  const why = [
    ...(counts.mended > 0 ? [`${counts.mended} rejected before`] : []),
    ...(counts.again > 0 ? [`${counts.again} without a result`] : []),
  ].join(', ');
  const rest = counts.unchanged + counts.left + counts.refused + counts.drafted;
  const still = [
    ...(counts.refused > 0 ? [`${counts.refused} rejected and unchanged`] : []),
    ...(counts.drafted > 0 ? [`${counts.drafted} saved as drafts`] : []),
    ...(counts.left > 0 ? [`${counts.left} blocked, not withdrawn`] : []),
  ].join(', ');
  return [
    { code: 'new', words: 'new', more: 'not at the channel yet', count: counts.new },
    { code: 'changed', words: 'changed', more: why || 'since accepted', count: changed },
    { code: 'withdraw', words: 'withdrawn', more: gone || 'nothing to withdraw', count: counts.withdraw },
    {
      code: 'unchanged',
      words: counts.waiting > 0 ? 'not sent now' : 'unchanged',
      more: counts.waiting > 0 ? `${counts.waiting} in progress` : still || 'not sent again',
      count: rest + counts.waiting,
    },
  ];
}

/** Everything that would change, a line each, by the tabs it stands under. */
export function linesOf(due: FeedDue, work: FeedContext): Map<string, ChangeLine[]> {
  const { sheet, listings } = due;
  const price = fieldWithRole(sheet, 'price')?.code;
  const tabs = new Map<string, ChangeLine[]>();
  const add = (tab: string, line: ChangeLine) => {
    const known = tabs.get(tab);
    if (known) known.push(line);
    else tabs.set(tab, [line]);
  };
  const bySku = new Map(listings.map((one) => [one.sku, one]));
  for (const { sku, changes } of changedListings(due)) {
    const one = bySku.get(sku);
    const title = titleOf(sheet, sku, valuesByField(sheet, one?.out?.values ?? []));
    if (changes.length === 0 && one?.due === 'changed')
      add('all', {
        sku,
        lead: one?.out?.relation === 'lead',
        title,
        field: 'Family',
        before: 'a variant below its family',
        after: one?.out?.relation ? 'a variant below its family' : 'a single listing',
        change: undefined,
      });
    for (const change of changes) {
      const line: ChangeLine = {
        sku,
        lead: one?.out?.relation === 'lead',
        title,
        field: work.labelOf(change.field),
        before: shown(change.before),
        after: shown(change.after),
        change: change.field === price ? priceChange(change) : undefined,
      };
      add(change.field, line);
      add('all', line);
    }
  }
  const complete = ({ sku, out, values, due: what, reason }: DueListing): ChangeLine => ({
    sku,
    lead: out?.relation === 'lead',
    title: titleOf(sheet, sku, out ? valuesByField(sheet, out.values) : values),
    field: undefined,
    before: what === 'withdraw' ? shown(values?.[price ?? '']) : '',
    after:
      what === 'withdraw'
        ? { blocked: 'blocked', leftOut: 'excluded', archived: 'archived or deleted' }[reason ?? 'archived']
        : what === 'new' || what === 'mended' || what === 'again' || what === 'renew' || what === 'drafted'
          ? shown(out?.values[sheet.fields.findIndex(({ code }) => code === price)])
          : dueText[what],
    change: undefined,
  });
  for (const one of listings) {
    if (one.due === 'new') add('new', complete(one));
    // Of what the channel never had there is nothing to compare with.
    if ((one.due === 'mended' || one.due === 'again') && !one.values) add(one.due, complete(one));
    if (one.due === 'renew') add('renew', complete(one));
    if (one.due === 'drafted') add('drafted', complete(one));
    if (one.due === 'withdraw') add('withdraw', complete(one));
    if (one.due === 'refused') add('refused', complete(one));
    if (one.due === 'waiting') add('waiting', complete(one));
  }
  const prices = price ? tabs.get(price) : undefined;
  prices?.sort((a, b) => Math.abs(b.change ?? 0) - Math.abs(a.change ?? 0));
  return tabs;
}

const tabLabels: Readonly<Record<string, string>> = {
  all: 'All values',
  new: 'New',
  mended: 'Rejected before',
  again: 'Without a result',
  renew: 'Would expire',
  drafted: 'Drafts there',
  withdraw: 'Withdrawn',
  refused: 'Refused',
  waiting: 'In progress',
};

/** The tabs in the order in which one looks: prices, titles, the fields with most changes, then listings that come and go. */
export function tabsOf(
  lines: ReadonlyMap<string, readonly ChangeLine[]>,
  sheet: Sheet,
  labelOf: (code: string) => string,
) {
  const first = [fieldWithRole(sheet, 'price')?.code, fieldWithRole(sheet, 'title')?.code];
  const fields = [...lines.keys()]
    .filter((code) => !Object.hasOwn(tabLabels, code))
    .sort(
      (a, b) =>
        Number(first.includes(b)) - Number(first.includes(a)) ||
        first.indexOf(a) - first.indexOf(b) ||
        (lines.get(b)?.length ?? 0) - (lines.get(a)?.length ?? 0),
    )
    .slice(0, 4);
  return [...fields, ...Object.keys(tabLabels).filter((code) => lines.has(code))].map((code) => ({
    code,
    label: tabLabels[code] ?? labelOf(code),
    count: lines.get(code)?.length ?? 0,
  }));
}
