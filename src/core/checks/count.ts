import type { ValueCheckMaker } from './check';

/** A field takes only so many values. */
export const count: ValueCheckMaker = (field) => {
  const most = field.values?.most ?? 1;
  return (value, report) => {
    if (typeof value === 'object' && value.length > most)
      report('tooMany', 'blocker', field.code, { found: value.length, most });
  };
};
