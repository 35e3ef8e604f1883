import { minorUnits } from '../../measures/currencies';
import { type CheckModule, onEach, type ValueCheckMaker } from '../check';

interface Facts {
  money: { found: string; reason: 'form' | 'currency' | 'noCurrency' | 'zero'; currency: string };
}

const onValue: ValueCheckMaker<Facts> = (field, { currency }) => {
  if (field.kind !== 'money') return undefined;
  const digits = minorUnits(currency) ?? 2;
  const usual = new RegExp(`^\\d+${digits > 0 ? `\\.\\d{${digits}}` : ''} ${currency}$`);
  const severity = field.need === 'must' ? 'blocker' : 'risk';
  return onEach((text, report) => {
    if (usual.test(text)) {
      if (text.charCodeAt(0) === 48 && Number.parseFloat(text) === 0)
        report('money', severity, field.code, { found: text, reason: 'zero', currency });
      return;
    }
    const reason = /^\d+(\.\d+)?$/.test(text)
      ? 'noCurrency'
      : /^\d+(\.\d+)? [A-Z]{3}$/.test(text) && !text.endsWith(currency)
        ? 'currency'
        : 'form';
    report('money', 'blocker', field.code, { found: text, reason, currency });
  });
};

/** Amount, space, currency: "24.90 EUR". Minor units by ISO 4217; the currency is the market's; zero is not a price. */
export const money: CheckModule<Facts> = {
  issues: {
    money: {
      about: 'An amount with a wrong form or currency, or zero.',
      severity: ['blocker', 'risk'],
      on: 'prices',
      source: 'ISO 4217',
      example: { found: '24.90 USD', reason: 'currency', currency: 'EUR' },
      title: (label) => `${label} is not a valid amount`,
      words: ({ found, reason, currency }, label) =>
        reason === 'currency'
          ? `${label} “${found}” is not in ${currency}`
          : reason === 'zero'
            ? `${label} is zero`
            : reason === 'noCurrency'
              ? `${label} “${found}” names no currency, and neither the item nor the catalog does`
              : `${label} “${found}” is not an amount with currency, such as 24.90 ${currency}`,
    },
  },
  onValue,
};
