import { unitOf } from '../../measures/units';
import { type CheckModule, onEach, type ValueCheckMaker } from '../check';

interface Facts {
  measure: { found: string; reason: 'form' | 'noUnit' | 'unit' | 'zero'; units: readonly string[] };
}

const onValue: ValueCheckMaker<Facts> = (field) => {
  if (field.kind !== 'measure') return undefined;
  const units = field.units ?? [];
  const taken = new Set(units);
  return onEach((text, report) => {
    const parts = /^(-?\d+(?:\.\d+)?)(?: (.+))?$/.exec(text);
    const tell = (reason: 'form' | 'noUnit' | 'unit' | 'zero') =>
      report('measure', 'blocker', field.code, { found: text, reason, units });
    if (!parts) return tell('form');
    const unit = parts[2];
    if (unit === undefined) return tell('noUnit');
    if (taken.size > 0 ? !taken.has(unit) : unitOf(unit) === undefined)
      return tell(unitOf(unit) === undefined ? 'form' : 'unit');
    if (!(Number(parts[1]) > 0)) tell('zero');
  });
};

/** A measure is a number above zero and a unit that the channel takes, with a point and one space: "1.2 kg". */
export const measure: CheckModule<Facts> = {
  issues: {
    measure: {
      about: 'A measure without a unit, with a wrong unit or form, or zero.',
      severity: ['blocker'],
      on: 'measures',
      source: 'Unicode CLDR for units',
      example: { found: '14', reason: 'noUnit', units: ['cm', 'mm'] },
      title: (label) => `${label} is not an accepted measure`,
      words: ({ found, reason, units }, label) =>
        reason === 'zero'
          ? `${label} “${found}” is not above zero`
          : reason === 'noUnit'
            ? `${label} “${found}” has no unit`
            : reason === 'unit'
              ? `${label} “${found}” has a unit that is not accepted; accepted are ${units.join(', ')}`
              : `${label} “${found}” is not a number with a unit, such as 1.2 ${units[0] ?? 'kg'}`,
    },
  },
  onValue,
};
