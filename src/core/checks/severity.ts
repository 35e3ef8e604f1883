/** How serious an issue is: a blocker keeps the listing from being sent. */
export type Severity = 'blocker' | 'risk' | 'tip';

/** What pages call it. */
export const severityWords: Readonly<Record<Severity, string>> = {
  blocker: 'blocker',
  risk: 'warning',
  tip: 'tip',
};

/** What stops a listing comes first. */
export const gravity: Readonly<Record<Severity, number>> = { blocker: 0, risk: 1, tip: 2 };
