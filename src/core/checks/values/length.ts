import { lengthIn } from '../../text/length';
import { type CheckModule, onEach, type ValueCheckMaker } from '../check';

interface Facts {
  tooLong: { length: number; most: number; measure: string };
  tooShort: { length: number; least: number; measure: string; advised: boolean };
}

const onValue: ValueCheckMaker<Facts> = (field) => {
  const limits = field.length;
  if (!limits) return undefined;
  const { measure } = limits;
  const most = limits.most ?? Number.POSITIVE_INFINITY;
  const least = limits.least ?? 0;
  const advised = limits.advised ?? 0;
  const floor = Math.max(least, advised);
  const factor = measure === 'bytes' ? 3 : 1;
  const quarter = measure === 'graphemes' ? Number.POSITIVE_INFINITY : 2;
  return onEach((text, report) => {
    // Within these bounds the exact length cannot matter, whatever the signs are.
    if (text.length * factor <= most && text.length >= floor * quarter) return;
    const found = lengthIn(text, measure);
    if (found > most) report('tooLong', 'blocker', field.code, { length: found, most, measure });
    else if (found < least)
      report('tooShort', 'blocker', field.code, { length: found, least, measure, advised: false });
    else if (found < advised)
      report('tooShort', 'tip', field.code, { length: found, least: advised, measure, advised: true });
  });
};

/** Longest, shortest and advised length, in the channel's own measure; a tip where a phone would cut. */
export const length: CheckModule<Facts> = {
  issues: {
    tooLong: {
      about: 'A text is longer than the channel allows.',
      severity: ['blocker'],
      on: 'fields with a length',
      source: 'UAX #29 for graphemes, RFC 3629 for bytes',
      example: { length: 212, most: 150, measure: 'characters' },
      title: (label) => `${label} is too long`,
      words: ({ length, most, measure }, label) => `${label} has ${length} ${measure}; ${most} are allowed`,
    },
    tooShort: {
      about: 'A text is shorter than the minimum or the recommendation.',
      severity: ['blocker', 'tip'],
      on: 'fields with a length',
      example: { length: 12, least: 50, measure: 'characters', advised: false },
      title: (label) => `${label} is short`,
      words: ({ length, least, measure, advised }, label) =>
        `${label} has ${length} ${measure}; ${least} ${advised ? 'are recommended' : 'is the minimum'}`,
    },
  },
  onValue,
};
