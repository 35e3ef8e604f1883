import { asText, type Row } from '../../core/catalog/value';
import { nameOf, pathName, pathOf } from '../../core/categories/tree';
import { type Field, fieldWithRole } from '../../core/channels/sheet';
import { topTermCode } from '../../core/compose/composition';
import { titleLimit } from '../../core/listing/compile';
import type { Listings } from '../../core/listing/listings';
import { BATCH_ROWS, type Steps } from '../../core/listing/steps';
import { textOfMarkup } from '../../core/markup/markup';
import { startingPattern } from '../../core/plans/edit';
import { shortenAtWord } from '../../core/text/fitting';
import { fold } from '../../core/text/folding';
import { lengthIn } from '../../core/text/length';
import {
  type DuplicateTitles,
  duplicateTitles,
  type LengthStep,
  lengthSteps,
} from '../../core/titles/lengths';
import type { TitlePattern } from '../../core/titles/pattern';
import { stemsOf } from '../../core/words/stems';
import type { FeedContext } from '../evaluation/feedContext';
import { type BuiltTitle, type ShownTitle, titleMaker } from '../evaluation/titles';
import { Memo, memoFor } from '../runtime/memo';
import { inSlices } from '../runtime/timeBudget';

export interface TitleRow {
  readonly sku: string;
  readonly title: string;
  readonly length: number;
  readonly full: number;
  readonly dropped: readonly string[];
  readonly shortened: string | undefined;
  readonly abbreviated: readonly string[];
  readonly over: boolean;
  /** Written by hand; and whether the pattern would make another title by now than it did then. */
  readonly byHand: 'same' | 'changed' | undefined;
}

/** A branch of the channel's tree with listings under it. */
export interface TitleBranch {
  readonly code: string;
  /** From the root to it. */
  readonly name: string;
  readonly count: number;
  /** Whether it has a pattern of its own. */
  readonly own: boolean;
}

/** Where a listing says a term. */
export type TermUse = 'title' | 'highlights' | 'description' | 'searchWords' | undefined;

/** What shoppers type for one item, and where its listing says it. */
export interface TermUses {
  readonly terms: readonly { readonly term: string; readonly volume: number; readonly said: TermUse }[];
  readonly total: number;
  readonly saidCount: number;
  /** Share of the searches whose term is said, 0 to 1. */
  readonly share: number;
}

export interface TitlesStage {
  /** The pattern at hand: the feed's, or the one that counts in the chosen branch. */
  readonly pattern: TitlePattern;
  /** The chosen branch; and the branch whose pattern counts there, undefined where it is the feed's. */
  readonly branch: TitleBranch | undefined;
  readonly patternOf: { readonly code: string; readonly name: string } | undefined;
  /** Those with a pattern of their own first, then by how many listings they have. */
  readonly branches: readonly TitleBranch[];
  readonly started: boolean;
  readonly most: number;
  readonly measure: string;
  readonly phone: number | undefined;
  readonly rows: readonly TitleRow[];
  readonly total: number;
  readonly fit: number;
  readonly shortenedCount: number;
  readonly droppedCount: number;
  readonly histogram: readonly LengthStep[];
  /** Titles on several listings, those on most first; at most a hundred of them. */
  readonly twins: readonly DuplicateTitles[];
  readonly twinCount: number;
  readonly phoneText: { shown: string; rest: string } | undefined;
  /** The item at hand: its title, what the pattern makes, and whether it was written by hand. */
  readonly current:
    | {
        readonly sku: string;
        readonly title: string;
        readonly pattern: string;
        readonly byHand: TitleRow['byHand'];
      }
    | undefined;
  /** What shoppers type for the item at hand; undefined where no list of the feed's language is there. */
  readonly terms: TermUses | undefined;
  /** Which field search words fill by themselves, and which could be filled so. */
  readonly searchWords: {
    readonly field: string | undefined;
    readonly never: readonly string[];
    readonly fields: readonly { readonly code: string; readonly label: string }[];
    readonly value: string;
    readonly most: number | undefined;
    readonly measure: string;
    readonly length: number;
  };
  readonly attributes: readonly { code: string; label: string }[];
  readonly absent: readonly string[];
}

