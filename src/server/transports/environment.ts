import { notInArray } from 'drizzle-orm';
import { type SubmissionCause, submission } from '../db/schema';

/** Where a submission goes: what is tried at the channel's test account changes nothing of what the channel is known to have. */
export const environmentOf = ({ cause }: { readonly cause: SubmissionCause }): 'live' | 'test' =>
  cause === 'test' ? 'test' : 'live';

/** Of submissions that changed what shoppers see: neither tried nor saved as drafts. */
export const isLive = notInArray(submission.cause, ['test', 'draft'] satisfies SubmissionCause[]);
