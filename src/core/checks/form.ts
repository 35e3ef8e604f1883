import { isDate } from '../measures/dates';
import { readNumber } from '../measures/money';
import { onEach, type ValueCheckMaker } from './check';

/** Numbers are numbers, dates are RFC 3339 dates (with or without a time), other forms are the sheet's pattern. */
export const form: ValueCheckMaker = (field) => {
  const { pattern } = field;
  const expression = pattern ? new RegExp(pattern.expression, 'u') : undefined;
  if (field.kind === 'number')
    return onEach((text, report) => {
      if (!/^-?\d+(\.\d+)?$/.test(text) || readNumber(text) === undefined)
        report('number', 'blocker', field.code, { found: text });
    });
  if (field.kind === 'date')
    return onEach((text, report) => {
      if (!isDate(text)) report('date', 'blocker', field.code, { found: text });
    });
  if (!expression || !pattern) return undefined;
  return onEach((text, report) => {
    if (!expression.test(text))
      report('pattern', 'blocker', field.code, { found: text, words: pattern.words });
  });
};
