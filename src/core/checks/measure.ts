import { unitOf } from '../measures/units';
import { onEach, type ValueCheckMaker } from './check';

/** A measure is a number above zero and a unit that the channel takes, with a point and one space: "1.2 kg". */
export const measure: ValueCheckMaker = (field) => {
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
