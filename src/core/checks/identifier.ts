import { checkDigitHolds, readIdentifier } from '../identifiers/gtin';
import { onEach, type ValueCheckMaker } from './check';

/** A field with the role `gtin` holds a GTIN whose check digit holds and that is meant for open trade. */
export const identifier: ValueCheckMaker = (field) => {
  if (field.role !== 'gtin') return undefined;
  return onEach((text, report) => {
    // The commonest case, thirteen digits of an open prefix, needs no full reading.
    if (text.length === 13 && /^[13-8]\d+$/.test(text) && checkDigitHolds(text)) return;
    const { verdict } = readIdentifier(text);
    if (verdict !== 'valid') report('identifier', 'blocker', field.code, { found: text, reason: verdict });
  });
};
