import type { EntryAnswer, SubmissionCause, SubmissionState } from '@/server/db/schema';

/** A submission's state as a person says it. */
export const stateLabels: Readonly<Record<SubmissionState, string>> = {
  planning: 'being prepared',
  held: 'held for review',
  queued: 'waiting to be sent',
  sending: 'being sent',
  paused: 'paused',
  waiting: 'waiting for the channel',
  answered: 'answered',
  failed: 'not delivered',
  stopped: 'stopped',
};

/** What made a submission. */
export const causeLabels: Readonly<Record<SubmissionCause, string>> = {
  hand: 'manual',
  schedule: 'scheduled',
  quick: 'automatic: prices or stock changed',
  back: 'restored',
  test: 'test account',
  draft: 'saved as drafts',
};

/** What came of one listing, and how it is coloured. */
export const answerLabels: Readonly<Record<EntryAnswer, readonly [words: string, tone: string]>> = {
  waiting: ['waiting', 'muted'],
  accepted: ['accepted', 'tone-ready'],
  drafted: ['saved as a draft', 'tone-draft'],
  refused: ['rejected', 'tone-blocker'],
  inReview: ['in review', 'tone-draft'],
  withdrawn: ['withdrawn', 'muted'],
  silent: ['no result', 'tone-risk'],
  failed: ['not sent', 'tone-risk'],
};

/** Whether something is still to come of a submission. */
export const isUnderWay = (state: SubmissionState): boolean =>
  ['planning', 'held', 'queued', 'sending', 'paused', 'waiting'].includes(state);
