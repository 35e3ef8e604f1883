import { lengthIn } from '../text/length';
import { onEach, type ValueCheckMaker } from './check';

/** Longest, shortest and advised length, in the channel's own measure; a tip where a phone would cut. */
export const length: ValueCheckMaker = (field) => {
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
