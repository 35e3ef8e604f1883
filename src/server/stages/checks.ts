import { asText } from '../../core/catalog/value';
import { isCompared } from '../../core/checks/comparing';
import type { Issue, Severity } from '../../core/checks/issue';
import { isCheckName, issueTitle } from '../../core/checks/messages';
import type { OwnCheck } from '../../core/checks/ownCheck';
import { gravity, severityWords } from '../../core/checks/severity';
import { noCheckSettings, type SeverityOverride } from '../../core/checks/severityOverrides';
import type { BlockerIndex } from '../../core/fixes/blockerIndex';
import { fixPlan, mostFreed } from '../../core/fixes/fixPlan';
import type { RankedFix } from '../../core/fixes/rankedFixes';
import { isComputed, type SuggestedFix } from '../../core/fixes/suggestion';
import { counted, formatDay } from '../../core/formatting/formatting';
import { ledgerStateText } from '../../core/ledger/messages';
import { completing, shareOf } from '../../core/listing/completeness';
import { isOutside } from '../../core/listing/evaluate';
import { itemNameIn } from '../catalog/snapshot';
import { blockerCounts } from '../evaluation/blockerCounts';
import { type ConditionPreview, conditionPreviewOf, metBy } from '../evaluation/conditionPreview';
import { type FeedContext, loadFeedContext, roleField } from '../evaluation/feedContext';
import { settledStamp } from '../evaluation/otherFeeds';
import { type CheckGroup, commonIssues, lighterIssues } from '../fixes/checkGroups';
import { blockersAt, changesIn, type Effect, listingsAfter, sureEffect } from '../fixes/effects';
import { suggestedFixOf } from '../fixes/fixes';
import { rankedFixesOf } from '../fixes/ranked';
import { type SuggestedFixView, suggestedFixView } from '../fixes/view';
import { ledgerOf } from '../ledger/ledger';
import { procedure } from '../rpc/rpc';
import { identityOf, memoFor } from '../runtime/memo';
import { inSlices } from '../runtime/timeBudget';

export interface CheckedListing {
  readonly sku: string;
  readonly name: string;
  readonly state: string;
  readonly issues: readonly { severity: Severity; words: string; field: string }[];
  readonly answer: string | undefined;
}

/** The check that is open, and what the merchant has said of it. */
export interface OpenCheck {
  readonly key: string;
  readonly title: string;
  /** How serious the merchant takes it; undefined where as the channel does. */
  readonly judged: SeverityOverride | undefined;
  /** The items that have it now, of those that the page is narrowed to. */
  readonly skus: readonly string[];
  /** Two listings with one number are two with one number: that is not to be judged. */
  readonly fixed: boolean;
  /** Whether it compares listings: such may be taken lighter, and block nothing. */
  readonly compared: boolean;
}

/** What the merchant has said of a check, to be taken back. */
export interface WaivedIssue {
  readonly key: string;
  readonly words: string;
  /** Of what is waived, its id. */
  readonly waiver: string | undefined;
}

/** The next changes that are worth most, each with those before it taken. */
export interface NextSet {
  readonly titles: readonly { readonly key: string; readonly field: string; readonly title: string }[];
  readonly frees: number;
  /** Listings that are free after it, and as a share of all that are blocked now. */
  readonly freed: number;
  readonly share: number;
  /** Whether the change was tried; else it is the number of listings that nothing else blocks now. */
  readonly tried: boolean;
  /** Where it frees nothing by itself: what then still blocks its listings. */
  readonly then: Effect['then'];
  /** What it costs: choices, and values that nobody can work out. */
  readonly words: string;
  /** Whether all of it is worked out, so that it can be taken as it stands; undefined while that is being found out. */
  readonly worked: boolean | undefined;
}

/** The check of the merchant's own that is open: a new one, which is not saved yet, or one that is there. */
export interface OwnOpen extends ConditionPreview {
  readonly id: string;
  readonly saved: boolean;
  readonly check: OwnCheck;
  readonly met: Readonly<Record<string, number>>;
}

