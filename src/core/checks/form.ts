import { isDate } from '../measures/dates';
import { compilePattern } from '../text/pattern';
import { onEach, type ValueCheckMaker } from './check';

const plainNumber = /^-?\d+(?:\.\d+)?$/;

/** Numbers are numbers within their bounds, dates are RFC 3339 dates, other forms are the sheet's pattern. */
export const form: ValueCheckMaker = (field) => {
  const { pattern } = field;
  if (field.kind === 'number') {
    const { least, most, whole } = field.number ?? { whole: false };
    return onEach((text, report) => {
      if (!plainNumber.test(text)) return report('number', 'blocker', field.code, { found: text });
      const number = Number(text);
      if ((least !== undefined && number < least) || (most !== undefined && number > most))
        report('range', 'blocker', field.code, { found: text, least, most });
      else if (whole && !Number.isInteger(number)) report('whole', 'blocker', field.code, { found: text });
    });
  }
  if (field.kind === 'date')
    return onEach((text, report) => {
      if (!isDate(text)) report('date', 'blocker', field.code, { found: text });
    });
  if (!pattern) return undefined;
  const expression = compilePattern(pattern.expression);
  return onEach((text, report) => {
    if (!expression.test(text))
      report('pattern', 'blocker', field.code, { found: text, words: pattern.words });
  });
};
