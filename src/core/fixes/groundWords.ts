import { counted } from '../formatting/formatting';
import type { InferredValue } from './valueInference';

/** Where an inferred value comes from, in words, with how often that was right. */
export function groundWords({ ground, trial }: InferredValue): string {
  const tried = trial.of > 0 ? `; right for ${trial.right} of ${trial.of} that have it` : '';
  switch (ground.from) {
    case 'siblings':
      return `as ${counted(ground.count, 'other variant')} of its family${tried}`;
    case 'sku':
      return `${ground.part} in the SKU means it ${ground.count} times elsewhere${tried}`;
    case 'name':
      return `the name has ${ground.word}${tried}`;
    case 'category':
      return `as all ${ground.count} others in ${ground.category}${tried}`;
    case 'escaping':
      return 'characters not allowed in an address are encoded';
    case 'site':
      return `on ${ground.site}, as all ${ground.count} other addresses`;
  }
}
