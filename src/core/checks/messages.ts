import type { CheckName, Issue } from './issue';
import { type Facts, issueKinds } from './registry';

/** What an issue says to a person. @param labelOf a field's name in the channel's words */
export function issueWords(issue: Issue, labelOf: (field: string) => string): string {
  const words = issueKinds[issue.check].words as (facts: Facts[CheckName], label: string) => string;
  return words(issue.facts, labelOf(issue.field));
}

/** What a group of issues of one kind and field is called. @param label the field's name in the channel's words */
export const issueTitle = (check: CheckName, label: string): string => issueKinds[check].title(label);

/** Whether a text is the code of a kind of issue. */
export const isCheckName = (code: string): code is CheckName => Object.hasOwn(issueKinds, code);

/** The codes of all kinds of issue. */
export const checkNames = Object.keys(issueKinds) as readonly CheckName[];
