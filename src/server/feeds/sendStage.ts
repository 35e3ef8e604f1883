import { asText } from '../../core/catalog/value';
import type { ChannelProblem } from '../db/schema';
import {
  hasWayOut,
  listSubmissions,
  type SubmissionRow,
  submissionEntries,
  toSend,
} from '../submissions/submissions';
import { type FileView, fileView } from './feedFile';
import type { FeedWork } from './work';

export interface SentEntry {
  readonly sku: string;
  readonly title: string;
  readonly answer: 'waiting' | 'accepted' | 'refused';
  readonly problems: readonly (ChannelProblem & { label: string })[];
}

export interface SendStage {
  readonly published: boolean;
  readonly ready: number;
  readonly blocked: number;
  readonly leftOut: number;
  readonly changed: number;
  readonly draftDiffers: boolean;
  /** Whether something takes files of this channel by itself; else they are uploaded by hand. */
  readonly answers: boolean;
  readonly file: FileView;
  readonly submissions: readonly SubmissionRow[];
  readonly current: SubmissionRow | undefined;
  readonly entries: readonly SentEntry[];
  readonly byProblem: readonly { text: string; field: string; count: number }[];
}

/** The Send stage: what would go out, what went out, and what the channel said, at the field it concerns. */
export async function sendStage(work: FeedWork, submissionId: number | undefined): Promise<SendStage> {
  const feed = work.plans.head.code;
  const [{ entries: pending }, submissions] = await Promise.all([toSend(feed), listSubmissions(feed)]);
  const current = submissions.find(({ id }) => id === submissionId) ?? submissions[0];
  const titleField = work.sheet.fields.find(({ role }) => role === 'title')?.code ?? '';
  const entries = current ? await submissionEntries(current.id) : [];
  const count = (state: string) =>
    work.published.listings.filter((listing) => listing.state === state).length;
  const byProblem = new Map<string, { text: string; field: string; count: number }>();
  for (const { problems } of entries)
    for (const { text, field } of problems) {
      const key = `${field}:${text}`;
      byProblem.set(key, {
        text,
        field: field ? work.labelOf(field) : '',
        count: (byProblem.get(key)?.count ?? 0) + 1,
      });
    }
  const order = { refused: 0, waiting: 1, accepted: 2 };
  return {
    published: work.plans.published !== undefined,
    ready: count('ready'),
    blocked: count('blocked'),
    leftOut: count('leftOut'),
    changed: pending.length,
    draftDiffers: work.changes > 0,
    answers: hasWayOut(work.plans.head.channel),
    file: await fileView(work),
    submissions,
    current,
    entries: entries
      .map(
        (entry): SentEntry => ({
          sku: entry.sku,
          title: asText(entry.values[titleField]) || entry.sku,
          answer: entry.answer,
          problems: entry.problems.map((problem) => ({
            ...problem,
            label: problem.field ? work.labelOf(problem.field) : '',
          })),
        }),
      )
      .sort((a, b) => order[a.answer] - order[b.answer] || a.sku.localeCompare(b.sku)),
    byProblem: [...byProblem.values()].sort((a, b) => b.count - a.count),
  };
}
