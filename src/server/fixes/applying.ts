import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { fieldLabels } from '../../core/channels/sheet';
import { InputError } from '../../core/errors/inputError';
import { type Changes, changesOf, type Picks } from '../../core/fixes/suggestion';
import type { PlanEdit } from '../../core/plans/edit';
import { editWords } from '../../core/plans/editWords';
import type { Plan } from '../../core/plans/plan';
import type { EditDone } from '../catalog/editing';
import { editCells } from '../catalog/itemEdits';
import { db } from '../db/connection';
import { catalogEdit, draftStep } from '../db/schema';
import { loadFeedContext } from '../evaluation/feedContext';
import { otherFeeds } from '../evaluation/otherFeeds';
import { assignGtins } from '../items/gtinRegister';
import { type EditResult, editDraft, plannedFeed } from '../plans/drafts';
import { procedure } from '../rpc/rpc';
import { editsOf } from './effects';
import { suggestedFixOf } from './fixes';
import { shareWords } from './valueChoices';

/** A draft of another feed that was changed as well, and how. */
export interface ChangedElsewhere {
  readonly feed: string;
  readonly name: string;
  readonly words: string;
}

/** Makes an edit in the feeds of the same channel, as far as they have not decided otherwise. */
async function editAlongside(feed: string, edit: PlanEdit, joint: string): Promise<ChangedElsewhere[]> {
  const { head } = await plannedFeed(feed).then(({ plans }) => plans);
  const changed: ChangedElsewhere[] = [];
  for (const { head: other, plans, name, channel } of await otherFeeds(feed)) {
    const open = other.channel === head.channel ? undecided(edit, plans.draft) : undefined;
    if (!open) continue;
    revisionOf(await editDraft(other.code, plans.revision, open, joint));
    changed.push({ feed: other.code, name, words: editWords(open, plans.draft, fieldLabels(channel.sheet)) });
  }
  return changed;
}

/** Of an edit what another plan has not decided for itself; undefined where nothing is left. */
function undecided(edit: PlanEdit, plan: Plan): PlanEdit | undefined {
  const open = <T>(wanted: Readonly<Record<string, T>>, known: Readonly<Record<string, unknown>>) =>
    Object.fromEntries(Object.entries(wanted).filter(([key]) => !Object.hasOwn(known, key)));
  switch (edit.edit) {
    case 'fields': {
      const fields = open(edit.fields, plan.fields);
      return Object.keys(fields).length > 0 ? { ...edit, fields } : undefined;
    }
    case 'place': {
      const placements = open(edit.placements, plan.placements);
      return Object.keys(placements).length > 0 ? { ...edit, placements } : undefined;
    }
    case 'exceptions': {
      const exceptions = open(edit.exceptions, plan.exceptions);
      return Object.keys(exceptions).length > 0 ? { ...edit, exceptions } : undefined;
    }
    case 'perCategory':
      return plan.fields[edit.field] || plan.perCategory[edit.field] ? undefined : edit;
    default:
      return undefined;
  }
}

/** What is to be taken: a cause, and what of its proposal; what is sure where left out. */
export interface FixRequest {
  readonly cause: string;
  readonly picks?: Picks | undefined;
}

const requestedChanges = procedure(
  'requestedChanges',
  async (feed: string, wanted: readonly FixRequest[]): Promise<{ field: string; changes: Changes }[]> => {
    const work = await loadFeedContext(feed);
    if (!work) throw new InputError('noFeed');
    const found: { field: string; changes: Changes }[] = [];
    for (const { cause, picks } of wanted) {
      const proposal = await suggestedFixOf(work, cause);
      if (proposal)
        found.push({ field: proposal.field, changes: changesOf(proposal, work.plans.draft, picks) });
    }
    return found;
  },
);

/** A draft that refused an edit: all that belongs to it is rolled back. */
class Refused extends Error {
  constructor(readonly result: Extract<EditResult, { ok: false }>) {
    super('a draft was changed meanwhile');
  }
}

/** @throws Refused */
function revisionOf(result: EditResult): number {
  if (!result.ok) throw new Refused(result);
  return result.revision;
}

/** Whether a press has been carried out already: it comes again where its answer was lost. */
async function isDone(joint: string): Promise<boolean> {
  const [steps, edits] = await Promise.all([
    db.select({ id: draftStep.id }).from(draftStep).where(eq(draftStep.joint, joint)).limit(1),
    db.select({ id: catalogEdit.id }).from(catalogEdit).where(eq(catalogEdit.joint, joint)).limit(1),
  ]);
  return steps.length + edits.length > 0;
}

/**
 * Takes proposals, each as a person set it or as it stands: into the draft what belongs to the feed, into the catalog what belongs
 * to the items. All of it or nothing, and one undo takes all of it back.
 * @param share makes the same edits in the other feeds that have not decided otherwise
 * @param joint a number of the press, by which it is carried out once
 * @returns what was changed in other drafts and in the catalog; a conflict where a draft was changed meanwhile
 * @throws InputError where a value cannot be taken
 */
export async function applyFixes(
  feed: string,
  revision: number,
  wanted: readonly FixRequest[],
  share: boolean,
  joint: string = randomUUID(),
): Promise<EditResult & { elsewhere?: ChangedElsewhere[]; done?: EditDone[] }> {
  const { plans, sheet } = await plannedFeed(feed);
  if (await isDone(joint)) return { ok: true, revision: plans.revision };
  const all = await requestedChanges(feed, wanted);
  const { edits } = editsOf(plans.draft, all);
  try {
    return await db.transaction(async (tx) => {
      let now = revision;
      const elsewhere: ChangedElsewhere[] = [];
      if (edits.length > 0) now = revisionOf(await editDraft(feed, revision, edits, joint));
      if (share)
        for (const { field, changes } of all) {
          for (const edit of changes.edits) elsewhere.push(...(await editAlongside(feed, edit, joint)));
          const own = sheet.fields.find(({ code }) => code === field);
          if (own && Object.keys(changes.words).length > 0)
            elsewhere.push(...(await shareWords(feed, own, changes.words, joint)));
        }
      const cells = all.flatMap(({ changes }) => changes.cells);
      const numbers = all.flatMap(({ changes }) => changes.numbers);
      const done = [
        ...(cells.length > 0 ? [await editCells(cells)] : []),
        ...(numbers.length > 0 ? [await assignGtins(numbers)] : []),
      ];
      for (const { id } of done) await tx.update(catalogEdit).set({ joint }).where(eq(catalogEdit.id, id));
      return { ok: true as const, revision: now, elsewhere, done };
    });
  } catch (error) {
    if (error instanceof Refused) return error.result;
    throw error;
  }
}