/** One item's title as its listing has it, and as the pattern makes it. */
interface TitleOfItem {
  readonly sku: string;
  readonly title: string;
  readonly shown: ShownTitle;
  readonly made: BuiltTitle;
}

/** All titles, the longest first, with what is counted of them. */
interface TitlesTogether extends Pick<TitlesStage, 'histogram' | 'fit' | 'shortenedCount' | 'droppedCount'> {
  readonly rows: readonly TitleOfItem[];
  readonly twins: ReturnType<typeof duplicateTitles>;
}

/** All titles of a feed as they were counted last, by feed and branch, and the listings they were counted of. */
const lastTitles = new Memo<
  { readonly by: string; readonly together: TitlesTogether },
  readonly [Listings, readonly Row[]]
>({ owner: 'last titles', maxEntries: 12 });

const MAX_ROWS = 400;
const MAX_BRANCHES = 200;
/** Of one item; those that are said nowhere first. */
const MAX_TERMS = 12;
/** The least signs a field must take to hold search words. */
const MIN_ROOM = 15;

/** The Titles stage: the pattern, every title with its length, the same title twice, and how a phone shows it. */
export async function titlesStage(
  work: FeedContext,
  sampleSku: string | undefined,
  find: string,
  askedBranch?: string,
): Promise<TitlesStage> {
  const { sheet, draft, snapshot, plans, channel } = work;
  const { tree } = channel;
  const field = fieldWithRole(sheet, 'title');
  const most = field?.length?.most ?? 150;
  const measure = field?.length?.measure ?? 'characters';
  const title = plans.draft.title ?? startingPattern;
  const { by, compiled, madeOf, shownOf } = titleMaker(work, title, { ...titleLimit(sheet), most });
  const branches = memoFor(draft, 'title branches', branchesOf);
  const branch = branches.find(({ code }) => code === askedBranch);
  const above = branch === undefined ? [] : pathOf(tree, branch.code).reverse();
  const ownedBy = above.find((code) => plans.draft.titlesIn?.[code] !== undefined);
  const pattern: TitlePattern = (ownedBy && plans.draft.titlesIn?.[ownedBy]) || title;
  const at = field ? sheet.fields.indexOf(field) : -1;
  const labels = new Map([
    ['sku', 'SKU'],
    ['family', 'Family'],
    ...(draft.compiled.terms ? [[topTermCode, 'Most searched keyword'] as const] : []),
    ...snapshot.attributes.map(({ code, label }) => [code, label] as const),
  ]);
  const labelOf = (code: string) => labels.get(code) ?? code;
  const inBranch = branch?.code;
  const { rows, twins, histogram, fit, shortenedCount, droppedCount } = await memoFor(
    draft,
    'titles of a branch',
    titlesTogether,
    inBranch,
  );
  const sampleAt = sampleSku === undefined ? undefined : snapshot.positionOf(sampleSku);
  const sampleTitle = asText(sampleListing().listing?.values[at]);
  const shown = field?.length?.phone ? shortenAtWord(sampleTitle, field.length.phone) : sampleTitle;
  const wanted = fold(find);
  return {
    pattern,
    branch,
    patternOf:
      ownedBy === undefined ? undefined : { code: ownedBy, name: nameOf(tree, ownedBy, plans.head.language) },
    branches: branches.slice(0, MAX_BRANCHES),
    started: plans.draft.title !== undefined || ownedBy !== undefined,
    most,
    measure,
    phone: field?.length?.phone,
    rows: (wanted === ''
      ? rows
      : rows.filter(({ shown, sku }) => `${shown.folded} ${fold(sku)}`.includes(wanted))
    )
      .slice(0, MAX_ROWS)
      .map(rowOf),
    total: rows.length,
    fit,
    shortenedCount,
    droppedCount,
    histogram,
    twins: twins.groups,
    twinCount: twins.total,
    phoneText: field?.length?.phone ? { shown, rest: sampleTitle.slice(shown.length) } : undefined,
    current: currentOf(),
    terms: termsOfSample(),
    searchWords: searchWordsOf(),
    attributes: [...labels].map(([code, label]) => ({ code, label })),
    absent:
      sampleAt === undefined
        ? []
        : snapshot.index.codes.filter((_, slot) => snapshot.rows[sampleAt]?.[slot] === undefined),
  };

  function sampleListing() {
    const i = sampleAt ?? draft.listings.first((i) => !draft.listings.isLeftOut(i));
    return { row: snapshot.rows[i], listing: draft.listings.at(i) };
  }

  function termsOfSample(): TermUses | undefined {
    const { terms, index } = draft.compiled;
    const { row, listing } = sampleListing();
    if (!terms || !row || !listing) return undefined;
    const read = (code: string) => asText(row[index.slotOf(code) ?? -1]);
    const found = terms.forItem(read('category'), `${sampleTitle} ${read('name')}`);
    const textIn = (is: (field: Field) => boolean) => {
      const found = sheet.fields.findIndex(is);
      return found < 0 ? '' : asText(listing.values[found]);
    };
    const filled = plans.draft.searchWords?.field;
    const places = (
      [
        ['title', sampleTitle],
        ['highlights', textIn(({ code }) => code === 'highlights')],
        ['description', textOfMarkup(textIn(({ role }) => role === 'description'))],
        ['searchWords', filled === undefined ? '' : textIn(({ code }) => code === filled)],
      ] as const
    ).map(([name, text]) => [name, stemsOf(text, terms.language)] as const);
    const all = found.map(({ term, volume, stems }) => ({
      term,
      volume,
      said: places.find(([, said]) => stems.every((stem) => said.has(stem)))?.[0],
    }));
    const searches = (some: readonly { volume: number }[]) =>
      some.reduce((sum, { volume }) => sum + volume, 0);
    const saidTerms = all.filter(({ said }) => said !== undefined);
    return {
      terms: [...all.filter(({ said }) => said === undefined), ...saidTerms].slice(0, MAX_TERMS),
      total: all.length,
      saidCount: saidTerms.length,
      share: all.length === 0 ? 1 : searches(saidTerms) / Math.max(1, searches(all)),
    };
  }

  function searchWordsOf(): TitlesStage['searchWords'] {
    const filled = sheet.fields.find(({ code }) => code === plans.draft.searchWords?.field);
    const value = filled ? sampleListing().listing?.values[sheet.fields.indexOf(filled)] : undefined;
    const text = asText(value);
    return {
      field: filled?.code,
      never: plans.draft.searchWords?.never ?? [],
      fields: sheet.fields
        .filter(
          ({ kind, role, choices, length }) =>
            kind === 'text' &&
            role === undefined &&
            choices === undefined &&
            (length?.most ?? 250) >= MIN_ROOM,
        )
        .map(({ code, label }) => ({ code, label })),
      value: text,
      most: filled?.length?.most,
      measure: filled?.length?.measure ?? 'characters',
      length: lengthIn(text, filled?.length?.measure ?? 'characters'),
    };
  }

  function currentOf(): TitlesStage['current'] {
    const row = sampleAt === undefined ? undefined : snapshot.rows[sampleAt];
    const listing = sampleAt === undefined ? undefined : draft.listings.at(sampleAt);
    if (!row || !listing) return undefined;
    const created = compiled.make(row).text ?? '';
    const hand = plans.draft.titlesByHand?.[listing.sku];
    return {
      sku: listing.sku,
      title: hand?.text ?? created,
      pattern: created,
      byHand: hand && (hand.instead === created ? 'same' : 'changed'),
    };
  }

  function placeOf(i: number): string | undefined {
    const { categoryAt } = draft.compiled;
    return categoryAt < 0 ? undefined : asText(draft.listings.valueAt(i, categoryAt));
  }

  /** Every branch of the tree that listings of the draft are under. */
  function branchesOf(): TitleBranch[] {
    const counts = new Map<string, number>();
    for (let i = 0; i < draft.listings.length; i++) {
      const place = draft.listings.isLeftOut(i) ? undefined : placeOf(i);
      if (place) counts.set(place, (counts.get(place) ?? 0) + 1);
    }
    const under = new Map<string, number>(Object.keys(plans.draft.titlesIn ?? {}).map((code) => [code, 0]));
    for (const [place, count] of counts)
      for (const code of pathOf(tree, place)) under.set(code, (under.get(code) ?? 0) + count);
    return [...under]
      .map(([code, count]) => ({
        code,
        name: pathName(tree, code, plans.head.language),
        count,
        own: plans.draft.titlesIn?.[code] !== undefined,
      }))
      .sort((a, b) => Number(b.own) - Number(a.own) || b.count - a.count || (a.name < b.name ? -1 : 1));
  }

  /** All titles; as they were counted last where no edit since has touched one of them. */
  async function titlesTogether(): Promise<TitlesTogether> {
    const key = `${plans.head.code} ${inBranch ?? ''}`;
    const { rows } = snapshot;
    const known = lastTitles.withDependencies(key);
    if (known?.value.by === by && (await inSlices(comparingTitles(...known.dependencies))))
      return known.value.together;
    const together = await inSlices(countingTitles());
    lastTitles.set(key, { by, together }, draft.listings, rows);
    return together;
  }

  /** Whether no title is another than it was, nor made otherwise. */
  function* comparingTitles(before: Listings, rowsBefore: readonly Row[]): Steps<boolean> {
    if (before.length !== draft.listings.length) return false;
    for (let i = 0; i < before.length; i++) {
      if (i % BATCH_ROWS === 0) yield;
      const [was, is] = [rowsBefore[i], snapshot.rows[i]];
      if (!sameTitle(before, i) || !was || !is) return false;
      if (was !== is && JSON.stringify(madeOf(was)) !== JSON.stringify(madeOf(is))) return false;
    }
    return true;
  }

  function sameTitle(before: Listings, i: number): boolean {
    const { listings, compiled } = draft;
    if (listings.same(before, i)) return true;
    const sameValue = (field: number) => before.valueAt(i, field) === listings.valueAt(i, field);
    return (
      before.skuAt(i) === listings.skuAt(i) &&
      before.isLeftOut(i) === listings.isLeftOut(i) &&
      sameValue(at) &&
      (inBranch === undefined || sameValue(compiled.categoryAt))
    );
  }

  /** Every title of the draft, the longest first, with what they are together. */
  function* countingTitles(): Steps<TitlesTogether> {
    const byLength = new Map<number, TitleOfItem[]>();
    const lengths: number[] = [];
    let [fit, shortenedCount, droppedCount] = [0, 0, 0];
    for (const [i, row] of snapshot.rows.entries()) {
      if (i % BATCH_ROWS === 0) yield;
      const listing = draft.listings.isLeftOut(i) ? undefined : draft.listings.at(i);
      if (!listing) continue;
      if (inBranch !== undefined && !pathOf(tree, placeOf(i) ?? '').includes(inBranch)) continue;
      const created = madeOf(row, listing.values[at]);
      const shown = shownOf(listing, at, row);
      const one = { sku: listing.sku, title: shown.title, shown, made: created };
      const others = byLength.get(created.full);
      if (others) others.push(one);
      else byLength.set(created.full, [one]);
      lengths.push(created.full);
      if (created.shortened !== undefined) shortenedCount++;
      else if (shown.length <= most) fit++;
      if (created.dropped.length > 0) droppedCount++;
    }
    yield;
    const rows = [...byLength].sort(([one], [other]) => other - one).flatMap(([, some]) => some);
    yield;
    const twins = duplicateTitles(rows, ({ shown }) => shown.folded);
    yield;
    return { rows, twins, histogram: lengthSteps(lengths, most), fit, shortenedCount, droppedCount };
  }

  function rowOf({ sku, shown, made }: TitleOfItem): TitleRow {
    const hand = plans.draft.titlesByHand?.[sku];
    return {
      sku,
      title: shown.title,
      length: shown.length,
      full: made.full,
      dropped: made.dropped.map(labelOf),
      shortened: made.shortened === undefined ? undefined : labelOf(made.shortened),
      abbreviated: made.abbreviated,
      over: shown.length > most,
      byHand: hand && (hand.instead === (made.text ?? '') ? 'same' : 'changed'),
    };
  }
}
