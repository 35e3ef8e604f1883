import type { ValueCheckMaker } from './check';

/** A field takes only so many values, and some want several. */
export const count: ValueCheckMaker = (field) => {
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
