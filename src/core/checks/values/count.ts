import { counted } from '../../formatting/formatting';
import type { CheckModule, ValueCheckMaker } from '../check';

interface Facts {
  tooFew: { found: number; least: number };
  tooMany: { found: number; most: number };
}

const onValue: ValueCheckMaker<Facts> = (field) => {
  const most = field.values?.most ?? 1;
  const least = field.values?.least ?? 1;
  return (value, report) => {
    const found = typeof value === 'string' ? 1 : value.length;
    if (found < least)
      report('tooFew', field.need === 'must' ? 'blocker' : 'risk', field.code, { found, least });
    if (typeof value === 'object' && value.length > most)
      report('tooMany', 'blocker', field.code, { found: value.length, most });
  };
};

/** A field takes only so many values, and some want several. */
export const count: CheckModule<Facts> = {
  issues: {
    tooFew: {
      about: 'A list has fewer values than required.',
      severity: ['blocker', 'risk'],
      on: 'lists',
      example: { found: 1, least: 3 },
      title: (label) => `${label}: too few`,
      words: ({ found, least }, label) => `${label} has ${counted(found, 'value')}; ${least} is the minimum`,
    },
    tooMany: {
      about: 'A list has more values than allowed.',
      severity: ['blocker'],
      on: 'lists',
      example: { found: 9, most: 5 },
      title: (label) => `${label} has too many values`,
      words: ({ found, most }, label) =>
        `${label} has ${found} values; ${counted(most, 'is', 'are')} allowed`,
    },
  },
  onValue,
};