export interface ChecksStage {
  /** The checks of the merchant's own, by their ids. */
  readonly own: readonly { readonly id: string; readonly words: string; readonly severity: Severity }[];
  readonly ownOpen: OwnOpen | undefined;
  readonly path: readonly NextSet[];
  readonly blocked: number;
  /** After the sets that are shown: how much of what any so many changes could free at most. */
  readonly ofBest: number | undefined;
  readonly open: OpenCheck | undefined;
  readonly said: readonly WaivedIssue[];
  readonly groups: readonly CheckGroup[];
  /** Warnings and tips of most listings, with how many are checked. */
  readonly common: readonly CheckGroup[];
  readonly taken: number;
  readonly listings: readonly CheckedListing[];
  readonly total: number;
  readonly categories: readonly string[];
  /** What would clear the open cause, as far as it can be worked out. */
  readonly proposed: SuggestedFixView | undefined;
  /** Whether something of this is still being worked out: what is there is shown meanwhile. */
  readonly later: boolean;
  /** How much of what helps the listings is there, where it was asked for: it is counted over all of them. */
  readonly complete: CompleteView | undefined;
}

export interface CompleteView {
  /** 0 to 1. */
  readonly share: number;
  /** By the merchant's category, the least complete first. */
  readonly categories: readonly { readonly name: string; readonly share: number }[];
  /** What filling a field wherever it counts would add, the most first. */
  readonly fields: readonly {
    readonly code: string;
    readonly label: string;
    readonly lacking: number;
    readonly gain: number;
  }[];
}

/** How complete the listings of a draft are, counted once for it. */
async function completeView(work: FeedContext): Promise<CompleteView> {
  const { draft, snapshot } = work;
  const slot = snapshot.index.slotOf('category') ?? -1;
  const found = await memoFor(draft, 'completeness', () =>
    inSlices(completing(draft.compiled, draft.listings, snapshot.rows, (row) => asText(row[slot]))),
  );
  return {
    share: shareOf(found),
    categories: [...found.categories]
      .map(([name, one]) => ({ name, share: shareOf(one) }))
      .sort((a, b) => a.share - b.share || a.name.localeCompare(b.name)),
    fields: found.fields.slice(0, 12).map((one) => ({ ...one, label: work.labelOf(one.code) })),
  };
}

/** Which listings the page shows. */
export interface CheckFilter {
  readonly fix?: string | undefined;
  readonly field?: string | undefined;
  readonly category?: string | undefined;
  readonly find?: string | undefined;
  readonly show?: string | undefined;
}

export interface ChecksQuery extends CheckFilter {
  readonly [name: string]: string | undefined;
}

/** Whether a listing, by its place, is one that the page shows. */
export function matchesFilter({ draft, snapshot }: FeedContext, query: CheckFilter): (at: number) => boolean {
  const categorySlot = snapshot.index.slotOf('category') ?? -1;
  const nameOf = itemNameIn(snapshot);
  const wanted = query.find?.toLowerCase() ?? '';
  return (at) => {
    const { listings } = draft;
    const row = snapshot.rows[at];
    if (at >= listings.length || !row) return false;
    const category = asText(row[categorySlot]);
    if (query.category !== undefined && category !== (query.category === '-' ? '' : query.category))
      return false;
    if (query.show && listings.stateAt(at) !== query.show) return false;
    const tells = (wanted: (issue: Issue) => boolean) => listings.issuesAt(at).some(wanted);
    if (query.fix && !tells(({ check, field }) => `${check}:${field}` === query.fix)) return false;
    if (!query.fix && query.field && !tells(({ field }) => field === query.field)) return false;
    return wanted === '' || `${nameOf(at)} ${listings.skuAt(at)}`.toLowerCase().includes(wanted);
  };
}

const MAX_LISTINGS = 300;
/** Sets that are shown. */
const MAX_SETS = 6;
/** Items that one waiver names at most. */
const MAX_WAIVED = 20_000;

/** A new check looks for a word in the field it is about; it holds for nothing until the merchant says which. */
async function ownOpen(work: FeedContext, query: ChecksQuery): Promise<OwnOpen | undefined> {
  const { own } = query;
  if (!own) return undefined;
  const checks = work.plans.draft.checks?.own ?? {};
  const known = Object.hasOwn(checks, own) ? checks[own] : undefined;
  if (!known && own !== 'new') return undefined;
  const about =
    work.sheet.fields.find(({ code }) => code === query.about) ??
    roleField(work.sheet, 'title') ??
    work.sheet.fields[0];
  const check: OwnCheck = known ?? {
    words: query.words?.slice(0, 300) || 'The problem, in your words',
    field: about?.code ?? '',
    severity: 'risk',
    when: { all: [{ field: about?.code ?? '', is: 'contains', value: '' }] },
  };
  const numbers = Object.keys(checks).map((id) => Number(/^own-(\d+)$/.exec(id)?.[1] ?? 0));
  return {
    ...conditionPreviewOf(work),
    id: known ? own : `own-${1 + Math.max(0, ...numbers)}`,
    saved: known !== undefined,
    check,
    met: await metBy(work, check.when),
  };
}

