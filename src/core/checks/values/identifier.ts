import { checkDigitHolds, readIdentifier } from '../../identifiers/gtin';
import { type CheckModule, onEach, type ValueCheckMaker } from '../check';

interface Facts {
  identifier: { found: string; reason: string };
}

const identifierReasons: Record<string, string> = {
  checkdigit: 'its check digit is wrong',
  length: 'no identifier has that many digits',
  characters: 'it has characters other than digits',
  restricted: 'its prefix is for use inside one company',
  zeros: 'it is nothing but zeros',
  coupon: 'its prefix is for coupons',
  example: 'it is a common example number',
};

/** Numbers that stand in examples, with check digits that hold. */
const examples = new Set(['1234567890128', '0123456789012', '012345678905', '4012345678901']);

/** Why a number whose check digit holds is still none of goods: GS1 General Specifications, prefixes 981–984 and 99, and UPC 5. */
function notForGoods(text: string): 'zeros' | 'coupon' | 'example' | undefined {
  if (/^0+$/.test(text)) return 'zeros';
  if (/^(?:9(?:8[1-4]|9\d)\d{10}|05\d{11}|5\d{11})$/.test(text)) return 'coupon';
  return examples.has(text) ? 'example' : undefined;
}

const onValue: ValueCheckMaker<Facts> = (field) => {
  if (field.role !== 'gtin') return undefined;
  return onEach((text, report) => {
    const trouble = notForGoods(text);
    if (trouble) return report('identifier', 'blocker', field.code, { found: text, reason: trouble });
    // The commonest case, thirteen digits of an open prefix, needs no full reading.
    if (text.length === 13 && /^[13-8]\d+$/.test(text) && checkDigitHolds(text)) return;
    const { verdict } = readIdentifier(text);
    if (verdict !== 'valid') report('identifier', 'blocker', field.code, { found: text, reason: verdict });
  });
};

/** A field with the role `gtin` holds a GTIN whose check digit holds and that is meant for open trade. */
export const identifier: CheckModule<Facts> = {
  issues: {
    identifier: {
      about: 'A GTIN with a wrong check digit, length or prefix.',
      severity: ['blocker'],
      on: 'identifiers',
      source: 'GS1 General Specifications; ISBN Users’ Manual',
      example: { found: '9520000030493', reason: 'checkdigit' },
      title: (label) => `${label} is not a valid number`,
      words: ({ found, reason }, label) => `${label} ${found}: ${identifierReasons[reason] ?? reason}`,
    },
  },
  onValue,
};
