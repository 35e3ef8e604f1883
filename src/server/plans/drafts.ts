import { and, desc, eq, gt, max } from 'drizzle-orm';
import { fieldLabels, type Sheet } from '../../core/channels/sheet';
import { InputError } from '../../core/errors/inputError';
import { applyEdit, type PlanEdit } from '../../core/plans/edit';
import { editWords } from '../../core/plans/editWords';
import { emptyPlan, type Plan, planOfFeed, readPlan } from '../../core/plans/plan';
import { currentUser, recordActivity } from '../auth/authorize';
import { type LastEdit, undoEdit } from '../catalog/editing';
import { channelOf } from '../channels/channels';
import { db, type Transaction } from '../db/connection';
import { catalogEdit, draft, draftStep, feed, planVersion, savedDraft } from '../db/schema';
import { enqueue } from '../jobs/queue';

export interface FeedHead {
  readonly code: string;
  readonly channel: string;
  readonly country: string;
  readonly language: string;
  readonly currency: string;
}

export interface FeedPlans {
  readonly head: FeedHead;
  readonly draft: Plan;
  readonly revision: number;
  readonly published: Plan | undefined;
  readonly version: number;
  readonly publishedAt: Date | undefined;
  readonly undoWords: string | undefined;
}

export async function listFeeds(): Promise<FeedHead[]> {
  return db.select().from(feed).orderBy(feed.position);
}

export async function isFeed(code: string): Promise<boolean> {
  const [found] = await db.select({ code: feed.code }).from(feed).where(eq(feed.code, code));
  return found !== undefined;
}

/** A feed with its draft and what is published; undefined where there is no such feed. */
export async function feedPlans(code: string): Promise<FeedPlans | undefined> {
  const [[head], [own], [latest], [step]] = await Promise.all([
    db.select().from(feed).where(eq(feed.code, code)),
    db.select().from(draft).where(eq(draft.feed, code)),
    db
      .select()
      .from(planVersion)
      .where(eq(planVersion.feed, code))
      .orderBy(desc(planVersion.version))
      .limit(1),
    db
      .select({ words: draftStep.words })
      .from(draftStep)
      .where(eq(draftStep.feed, code))
      .orderBy(desc(draftStep.id))
      .limit(1),
  ]);
  if (!head || !own) return undefined;
  return {
    head,
    draft: planOfFeed(own.plan, code),
    revision: own.revision,
    published: latest && planOfFeed(latest.plan, code),
    version: latest?.version ?? 0,
    publishedAt: latest?.publishedAt,
    undoWords: step?.words,
  };
}

/** A feed's plans and the sheet they are made for. @throws InputError where there is no such feed */
export async function plannedFeed(code: string): Promise<{ plans: FeedPlans; sheet: Sheet }> {
  const plans = await feedPlans(code);
  if (!plans) throw new InputError('noFeed');
  return { plans, sheet: (await channelOf(plans.head.channel)).sheet };
}

export type EditResult =
  | { ok: true; revision: number }
  | { ok: false; reason: 'conflict'; revision: number; words: string[] }
  | { ok: false; reason: 'nothing' };

/** What was changed in a draft since a revision, the newest first, in words. */
async function since(
  tx: Transaction,
  { feed: code, revision: now }: { feed: string; revision: number },
  revision: number,
): Promise<string[]> {
  const steps = await tx
    .select({ words: draftStep.words })
    .from(draftStep)
    .where(eq(draftStep.feed, code))
    .orderBy(desc(draftStep.id))
    .limit(Math.max(1, now - revision));
  return steps.map(({ words }) => words);
}

/** A feed that was never published is counted by its draft. */
async function countUnpublished(tx: Transaction, code: string): Promise<void> {
  const [published] = await tx
    .select({ version: planVersion.version })
    .from(planVersion)
    .where(eq(planVersion.feed, code))
    .limit(1);
  if (!published) await enqueue(tx, 'evaluateFeeds', {});
}

/**
 * Puts an edit into the draft, or several that are taken back together. Where someone else saved since `revision`, nothing is written and the answer says
 * what they changed; sending the same edit with the newer revision takes it over on top of theirs.
 * @param joint what one press has in common: edits with it are undone together, and an edit that comes twice with it is made once
 */
