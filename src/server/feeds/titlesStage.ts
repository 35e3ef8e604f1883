import { asText } from '../../core/catalog/value';
import { nameOf, pathName, pathOf } from '../../core/categories/tree';
import { fieldWithRole } from '../../core/channels/sheet';
import { compileTitles, titleLimit } from '../../core/listing/compile';
import { startingPattern } from '../../core/listing/edit';
import { shortenAtWord } from '../../core/text/fitting';
import { fold } from '../../core/text/folding';
import { lengthIn } from '../../core/text/length';
import { type LengthStep, lengthSteps, type Twins, twinsOf } from '../../core/titles/lengths';
import type { TitlePattern } from '../../core/titles/pattern';
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
  readonly attributes: readonly { code: string; label: string }[];
  readonly absent: readonly string[];
}

const mostRows = 400;
const mostBranches = 200;

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
    attributes: [...labels].map(([code, label]) => ({ code, label })),
    absent:
      sampleAt === undefined
        ? []
        : snapshot.index.codes.filter((_, slot) => snapshot.rows[sampleAt]?.[slot] === undefined),
  };

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