/** What would clear blockers, found once for a draft. */
const fixesOf = (work: FeedContext) => memoFor(work.draft, 'fixes', () => rankedFixesOf(work));

/** What would clear a cause, and what taking it does. */
interface Worked {
  readonly proposal: SuggestedFix;
  readonly effect: Effect;
}

/** What would clear each of the causes that block something, worked out once for a draft. */
type WorkedOut = ReadonlyMap<string, Worked | undefined>;

/** Causes that are worked out beforehand: those that hold most. */
const MAX_WORKED_OUT = 40;

/** The draft that each feed's page asked about last. */
const latest = new Map<string, number>();

/** The draft has been changed meanwhile: it is worked out for the later one. */
class Overtaken extends Error {}

/** @throws Overtaken */
async function workingAll(work: FeedContext): Promise<WorkedOut> {
  const { code } = work.plans.head;
  latest.set(code, identityOf(work.draft));
  const found = new Map<string, Worked | undefined>();
  for (const { key } of (await fixesOf(work)).slice(0, MAX_WORKED_OUT)) {
    if (latest.get(code) !== identityOf(work.draft)) throw new Overtaken();
    const proposal = await suggestedFixOf(work, key);
    found.set(key, proposal && { proposal, effect: await sureEffect(work, proposal) });
  }
  return found;
}

/** @param stamp by which it is known whether other feeds decide as they did */
const fixesInOrder = (work: FeedContext, stamp: string): Promise<WorkedOut> =>
  memoFor(work.draft, 'suggested fixes', () => workingAll(work), stamp);

/** Which changes to make next, of what blocks the listings of a draft. @param worked what is worked out; undefined while it is not */
function pathAhead(
  { together: causes }: BlockerIndex,
  of: readonly RankedFix[],
  worked: WorkedOut | undefined,
): Pick<ChecksStage, 'blocked' | 'ofBest' | 'path'> {
  const fixes = new Map(of.map((one) => [one.key, one]));
  /** What only a person knows is typed listing by listing; all else is one choice. */
  const typed = (cause: string): number => {
    const proposal = worked?.get(cause)?.proposal;
    if (proposal?.way.by === 'items') return proposal.lines.filter(({ sure }) => !sure).length;
    if (proposal) return 0;
    const fix = fixes.get(cause);
    // What is held back is looked at listing by listing as well.
    return fix?.stage === 'items' || fix?.stage === 'rules' ? fix.count : 0;
  };
  const { sets, blocked } = fixPlan({ causes }, (cause) => 1 + typed(cause) / 2, MAX_SETS);
  const last = sets.at(-1);
  return {
    blocked,
    ofBest: last && last.freed / Math.min(blocked, mostFreed({ causes }, last.cleared)),
    path: sets.map(({ causes: own, frees, freed }) => {
      const values = own.reduce((sum, cause) => sum + typed(cause), 0);
      const choices = own.filter((cause) => typed(cause) === 0).length;
      return {
        titles: own.map((key) => ({
          key,
          field: key.slice(key.indexOf(':') + 1),
          title: fixes.get(key)?.title ?? key,
        })),
        frees,
        freed,
        tried: false,
        then: [],
        share: blocked === 0 ? 1 : freed / blocked,
        worked: worked && own.every((cause) => isWhole(worked.get(cause))),
        words: [
          ...(choices > 0 ? [counted(choices, 'choice')] : []),
          ...(values > 0 ? [`${counted(values, 'value')} to review`] : []),
        ].join(', '),
      };
    }),
  };
}

const isWhole = (worked: Worked | undefined): boolean => worked !== undefined && isComputed(worked.proposal);

/**
 * The sets with what they free when they are tried one after another; one that frees nothing is tried again after the others. From
 * the first on that is not worked out as a whole they stay as counted: nobody knows yet what would be taken.
 */
