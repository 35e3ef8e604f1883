import { fold } from '../text/folding';
import type { ValueCheckMaker } from './check';

/** A list that holds an entry twice: a highlight said again, a picture shown again. */
export const entryTwice: ValueCheckMaker = (field) => {
  if (!field.values && field.kind !== 'pictures') return undefined;
  const isPictures = field.kind === 'pictures';
  return (value, report) => {
    if (typeof value === 'string' || value.length < 2) return;
    const seen = new Set<string>();
    for (const entry of value) {
      const key = isPictures ? entry : fold(entry);
      if (seen.has(key)) return report('entryTwice', 'tip', field.code, { found: entry });
      seen.add(key);
    }
  };
};
