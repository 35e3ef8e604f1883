import { letterRuns } from '../text/letters';
import { onEach, type ValueCheckMaker } from './check';

/** Of so many letters a word is a longer one. */
const least = 4;

/** A title that shouts: most of its longer words in capitals. Short ones are often names of sizes and standards. */
export const capitals: ValueCheckMaker = (field) => {
  if (field.role !== 'title') return undefined;
  return onEach((text, report) => {
    const words = letterRuns(text, least);
    if (words.length < 2) return;
    const loud = words.filter((one) => one === one.toUpperCase() && one !== one.toLowerCase());
    if (loud.length >= 2 && loud.length > words.length / 2)
      report('capitals', 'risk', field.code, { found: loud.slice(0, 3).join(' ') });
  });
};
