import type { Field } from '@/core/channels/sheet';
import { lengthWords } from '@/core/channels/versions';

/** What a field takes, in a few words. */
export function takes(field: Field): string {
  const { length, values, units, pattern, choices, kind } = field;
  const words: string[] = [];
  if (choices) words.push(`one of ${choices.length}`);
  else words.push(kind === 'richText' ? 'text with paragraphs' : kind === 'yesNo' ? 'yes or no' : kind);
  if (length?.least || length?.most) words.push(lengthWords(length));
  if (values) words.push(`${values.least ? `${values.least} to ` : 'up to '}${values.most} values`);
  if (units) words.push(`in ${units.join(' or ')}`);
  if (pattern) words.push(pattern.words);
  if (field.unique) words.push('on one listing only');
  if (field.stable) words.push('never changes');
  return words.join(', ');
}
