import { asText } from '../../core/catalog/value';
import { isCompared } from '../../core/checks/comparing';
import { type CheckName, gravity, type Severity } from '../../core/checks/issue';
import { type Judged, noJudgement } from '../../core/checks/judgement';
import type { OwnCheck } from '../../core/checks/own';
import { checkTitles } from '../../core/checks/words';
import { standing } from '../../core/ledger/words';
import { completing, shareOf } from '../../core/listing/completeness';
import { blockedBy } from '../../core/listing/figures';
import { isWorkedOut } from '../../core/remedies/proposal';
import { mostFreed, remedyPath } from '../../core/remedies/sets';
import { keptFor } from '../evaluating/keptFor';
import { inSlices } from '../listings/patience';
import { ledgerOf } from '../submissions/ledger';
import { feedRemedies } from './board';
import { type Lookable, lookableOf, metBy } from './lookable';
import { type ProposalView, proposalOf, proposalView } from './proposals';
import { type FeedWork, roleField } from './work';

export interface CheckGroup {
  readonly key: string;
  readonly field: string;
  readonly title: string;
  readonly severity: Severity;
  readonly listings: number;
  readonly frees: number;
  readonly stage: string;
}

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
  readonly judged: Judged | undefined;
  /** The items that have it now. */
  readonly skus: readonly string[];
  /** Two listings with one number are two with one number: that is not to be judged. */
  readonly fixed: boolean;
}

/** What the merchant has said of a check, to be taken back. */
export interface Said {
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
  /** What it costs: choices, and values that nobody can work out. */
  readonly words: string;
  /** Whether all of it is worked out, so that it can be taken as it stands. */
  readonly worked: boolean;
}

/** The check of the merchant's own that is open: a new one, which is not saved yet, or one that is there. */
export interface OwnOpen extends Lookable {
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
  readonly said: readonly Said[];
  readonly groups: readonly CheckGroup[];
  readonly listings: readonly CheckedListing[];
  readonly total: number;
  readonly categories: readonly string[];
  /** What would clear the open cause, as far as it can be worked out. */
  readonly proposed: ProposalView | undefined;
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
async function completeView(work: FeedWork): Promise<CompleteView> {
  const { draft, snapshot } = work;
  const slot = snapshot.index.slotOf('category') ?? -1;
  const found = await keptFor(draft, 'completeness', () =>
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
  readonly remedy?: string | undefined;
  readonly field?: string | undefined;
  readonly category?: string | undefined;
  readonly find?: string | undefined;
  readonly show?: string | undefined;
}

export interface ChecksQuery extends CheckFilter {
  readonly [name: string]: string | undefined;
}

/** Whether a listing, by its place, is one that the page shows. */
export function matchesFilter({ draft, snapshot }: FeedWork, query: CheckFilter): (at: number) => boolean {
  const categorySlot = snapshot.index.slotOf('category') ?? -1;
  const nameSlot = snapshot.index.slotOf('name') ?? -1;
  const wanted = query.find?.toLowerCase() ?? '';
  return (at) => {
    const listing = draft.listings[at];
    const row = snapshot.rows[at];
    if (!listing || !row) return false;
    const category = asText(row[categorySlot]);
    if (query.category !== undefined && category !== (query.category === '-' ? '' : query.category))
      return false;
    if (query.show && listing.state !== query.show) return false;
    if (query.remedy && !listing.issues.some(({ check, field }) => `${check}:${field}` === query.remedy))
      return false;
    if (!query.remedy && query.field && !listing.issues.some(({ field }) => field === query.field))
      return false;
    return wanted === '' || `${asText(row[nameSlot])} ${listing.sku}`.toLowerCase().includes(wanted);
  };
}

const mostListings = 300;
/** Sets that are shown. */
const mostSets = 6;
/** Items that one waiver names at most. */
const mostWaived = 20_000;

/** A new check begins with the field it is about being filled, which is so everywhere: the merchant says what is wrong. */
async function ownOpen(work: FeedWork, query: ChecksQuery): Promise<OwnOpen | undefined> {
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
    words: query.words?.slice(0, 300) || 'What is wrong, in your words',
    field: about?.code ?? '',
    severity: 'risk',
    when: { all: [{ field: about?.code ?? '', is: 'contains', value: '' }] },
  };
  const numbers = Object.keys(checks).map((id) => Number(/^own-(\d+)$/.exec(id)?.[1] ?? 0));
  return {
    ...lookableOf(work),
    id: known ? own : `own-${1 + Math.max(0, ...numbers)}`,
    saved: known !== undefined,
    check,
    met: await metBy(work, check.when),
  };
}

/** What would clear blockers, found once for a draft. */
const remediesOf = (work: FeedWork) => keptFor(work.draft, 'remedies', () => feedRemedies(work));

/** Which changes to make next, of what blocks the listings of a draft. */
function pathAhead(
  work: FeedWork,
): Pick<ChecksStage, 'blocked' | 'ofBest'> & { path: readonly Omit<NextSet, 'worked'>[] } {
  const causes = blockedBy(work.draft.listings);
  const remedies = new Map(remediesOf(work).map((one) => [one.key, one]));
  /** What only a person knows is typed listing by listing; all else is one choice. */
  const typed = (cause: string): number => {
    const remedy = remedies.get(cause);
    return remedy?.stage === 'items' ? remedy.skus.length : 0;
  };
  const { sets, blocked } = remedyPath({ causes }, (cause) => 1 + typed(cause) / 2, mostSets);
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
          title: remedies.get(key)?.title ?? key,
        })),
        frees,
        freed,
        share: blocked === 0 ? 1 : freed / blocked,
        words: [
          choices > 0 ? `${choices} ${choices === 1 ? 'choice' : 'choices'}` : '',
          values > 0 ? `${values} ${values === 1 ? 'value' : 'values'} to look at` : '',
        ]
          .filter((one) => one !== '')
          .join(', '),
      };
    }),
  };
}