export async function editDraft(
  code: string,
  revision: number,
  given: PlanEdit | readonly PlanEdit[],
  joint?: string,
): Promise<EditResult> {
  const edits = [given].flat();
  const person = await currentUser();
  const result = await db.transaction(async (tx): Promise<EditResult & { words?: string[] | string }> => {
    const [own] = await tx.select().from(draft).where(eq(draft.feed, code)).for('update');
    if (!own) return { ok: false, reason: 'nothing' };
    if (own.revision !== revision) {
      // Sent again because its answer was lost: it is there already.
      if (joint !== undefined && (await isSaved(tx, code, joint)))
        return { ok: true, revision: own.revision, words: '' };
      const words = await since(tx, own, revision);
      return { ok: false, reason: 'conflict', revision: own.revision, words };
    }
    const labels = fieldLabels((await channelOf(own.plan.channel)).sheet);
    let { plan } = own;
    const stated: string[] = [];
    for (const edit of edits) {
      stated.push(editWords(edit, plan, labels));
      plan = applyEdit(plan, edit);
    }
    const words = stated.join('; ');
    await tx.insert(draftStep).values({
      feed: code,
      words: words.slice(0, 300),
      plan: own.plan,
      at: new Date(),
      joint: joint ?? null,
    });
    await tx
      .update(draft)
      .set({ plan: readPlan(plan), revision: revision + 1 })
      .where(eq(draft.feed, code));
    await countUnpublished(tx, code);
    return { ok: true, revision: revision + 1, words };
  });
  if (result.ok && result.words) await recordActivity(person, String(result.words), code);
  return result;
}

/** Whether a draft has the step of a press already. */
async function isSaved(tx: Transaction, code: string, joint: string): Promise<boolean> {
  const [step] = await tx
    .select({ id: draftStep.id })
    .from(draftStep)
    .where(and(eq(draftStep.joint, joint), eq(draftStep.feed, code)))
    .limit(1);
  return step !== undefined;
}

/** Takes the last edit of the draft back; refused where somebody changed the draft since `revision`, saying what. */
export async function undoDraft(code: string, revision: number): Promise<EditResult> {
  return db.transaction(async (tx): Promise<EditResult> => {
    const [own] = await tx.select().from(draft).where(eq(draft.feed, code)).for('update');
    const [step] = await tx
      .select()
      .from(draftStep)
      .where(eq(draftStep.feed, code))
      .orderBy(desc(draftStep.id))
      .limit(1);
    if (!own || !step) return { ok: false, reason: 'nothing' };
    if (own.revision !== revision)
      return { ok: false, reason: 'conflict', revision: own.revision, words: await since(tx, own, revision) };
    await putBack(tx, own, step);
    if (step.joint !== null) {
      await undoSteps(tx, step.joint);
      await undoEdits(tx, step.joint);
    }
    return { ok: true, revision: own.revision + 1 };
  });
}

type DraftRow = typeof draft.$inferSelect;
type StepRow = typeof draftStep.$inferSelect;

/** Puts a draft back to what it was before a step. */
async function putBack(tx: Transaction, own: DraftRow, step: StepRow): Promise<void> {
  await tx.delete(draftStep).where(eq(draftStep.id, step.id));
  await tx
    .update(draft)
    .set({ plan: step.plan, revision: own.revision + 1 })
    .where(eq(draft.feed, own.feed));
  await countUnpublished(tx, own.feed);
}

/**
 * Takes back the steps of all drafts that one press changed.
 * @throws InputError where one of them was changed since; nothing is undone then
 */
async function undoSteps(tx: Transaction, joint: string): Promise<void> {
  const steps = await tx
    .select()
    .from(draftStep)
    .where(eq(draftStep.joint, joint))
    .orderBy(desc(draftStep.id));
  for (const step of steps) {
    const [own] = await tx.select().from(draft).where(eq(draft.feed, step.feed)).for('update');
    const [last] = await tx
      .select({ id: max(draftStep.id) })
      .from(draftStep)
      .where(eq(draftStep.feed, step.feed));
    if (!own) continue;
    if (last?.id !== step.id)
      throw new InputError('draftChangedSince', { feed: step.feed, words: step.words });
    await putBack(tx, own, step);
  }
}

/** Takes back the edits of the catalog that one press made. @throws InputError where what they changed was changed since */
async function undoEdits(tx: Transaction, joint: string): Promise<void> {
  for (const { id } of await tx
    .select({ id: catalogEdit.id })
    .from(catalogEdit)
    .where(and(eq(catalogEdit.joint, joint), eq(catalogEdit.undone, false))))
    await undoEdit(id);
}

/** Takes an edit of the catalog back, the last one where none is named, with the drafts that the same press changed. */
export const undoJointEdit = (id?: number): Promise<LastEdit> =>
  db.transaction(async (tx) => {
    const done = await undoEdit(id);
    const [edit] = await tx
      .select({ joint: catalogEdit.joint })
      .from(catalogEdit)
      .where(eq(catalogEdit.id, done.id));
    if (edit?.joint) {
      await undoSteps(tx, edit.joint);
      await undoEdits(tx, edit.joint);
    }
    return done;
  });

