import { isCut } from '../catalog/value';
import type { ValueCheckMaker } from './check';

/** Nothing of the value is missing: it has not grown to the limit at which values are cut. */
export const whole: ValueCheckMaker = (field) => (value, report) => {
  if (isCut(value)) report('cut', 'blocker', field.code, {});
};
