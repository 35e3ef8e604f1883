import { asText, type Row, type Value } from '../../core/catalog/value';
import { compileTitles, titleLimit } from '../../core/listing/compile';
import type { Listing } from '../../core/listing/evaluate';
import type { Plan } from '../../core/plans/plan';
import { fold } from '../../core/text/folding';
import { lengthIn } from '../../core/text/length';
import { type CompiledTitle, type Title, type TitleLimit, withHandTitles } from '../../core/titles/pattern';
import { identityOf, Memo } from '../runtime/memo';
import type { FeedContext } from './feedContext';

/** What a pattern makes of an item, apart from what somebody wrote by hand. */
export interface BuiltTitle extends Title {
  /** How long the title would be without a limit. */
  readonly full: number;
}

/** A title as its listing has it. */
export interface ShownTitle {
  readonly title: string;
  readonly length: number;
  /** The same for titles that are the same but for letter case and accents. */
  readonly folded: string;
}

export interface TitleMaker {
  /** Two makers that say the same here make the same titles. */
  readonly by: string;
  /** Its patterns, within the limit. */
  readonly compiled: CompiledTitle;
  /**
   * Made once for each item, as long as neither it nor what titles are made by changes.
   * @param written the same title as its listing has it, if it does: it is then kept once
   */
  madeOf(row: Row, written?: Value): BuiltTitle;
  /** @param at the position of the title among the values */
  shownOf(listing: Listing, at: number, row: Row): ShownTitle;
}

type Known = { made: WeakMap<Row, BuiltTitle>; shown: WeakMap<Listing['values'], ShownTitle> };
/** What was made, by what it was made by; the oldest go first. */
const known = new Memo<Known>({ owner: 'titles', maxEntries: 12 });
/** Most titles leave nothing out: they share this. */
const none: readonly string[] = [];

/**
 * What makes the titles of a feed, where what was made before an edit that does not touch them need not be made again.
 * @param title the pattern where no branch has its own; none where left out
 */
export function titleMaker(
  { draft, snapshot, channel, sheet, plans }: FeedContext,
  title: Plan['title'],
  limit: TitleLimit = titleLimit(sheet),
): TitleMaker {
  const { context, placementOf, plan } = draft.compiled;
  // Neither what other fields are filled with nor what comes after titles; placements where they tell which pattern counts.
  const { fields, perCategory, rules, checks, titlesByHand, placements, exceptions, ...others } = plan;
  const by = JSON.stringify([
    plans.head.code,
    limit,
    { ...others, title },
    snapshot.merchant,
    [channel, snapshot.index, snapshot.keywords].map(identityOf),
    ...(Object.keys(plan.titlesIn ?? {}).length > 0 ? [placements, exceptions] : []),
  ]);
  const { made, shown } = known.of(by, () => ({ made: new WeakMap(), shown: new WeakMap() }));
  const patterns = { plan: { ...plan, title }, tree: channel.tree, context, placementOf };
  const compiled = compileTitles(patterns, limit);
  const unlimited = compileTitles(patterns, { most: undefined, measure: limit.measure });
  const madeOf = (row: Row, written?: Value): BuiltTitle => {
    const before = made.get(row);
    if (before) return before;
    const { text, dropped, shortened, abbreviated } = compiled.make(row);
    const now = {
      text: text === written ? written : text,
      dropped: dropped.length === 0 ? none : dropped,
      shortened,
      abbreviated: abbreviated.length === 0 ? none : abbreviated,
      full: lengthIn(unlimited.run(row) ?? '', limit.measure),
    };
    made.set(row, now);
    return now;
  };
  return {
    by,
    compiled,
    madeOf,
    shownOf({ values }, at, row) {
      const before = shown.get(values);
      if (before) return before;
      const written = asText(values[at]);
      const title = written || (madeOf(row).text ?? '');
      const now = { title, length: lengthIn(title, limit.measure), folded: fold(title) };
      // One that is not in the listing is of the item, which may change while the listing stays.
      if (written !== '') shown.set(values, now);
      return now;
    },
  };
}

/** The titles of a draft as its plan fills them in, of which those that were made before are known. */
export function titleMakerCount(work: FeedContext): CompiledTitle | undefined {
  const { title, plan, index } = work.draft.compiled;
  if (!title) return undefined;
  const { madeOf } = titleMaker(work, plan.title);
  return withHandTitles(
    { run: (row) => madeOf(row).text, make: (row) => madeOf(row) },
    plan.titlesByHand ?? {},
    index.slotOf('sku'),
  );
}
