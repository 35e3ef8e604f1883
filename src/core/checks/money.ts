import { minorUnits } from '../measures/currencies';
import { onEach, type ValueCheckMaker } from './check';

/** Amount, space, currency: "24.90 EUR". Minor units by ISO 4217; the currency is the market's; zero is not a price. */
export const money: ValueCheckMaker = (field, { currency }) => {
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
