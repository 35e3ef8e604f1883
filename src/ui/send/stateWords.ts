/** A submission's state as a person says it. */
export const stateWords = {
  queued: 'waiting to be sent',
  sending: 'being sent',
  waiting: 'the channel is working on it',
  answered: 'answered',
  failed: 'not delivered',
} as const;
