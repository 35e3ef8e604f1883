import { type Remedy, remediesFor } from '../../core/fixes/rankedFixes';
import { holdingIn } from '../evaluation/blockerCounts';
import type { FeedWork } from '../evaluation/feedContext';

/** The remedies for a feed's draft, cheapest first. */
export async function feedRemedies(work: FeedWork): Promise<Remedy[]> {
  const title = work.sheet.fields.find(({ role }) => role === 'title')?.code;
  return remediesFor(work.draft.listings, await holdingIn(work), work.labelOf, (issue) => {
    if (work.sheet.fields.find(({ code }) => code === issue.field)?.kind === 'category') return 'categories';
    if (issue.check === 'review') return 'rules';
    if (issue.field === title) return 'titles';
    if (issue.check === 'missing' && work.plans.draft.fields[issue.field] === undefined) return 'fields';
    return issue.check === 'choice' ? 'fields' : 'items';
  });
}
