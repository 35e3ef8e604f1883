import { letterRuns } from '../../text/letters';
import { type CheckModule, onEach, type ValueCheckMaker } from '../check';

interface Facts {
  capitals: { found: string };
}

/** Of so many letters a word is a longer one. */
const MIN_COUNT = 4;

const onValue: ValueCheckMaker<Facts> = (field) => {
  if (field.role !== 'title') return undefined;
  return onEach((text, report) => {
    const words = letterRuns(text, MIN_COUNT);
    if (words.length < 2) return;
    const loud = words.filter((one) => one === one.toUpperCase() && one !== one.toLowerCase());
    if (loud.length >= 2 && loud.length > words.length / 2)
      report('capitals', 'risk', field.code, { found: loud.slice(0, 3).join(' ') });
  });
};

/** A title that shouts: most of its longer words in capitals. Short ones are often names of sizes and standards. */
export const capitals: CheckModule<Facts> = {
  issues: {
    capitals: {
      about: 'Words in capitals that are not names.',
      severity: ['risk'],
      on: 'titles',
      example: { found: 'BEST POT EVER' },
      title: (label) => `${label} shouts`,
      words: ({ found }, label) => `${label} is written in capitals: “${found}”`,
    },
  },
  onValue,
};
