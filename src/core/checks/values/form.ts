import { isDate } from '../../measures/dates';
import { compilePattern } from '../../text/pattern';
import { type CheckModule, onEach, type ValueCheckMaker } from '../check';

interface Facts {
  number: { found: string };
  range: { found: string; least: number | undefined; most: number | undefined };
  whole: { found: string };
  date: { found: string };
  pattern: { found: string; words: string };
}

const plainNumber = /^-?\d+(?:\.\d+)?$/;

const onValue: ValueCheckMaker<Facts> = (field) => {
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

/** Numbers are numbers within their bounds, dates are RFC 3339 dates, other forms are the sheet's pattern. */
export const form: CheckModule<Facts> = {
  issues: {
    number: {
      about: 'A value that should be a number is not.',
      severity: ['blocker'],
      on: 'numbers',
      example: { found: 'many' },
      title: (label) => `${label} is not a number`,
      words: ({ found }, label) => `${label} “${found}” is not a number`,
    },
    range: {
      about: 'A number below or above the limits.',
      severity: ['blocker'],
      on: 'numbers with bounds',
      example: { found: '-1', least: 0, most: undefined },
      title: (label) => `${label} is out of bounds`,
      words: ({ found, least, most }, label) =>
        `${label} “${found}” is ${least !== undefined && Number(found) < least ? `below ${least}` : `above ${most}`}`,
    },
    whole: {
      about: 'A number that must be whole is not.',
      severity: ['blocker'],
      on: 'whole numbers',
      example: { found: '1.5' },
      title: (label) => `${label} is not a whole number`,
      words: ({ found }, label) => `${label} “${found}” is not a whole number`,
    },
    date: {
      about: 'A value that should be a date is not.',
      severity: ['blocker'],
      on: 'dates',
      source: 'RFC 3339',
      example: { found: '31.02.2027' },
      title: (label) => `${label} is not a date`,
      words: ({ found }, label) => `${label} “${found}” is not a date such as 2027-03-31`,
    },
    pattern: {
      about: 'A text does not match the pattern of the sheet.',
      severity: ['blocker'],
      on: 'fields with a pattern',
      example: { found: 'x', words: 'letters and digits, 8 of them' },
      title: (label) => `${label} has the wrong form`,
      words: ({ found, words }, label) => `${label} “${found}” is not ${words}`,
    },
  },
  onValue,
};
