import { type RankedFix, rankedFixes } from '../../core/fixes/rankedFixes';
import { blockerCounts } from '../evaluation/blockerCounts';
import type { FeedContext } from '../evaluation/feedContext';

/** The fixes for a feed's draft, cheapest first. */
export async function rankedFixesOf(work: FeedContext): Promise<RankedFix[]> {
  const title = work.sheet.fields.find(({ role }) => role === 'title')?.code;
  return rankedFixes(work.draft.listings, await blockerCounts(work), work.labelOf, (issue) => {
    if (work.sheet.fields.find(({ code }) => code === issue.field)?.kind === 'category') return 'categories';
    if (issue.check === 'review') return 'rules';
    if (issue.field === title) return 'titles';
    if (issue.check === 'missing' && work.plans.draft.fields[issue.field] === undefined) return 'fields';
    return issue.check === 'choice' ? 'fields' : 'items';
  });
}
