import { asText } from '../../core/catalog/value';
import { nameOf, pathName, pathOf } from '../../core/categories/tree';
import { type Field, fieldWithRole } from '../../core/channels/sheet';
import { topTermCode } from '../../core/compose/composition';
import { compileTitles, titleLimit } from '../../core/listing/compile';
import { startingPattern } from '../../core/listing/edit';
import { shortenAtWord } from '../../core/text/fitting';
import { fold } from '../../core/text/folding';
import { lengthIn } from '../../core/text/length';
import { textOfMarkup } from '../../core/text/markup';
import { type LengthStep, lengthSteps, type Twins, twinsOf } from '../../core/titles/lengths';
import type { TitlePattern } from '../../core/titles/pattern';
import { stemsOf } from '../../core/words/stems';
import { keptFor } from '../evaluating/keptFor';
import type { FeedWork } from './work';

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
export type SaidIn = 'title' | 'highlights' | 'description' | 'searchWords' | undefined;

/** What shoppers type for one item, and where its listing says it. */
export interface TermsSaid {
  readonly terms: readonly { readonly term: string; readonly volume: number; readonly said: SaidIn }[];
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
  readonly twins: readonly Twins[];
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
  readonly terms: TermsSaid | undefined;
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

const mostRows = 400;
const mostBranches = 200;
/** Of one item; those that are said nowhere first. */
const mostTerms = 12;
/** The least signs a field must take to hold search words. */
const leastRoom = 15;

/** The Titles stage: the pattern, every title with its length, the same title twice, and how a phone shows it. */
export function titlesStage(
  work: FeedWork,
  sampleSku: string | undefined,
  find: string,
  askedBranch?: string,
): TitlesStage {
  const { sheet, draft, snapshot, plans, channel } = work;
  const { tree } = channel;
  const field = fieldWithRole(sheet, 'title');
  const most = field?.length?.most ?? 150;
  const measure = field?.length?.measure ?? 'characters';
  const { context, placementOf } = draft.compiled;
  const plan = { ...plans.draft, title: plans.draft.title ?? startingPattern };
  const made = { plan, tree, context, placementOf };
  const compiled = compileTitles(made, { ...titleLimit(sheet), most });
  const unlimited = compileTitles(made, { most: undefined, measure });
  const branches = keptFor(draft, 'title branches', branchesOf);
  const branch = branches.find(({ code }) => code === askedBranch);
  const above = branch === undefined ? [] : pathOf(tree, branch.code).reverse();
  const ownedBy = above.find((code) => plans.draft.titlesIn?.[code] !== undefined);
  const pattern: TitlePattern = (ownedBy && plans.draft.titlesIn?.[ownedBy]) || plan.title;
  const at = field ? sheet.fields.indexOf(field) : -1;
  const labels = new Map([
    ['sku', 'SKU'],
    ['family', 'Family'],
    ...(draft.compiled.terms ? [[topTermCode, 'Most searched term'] as const] : []),
    ...snapshot.attributes.map(({ code, label }) => [code, label] as const),
  ]);
  const labelOf = (code: string) => labels.get(code) ?? code;
  const inBranch = branch?.code;
  const { rows, twins, histogram, fit, shortenedCount, droppedCount } = keptFor(
    draft,
    `titles in ${inBranch ?? ''}`,
    titlesOf,
  );
  const sampleAt = sampleSku === undefined ? undefined : snapshot.positionOf(sampleSku);
  const sampleTitle =
    sampleAt === undefined
      ? asText(draft.listings.find(({ state }) => state !== 'leftOut')?.values[at])
      : asText(draft.listings[sampleAt]?.values[at]);
  const shown = field?.length?.phone ? shortenAtWord(sampleTitle, field.length.phone) : sampleTitle;
  const wanted = fold(find);
  return {
    pattern,
    branch,
    patternOf:
      ownedBy === undefined ? undefined : { code: ownedBy, name: nameOf(tree, ownedBy, plans.head.language) },
    branches: branches.slice(0, mostBranches),
    started: plans.draft.title !== undefined || ownedBy !== undefined,
    most,
    measure,
    phone: field?.length?.phone,
    rows: (wanted === ''
      ? rows
      : rows.filter(({ title, sku }) => fold(`${title} ${sku}`).includes(wanted))
    ).slice(0, mostRows),
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
    const i = sampleAt ?? draft.listings.findIndex(({ state }) => state !== 'leftOut');
    return { row: snapshot.rows[i], listing: draft.listings[i] };
  }

  function termsOfSample(): TermsSaid | undefined {
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
      terms: [...all.filter(({ said }) => said === undefined), ...saidTerms].slice(0, mostTerms),
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
            (length?.most ?? 250) >= leastRoom,
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
    const listing = sampleAt === undefined ? undefined : draft.listings[sampleAt];
    if (!row || !listing) return undefined;
    const made = compiled.make(row).text ?? '';
    const hand = plans.draft.titlesByHand?.[listing.sku];
    return {
      sku: listing.sku,
      title: hand?.text ?? made,
      pattern: made,
      byHand: hand && (hand.instead === made ? 'same' : 'changed'),
    };
  }

  function placeOf(i: number): string | undefined {
    const { categoryAt } = draft.compiled;
    return categoryAt < 0 ? undefined : asText(draft.listings[i]?.values[categoryAt]);
  }

  /** Every branch of the tree that listings of the draft are under. */
  function branchesOf(): TitleBranch[] {
    const counts = new Map<string, number>();
    draft.listings.forEach(({ state }, i) => {
      const place = state === 'leftOut' ? undefined : placeOf(i);
      if (place) counts.set(place, (counts.get(place) ?? 0) + 1);
    });
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

  /** Every title of the draft, the longest first, with what they are together. */
  function titlesOf() {
    const rows: TitleRow[] = [];
    snapshot.rows.forEach((row, i) => {
      const listing = draft.listings[i];
      if (!listing || listing.state === 'leftOut') return;
      if (inBranch !== undefined && !pathOf(tree, placeOf(i) ?? '').includes(inBranch)) return;
      const made = compiled.make(row);
      const hand = plans.draft.titlesByHand?.[listing.sku];
      const title = asText(listing.values[at]) || (made.text ?? '');
      const length = lengthIn(title, measure);
      rows.push({
        sku: listing.sku,
        title,
        length,
        full: lengthIn(unlimited.run(row) ?? '', measure),
        dropped: made.dropped.map(labelOf),
        shortened: made.shortened === undefined ? undefined : labelOf(made.shortened),
        abbreviated: made.abbreviated,
        over: length > most,
        byHand: hand && (hand.instead === (made.text ?? '') ? 'same' : 'changed'),
      });
    });
    rows.sort((a, b) => b.full - a.full);
    return {
      rows,
      twins: twinsOf(rows, fold),
      histogram: lengthSteps(
        rows.map(({ full }) => full),
        most,
      ),
      fit: rows.filter(({ over, shortened }) => !over && shortened === undefined).length,
      shortenedCount: rows.filter(({ shortened }) => shortened !== undefined).length,
      droppedCount: rows.filter(({ dropped }) => dropped.length > 0).length,
    };
  }
}
