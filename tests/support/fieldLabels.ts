/** Fields of sheets with the attribute that a person would fill each with, and how often the suggested one is right. */
import { readFileSync } from 'node:fs';
import { startingAttributes } from '../../src/core/catalog/attributes';
import { fieldSchema } from '../../src/core/channels/sheet';
import { suggestForField } from '../../src/core/channels/suggestions';
import type { English } from '../../src/core/words/forms';

export interface FieldResult {
  readonly language: string;
  readonly label: string;
  readonly right: string;
  readonly found: string;
  readonly rank: number;
  readonly confidence: number;
}

/** What is suggested for every labelled field, from its name and kind alone: no role, no values, every attribute filled. */
export function fieldResults(
  file: 'held' | 'further' | 'third' | 'fourth',
  english?: English,
): FieldResult[] {
  const filled = new Map(startingAttributes.map(({ code }) => [code, 100]));
  return readFileSync(`tests/data/labels/fields-${file}.tsv`, 'utf8')
    .trimEnd()
    .split('\n')
    .map((line, at) => {
      const [language = '', label = '', kind = '', right = ''] = line.split('\t');
      const field = fieldSchema.parse({ code: `field_${at}`, label, kind, need: 'may', meaning: label });
      const found = suggestForField(field, startingAttributes, filled, undefined, 3, english);
      return {
        language,
        label,
        right,
        found: found[0]?.attribute ?? '-',
        rank: found.findIndex(({ attribute }) => attribute === right),
        confidence: found[0]?.score ?? 0,
      };
    });
}