async function pathTried(work: FeedContext, worked: WorkedOut): Promise<ReturnType<typeof pathAhead>> {
  const holding = await blockerCounts(work);
  const ahead = pathAhead(holding, await fixesOf(work), worked);
  const { listings } = work.draft;
  const readyIn = (of: typeof listings): number => {
    let count = 0;
    for (let at = 0; at < of.length; at++) if (of.stateAt(at) === 'ready') count++;
    return count;
  };
  const start = readyIn(listings);
  let taken: Parameters<typeof listingsAfter>[1] = [];
  let path: NextSet[] = [];
  let freed = 0;
  /** Takes a set where it frees something; else what its listings still need besides. */
  const take = async (set: NextSet): Promise<NextSet['then'] | undefined> => {
    const own = set.titles.flatMap(({ key }) => {
      const one = worked.get(key);
      return one ? [changesIn(work, one.proposal)] : [];
    });
    const after = await listingsAfter(work, [...taken, ...own]);
    const now = readyIn(after) - start;
    if (now <= freed) {
      const held = new Set(set.titles.flatMap(({ key }) => holding.causes.get(key)?.blocked ?? []));
      return blockersAt(work, after, held);
    }
    taken = [...taken, ...own];
    const frees = now - freed;
    freed = now;
    path.push({ ...set, frees, tried: true });
    return undefined;
  };
  const open = ahead.path.findIndex((set) => !set.worked);
  const [whole, rest] = open < 0 ? [ahead.path, []] : [ahead.path.slice(0, open), ahead.path.slice(open)];
  const again: NextSet[] = [];
  for (const set of whole) if (await take(set)) again.push(set);
  /** What frees nothing even after all others: it comes last, with what it needs besides. */
  const idle: NextSet[] = [];
  for (const set of again) {
    const then = await take(set);
    if (then) idle.push({ ...set, frees: 0, tried: true, then });
  }
  path.push(...rest, ...idle);
  let sum = 0;
  path = path.map((set) => {
    sum += set.frees;
    return { ...set, freed: sum, share: ahead.blocked === 0 ? 1 : sum / ahead.blocked };
  });
  const asCounted = path.every((set, n) => set.freed === ahead.path[n]?.freed);
  return { ...ahead, ofBest: asCounted ? ahead.ofBest : undefined, path };
}

const triedPath = (work: FeedContext, stamp: string, worked: WorkedOut) =>
  memoFor(work.draft, 'tried fix plans', () => pathTried(work, worked), stamp);

/** A page waits for so long for what is being worked out, in ms; what takes longer comes after it. */
const pageWaits = 100;

/** What comes soon enough for a page; undefined where it does not. */
async function soon<T>(work: Promise<T>): Promise<{ readonly found: T } | undefined> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<undefined>((resolve) => {
    timer = setTimeout(() => resolve(undefined), pageWaits);
  });
  try {
    return await Promise.race([
      work.then(
        (found) => ({ found }),
        () => undefined,
      ),
      late,
    ]);
  } finally {
    clearTimeout(timer);
  }
}

/** Answers when all that a Checks page shows is worked out. */
export const waitForFixes = procedure(
  'waitForFixes',
  async (feed: string, fix: string | undefined): Promise<boolean> => {
    const work = await loadFeedContext(feed);
    if (!work) return false;
    try {
      const stamp = await settledStamp('');
      await triedPath(work, stamp, await fixesInOrder(work, stamp));
    } catch (error) {
      if (!(error instanceof Overtaken)) throw error;
    }
    if (fix) await suggestedFixView(work, fix);
    return true;
  },
);