/** Makes the draft the newest published version. */
export async function publishDraft(
  code: string,
  revision: number,
  words: string,
): Promise<EditResult & { version?: number }> {
  const person = await currentUser();
  const result = await db.transaction(async (tx): Promise<EditResult & { version?: number }> => {
    const [own] = await tx.select().from(draft).where(eq(draft.feed, code)).for('update');
    if (!own) return { ok: false, reason: 'nothing' };
    if (own.revision !== revision)
      return { ok: false, reason: 'conflict', revision: own.revision, words: [] };
    const [latest] = await tx
      .select({ version: planVersion.version, plan: planVersion.plan })
      .from(planVersion)
      .where(eq(planVersion.feed, code))
      .orderBy(desc(planVersion.version))
      .limit(1);
    // Pressed twice, or by two people at once: what is published already is not published again.
    if (latest && JSON.stringify(latest.plan) === JSON.stringify(own.plan))
      return { ok: true, revision, version: latest.version };
    const version = (latest?.version ?? 0) + 1;
    await tx
      .insert(planVersion)
      .values({ feed: code, version, plan: own.plan, publishedAt: new Date(), words: words.slice(0, 300) });
    await tx.delete(draftStep).where(eq(draftStep.feed, code));
    await enqueue(tx, 'evaluateFeeds', {});
    return { ok: true, revision, version };
  });
  if (result.ok) await recordActivity(person, `published version ${result.version}`, code);
  return result;
}

/** Puts the draft back to what is published (or to nothing, where nothing is); can be undone. */
export async function discardDraft(code: string, revision: number): Promise<EditResult> {
  const plans = await feedPlans(code);
  if (!plans) return { ok: false, reason: 'nothing' };
  const { country, language, currency, channel } = plans.head;
  return editDraft(code, revision, {
    edit: 'plan',
    plan: plans.published ?? emptyPlan(channel, { country, language, currency }),
  });
}

export interface VersionRow {
  readonly version: number;
  readonly publishedAt: Date;
  readonly words: string;
}

export async function listVersions(code: string): Promise<VersionRow[]> {
  return db
    .select({ version: planVersion.version, publishedAt: planVersion.publishedAt, words: planVersion.words })
    .from(planVersion)
    .where(and(eq(planVersion.feed, code), gt(planVersion.version, 0)))
    .orderBy(desc(planVersion.version));
}

/** Brings an earlier version back into the draft; publishing it is a further step. */
export async function restoreVersion(code: string, version: number, revision: number): Promise<EditResult> {
  const [found] = await db
    .select()
    .from(planVersion)
    .where(and(eq(planVersion.feed, code), eq(planVersion.version, version)));
  return found
    ? editDraft(code, revision, { edit: 'plan', plan: found.plan })
    : { ok: false, reason: 'nothing' };
}

export interface SavedDraft {
  readonly name: string;
  readonly at: Date;
}

/** The drafts of a feed that were left under a name, the latest first. */
export const listSavedDrafts = (code: string): Promise<SavedDraft[]> =>
  db
    .select({ name: savedDraft.name, at: savedDraft.at })
    .from(savedDraft)
    .where(eq(savedDraft.feed, code))
    .orderBy(desc(savedDraft.at));

/** Leaves the draft under a name and goes on from what is published. One of the same name is written over. */
export async function saveDraft(code: string, revision: number, name: string): Promise<EditResult> {
  const trimmed = name.trim();
  if (trimmed === '') throw new InputError('draftWithoutName');
  const plans = await feedPlans(code);
  if (!plans) return { ok: false, reason: 'nothing' };
  if (JSON.stringify(plans.draft) === JSON.stringify(plans.published)) throw new InputError('nothingToLeave');
  const left = await discardDraft(code, revision);
  if (!left.ok) return left;
  const row = { feed: code, name: trimmed, plan: plans.draft, at: new Date() };
  await db
    .insert(savedDraft)
    .values(row)
    .onDuplicateKeyUpdate({ set: { plan: row.plan, at: row.at } });
  return left;
}

/** Takes a draft up again that was left; what the draft is now is kept for undo. */
export async function resumeDraft(code: string, revision: number, name: string): Promise<EditResult> {
  const mine = and(eq(savedDraft.feed, code), eq(savedDraft.name, name));
  const [found] = await db.select().from(savedDraft).where(mine);
  if (!found) throw new InputError('noLeftDraft', { name });
  const taken = await editDraft(code, revision, { edit: 'plan', plan: found.plan });
  if (taken.ok) await db.delete(savedDraft).where(mine);
  return taken;
}

/** The plan of a version; undefined where there is none of that number. */
export async function planOfVersion(code: string, version: number): Promise<Plan | undefined> {
  const [found] = await db
    .select({ plan: planVersion.plan })
    .from(planVersion)
    .where(and(eq(planVersion.feed, code), eq(planVersion.version, version)));
  return found && planOfFeed(found.plan, code);
}
