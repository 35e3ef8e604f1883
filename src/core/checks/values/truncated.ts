import { isCut } from '../../catalog/value';
import type { CheckModule, ValueCheckMaker } from '../check';

interface Facts {
  cut: Record<never, never>;
}

const onValue: ValueCheckMaker<Facts> = (field) => (value, report) => {
  if (isCut(value)) report('cut', 'blocker', field.code, {});
};

/** Nothing of the value is missing: it has not grown to the limit at which values are cut. */
export const truncated: CheckModule<Facts> = {
  issues: {
    cut: {
      about: 'A value grew past the maximum length and was cut.',
      severity: ['blocker'],
      on: 'all fields',
      example: {},
      title: (label) => `${label} grew too long`,
      words: (_facts, label) => `${label} grew past the maximum length and was cut; check its steps`,
    },
  },
  onValue,
};