/** The Checks stage: issues gathered by what would clear them, cheapest first, and the listings that have them. */
export async function checksStage(work: FeedContext, query: ChecksQuery): Promise<ChecksStage> {
  const { draft, snapshot, plans, wordsOf, labelOf } = work;
  const sent = await ledgerOf(plans.head.code);
  const holding = await blockerCounts(work);
  const fixes = await fixesOf(work);
  const blockers = fixes.map(
    (fix): CheckGroup => ({
      key: fix.key,
      field: fix.issue.field,
      title: fix.title,
      severity: 'blocker',
      listings: fix.count,
      frees: fix.frees,
      tried: false,
      stage: fix.stage,
    }),
  );
  const others = memoFor(draft, 'lighter issues', () => lighterIssues(holding, labelOf));
  const taken = draft.listings.taken().length;
  // What most listings have stands once above them; rows show what is particular.
  const common = query.fix ? [] : commonIssues(others, taken);
  const isCommon = new Set(common.map(({ key }) => key));
  const categorySlot = snapshot.index.slotOf('category') ?? -1;
  const nameOf = itemNameIn(snapshot);
  const matches = matchesFilter(work, query);
  const [askedCheck, askedField] = query.fix?.split(':') ?? [];
  const isAsked = ({ check, field }: { check: string; field: string }) =>
    check === askedCheck && field === askedField;
  const listings: CheckedListing[] = [];
  const filtered = [query.category, query.show, query.fix, query.field, query.find].some((one) => one);
  const held = query.fix ? holding.causes.get(query.fix) : undefined;
  /** Of a cause only those it is said of are looked at; all where none is asked for. */
  const positions = query.fix
    ? [...new Set([...(held?.blocked ?? []), ...(held?.told ?? [])])].sort((a, b) => a - b)
    : undefined;
  /** Without a filter the page begins with what the feed takes: of the rest nothing is checked. */
  const isOut = (at: number) => isOutside(draft.listings.reasonAt(at));
  let total = 0;
  if (!filtered) for (let at = 0; at < draft.listings.length; at++) if (!isOut(at)) total++;
  for (let n = 0; n < (positions ?? draft.listings).length; n++) {
    // Without a filter all of them are there, and the first are enough.
    if (!filtered && listings.length >= MAX_LISTINGS) break;
    const at = positions?.[n] ?? n;
    if (filtered ? !matches(at) : isOut(at)) continue;
    if (filtered) total++;
    const listing = listings.length < MAX_LISTINGS ? draft.listings.at(at) : undefined;
    if (!listing) continue;
    const name = nameOf(at);
    const known = sent.get(listing.sku);
    listings.push({
      sku: listing.sku,
      name,
      state: listing.state === 'leftOut' ? `excluded: ${listing.reason}` : listing.state,
      issues: listing.issues
        .filter(
          ({ severity, check, field }) =>
            (severity !== 'tip' || (check === askedCheck && field === askedField)) &&
            !(severity !== 'blocker' && isCommon.has(`${check}:${field}`)),
        )
        .sort((a, b) => Number(isAsked(b)) - Number(isAsked(a)) || gravity[a.severity] - gravity[b.severity])
        .map((issue) => ({ severity: issue.severity, words: wordsOf(issue), field: issue.field })),
      answer: known && ledgerStateText(known),
    });
  }
  const checks = plans.draft.checks ?? noCheckSettings;
  const titleOf = (key: string): string => {
    const [check = '', field = ''] = key.split(':');
    return isCheckName(check) ? issueTitle(check, labelOf(field)) : key;
  };
  const skus = (positions ?? []).flatMap((at) => (matches(at) ? draft.listings.skuAt(at) : []));
  const stamp = await settledStamp('');
  const worked = await soon(fixesInOrder(work, stamp));
  const tried = worked && (await soon(triedPath(work, stamp, worked.found)));
  const proposed = query.fix ? await soon(suggestedFixView(work, query.fix)) : { found: undefined };
  return {
    ...(tried?.found ??
      memoFor(draft, 'fix plans', () => pathAhead(holding, fixes, worked?.found), worked ? stamp : '')),
    later: tried === undefined || proposed === undefined,
    own: Object.entries(checks.own).map(([id, { words, severity }]) => ({ id, words, severity })),
    ownOpen: await ownOpen(work, query),
    open: query.fix
      ? {
          key: query.fix,
          title: titleOf(query.fix),
          judged: checks.severity[query.fix],
          skus: skus.slice(0, MAX_WAIVED),
          fixed: askedCheck === 'duplicate',
          compared: isCompared(askedCheck ?? ''),
        }
      : undefined,
    said: [
      ...Object.entries(checks.severity).map(
        ([key, judged]): WaivedIssue => ({
          key,
          words: `${titleOf(key)}: ${judged === 'off' ? 'off' : severityWords[judged]}`,
          waiver: undefined,
        }),
      ),
      ...Object.entries(checks.waived).map(
        ([id, { check, skus: of, reason, until }]): WaivedIssue => ({
          key: check,
          words: `${titleOf(check)}: waived for ${of.length === 1 ? of[0] : counted(of.length, 'item')}${until ? ` until ${formatDay(until)}` : ''}, “${reason}”`,
          waiver: id,
        }),
      ),
    ],
    groups: [...blockers.map(asTried), ...others],
    common,
    taken,
    listings,
    total,
    categories: memoFor(snapshot, 'categories', () =>
      [...new Set(snapshot.rows.map((row) => asText(row[categorySlot])))].sort(),
    ),
    complete: query.complete ? await completeView(work) : undefined,
    proposed: proposed?.found,
  };

  function asTried(group: CheckGroup): CheckGroup {
    const one = worked?.found.get(group.key);
    return one && isWhole(one) ? { ...group, frees: one.effect.frees, tried: true } : group;
  }

  /** What is no blocker, by check and field. */
}