/** Of sets of changes whether all of each is worked out. */
async function withWorkedOut(work: FeedWork, path: readonly Omit<NextSet, 'worked'>[]): Promise<NextSet[]> {
  const result: NextSet[] = [];
  for (const set of path) {
    let worked = true;
    for (const { key } of set.titles) {
      if (!worked) break;
      const proposal = await proposalOf(work, key);
      worked = proposal !== undefined && isWorkedOut(proposal);
    }
    result.push({ ...set, worked });
  }
  return result;
}

/** The Checks stage: issues gathered by what would clear them, cheapest first, and the listings that have them. */
export async function checksStage(work: FeedWork, query: ChecksQuery): Promise<ChecksStage> {
  const { draft, snapshot, plans, wordsOf, labelOf } = work;
  const sent = await ledgerOf(plans.head.code);
  const blockers = remediesOf(work).map(
    (remedy): CheckGroup => ({
      key: remedy.key,
      field: remedy.issue.field,
      title: remedy.title,
      severity: 'blocker',
      listings: remedy.skus.length,
      frees: remedy.frees,
      stage: remedy.stage,
    }),
  );
  const others = keptFor(draft, 'lighter issues', lighterIssues);
  const categorySlot = snapshot.index.slotOf('category') ?? -1;
  const nameSlot = snapshot.index.slotOf('name') ?? -1;
  const matches = matchesFilter(work, query);
  const [askedCheck, askedField] = query.remedy?.split(':') ?? [];
  const isAsked = ({ check, field }: { check: string; field: string }) =>
    check === askedCheck && field === askedField;
  const listings: CheckedListing[] = [];
  let total = 0;
  draft.listings.forEach((listing, at) => {
    if (!matches(at)) return;
    const name = asText(snapshot.rows[at]?.[nameSlot]);
    total++;
    if (listings.length >= mostListings) return;
    const known = sent.get(listing.sku);
    listings.push({
      sku: listing.sku,
      name,
      state: listing.state === 'leftOut' ? `left out: ${listing.reason}` : listing.state,
      issues: listing.issues
        .filter(
          ({ severity, check, field }) =>
            severity !== 'tip' || (check === askedCheck && field === askedField),
        )
        .sort((a, b) => Number(isAsked(b)) - Number(isAsked(a)) || gravity[a.severity] - gravity[b.severity])
        .map((issue) => ({ severity: issue.severity, words: wordsOf(issue), field: issue.field })),
      answer: known && standing(known),
    });
  });
  const checks = plans.draft.checks ?? noJudgement;
  const titleOf = (key: string): string => {
    const [check = '', field = ''] = key.split(':');
    const title = Object.hasOwn(checkTitles, check) ? checkTitles[check as CheckName] : undefined;
    return title?.(labelOf(field)) ?? key;
  };
  const skus = query.remedy
    ? draft.listings.flatMap(({ sku, issues }) => (issues.some(isAsked) ? [sku] : []))
    : [];
  const ahead = keptFor(draft, 'remedy path', () => pathAhead(work));
  return {
    ...ahead,
    path: await withWorkedOut(work, ahead.path),
    own: Object.entries(checks.own).map(([id, { words, severity }]) => ({ id, words, severity })),
    ownOpen: await ownOpen(work, query),
    open: query.remedy
      ? {
          key: query.remedy,
          title: titleOf(query.remedy),
          judged: checks.severity[query.remedy],
          skus: skus.slice(0, mostWaived),
          fixed: isCompared(askedCheck ?? ''),
        }
      : undefined,
    said: [
      ...Object.entries(checks.severity).map(
        ([key, judged]): Said => ({
          key,
          words: `${titleOf(key)}: ${judged === 'off' ? 'not made' : `a ${judged}`}`,
          waiver: undefined,
        }),
      ),
      ...Object.entries(checks.waived).map(
        ([id, { check, skus: of, reason, until }]): Said => ({
          key: check,
          words: `${titleOf(check)}: waived for ${of.length === 1 ? of[0] : `${of.length} items`}${until ? ` until ${until}` : ''}, “${reason}”`,
          waiver: id,
        }),
      ),
    ],
    groups: [...blockers, ...others],
    listings,
    total,
    categories: [...new Set(snapshot.rows.map((row) => asText(row[categorySlot])))].sort(),
    complete: query.complete ? await completeView(work) : undefined,
    proposed: query.remedy ? await proposalView(work, query.remedy) : undefined,
  };

  /** What is no blocker, by check and field. */
  function lighterIssues() {
    const groups = new Map<string, CheckGroup & { listings: number }>();
    for (const { issues } of draft.listings)
      for (const { check, field, severity } of issues) {
        if (severity === 'blocker') continue;
        const key = `${check}:${field}`;
        groups.set(key, {
          key,
          field,
          title: checkTitles[check](labelOf(field)),
          severity,
          listings: (groups.get(key)?.listings ?? 0) + 1,
          frees: 0,
          stage: 'fields',
        });
      }
    return [...groups.values()].sort((a, b) => b.listings - a.listings);
  }
}
