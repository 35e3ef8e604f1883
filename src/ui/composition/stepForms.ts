import { type Step, type StepName, steps } from '@/core/compose/steps';
import { unitNames } from '@/core/measures/units';

/** One setting of a step, as an input of its form. */
export type StepInput =
  | { readonly name: string; readonly label: string; readonly kind: 'number' | 'decimal' | 'text' }
  | {
      readonly name: string;
      readonly label: string;
      readonly kind: 'choice';
      readonly choices: readonly (readonly [value: string, label: string])[];
    };

interface StepForm {
  readonly label: string;
  readonly inputs: readonly StepInput[];
}

/** What each step is called in the menu, and its small form. */
export const stepForms: { readonly [K in StepName]: StepForm } = {
  trim: { label: 'Trim and single spaces', inputs: [] },
  case: {
    label: 'Letter case',
    inputs: [
      {
        name: 'to',
        label: 'to',
        kind: 'choice',
        choices: [
          ['sentence', 'first letter capital'],
          ['title', 'capitals as in a title'],
          ['upper', 'all capitals'],
          ['lower', 'no capitals'],
        ],
      },
    ],
  },
  stripMarkup: { label: 'Markup to text', inputs: [] },
  shorten: {
    label: 'Shorten at a word',
    inputs: [
      { name: 'most', label: 'at most', kind: 'number' },
      {
        name: 'measure',
        label: '',
        kind: 'choice',
        choices: [
          ['characters', 'characters'],
          ['bytes', 'bytes'],
          ['graphemes', 'graphemes'],
        ],
      },
    ],
  },
  replace: {
    label: 'Replace',
    inputs: [
      { name: 'find', label: 'find', kind: 'text' },
      { name: 'with', label: 'with', kind: 'text' },
    ],
  },
  replacePattern: {
    label: 'Replace or take out by pattern',
    inputs: [
      { name: 'pattern', label: 'pattern', kind: 'text' },
      { name: 'with', label: 'with', kind: 'text' },
    ],
  },
  takeOut: {
    label: 'Take out words',
    inputs: [{ name: 'words', label: 'words, with commas', kind: 'text' }],
  },
  date: {
    label: 'Date',
    inputs: [
      {
        name: 'to',
        label: 'as',
        kind: 'choice',
        choices: [
          ['iso', '2027-03-31'],
          ['dmyDots', '31.03.2027'],
          ['dmySlashes', '31/03/2027'],
          ['mdySlashes', '03/31/2027'],
        ],
      },
      {
        name: 'monthFirst',
        label: 'the source writes',
        kind: 'choice',
        choices: [
          ['', 'the day first'],
          ['yes', 'the month first'],
        ],
      },
    ],
  },
  addQuery: {
    label: 'Add parameters to an address',
    inputs: [{ name: 'parameters', label: 'parameters', kind: 'text' }],
  },
  keepDigits: { label: 'Keep digits only', inputs: [] },
  onlyValidGtin: { label: 'Only if the check digit holds', inputs: [] },
  gtinForm: {
    label: 'GTIN form',
    inputs: [
      {
        name: 'digits',
        label: 'as',
        kind: 'choice',
        choices: [
          ['short', '13 digits'],
          ['14', '14 digits'],
        ],
      },
    ],
  },
  lookUp: {
    label: 'Look up in a value table',
    inputs: [
      { name: 'table', label: 'table', kind: 'text' },
      {
        name: 'otherwise',
        label: 'not found:',
        kind: 'choice',
        choices: [
          ['keep', 'keep the word'],
          ['empty', 'leave empty'],
        ],
      },
    ],
  },
  money: { label: 'Money with currency', inputs: [] },
  number: {
    label: 'Number',
    inputs: [
      { name: 'decimals', label: 'decimals', kind: 'number' },
      {
        name: 'decimalSign',
        label: 'written with',
        kind: 'choice',
        choices: [
          ['', 'either sign'],
          [',', 'a decimal comma'],
          ['.', 'a decimal point'],
        ],
      },
    ],
  },
  yesNo: { label: 'Yes or no', inputs: [] },
  adjust: {
    label: 'Change the amount',
    inputs: [
      { name: 'percent', label: '%', kind: 'decimal' },
      { name: 'amount', label: 'plus', kind: 'decimal' },
      {
        name: 'roundTo',
        label: 'round to',
        kind: 'choice',
        choices: [
          ['', 'nothing'],
          ...(['0.01', '0.05', '0.1', '0.5', '1', '5', '10'] as const).map((to) => [to, to] as const),
        ],
      },
      {
        name: 'ending',
        label: 'ending in',
        kind: 'choice',
        choices: [
          ['', 'anything'],
          ...(['0.99', '0.95', '0.90'] as const).map((to) => [to, to.slice(1)] as const),
        ],
      },
    ],
  },
  resolve: {
    label: 'Relative address below a base',
    inputs: [{ name: 'base', label: 'base', kind: 'text' }],
  },
  pictureLinks: { label: 'Pictures out of markup', inputs: [] },
  measure: {
    label: 'Number and unit',
    inputs: [
      { name: 'to', label: 'in', kind: 'choice', choices: unitNames.map((unit) => [unit, unit] as const) },
      {
        name: 'unit',
        label: 'without a unit',
        kind: 'choice',
        choices: [['', 'as it is'], ...unitNames.map((unit) => [unit, unit] as const)],
      },
    ],
  },
  withoutQuery: { label: 'Address without its query', inputs: [] },
  take: {
    label: 'Take from a list',
    inputs: [
      { name: 'from', label: 'from', kind: 'number' },
      { name: 'to', label: 'to', kind: 'number' },
    ],
  },
  join: { label: 'Join a list', inputs: [{ name: 'with', label: 'with', kind: 'text' }] },
  split: { label: 'Split into a list', inputs: [{ name: 'at', label: 'at', kind: 'text' }] },
};

export const freshStep = (name: StepName): Step => steps[name].fresh;

/** A step with one setting changed; a number that is not one takes the setting away. */
export function withSetting(step: Step, input: StepInput, text: string): Step {
  const number = input.kind === 'decimal' ? Number(text.replace(',', '.')) : Number.parseInt(text, 10);
  const value =
    input.kind === 'text'
      ? text
      : input.kind === 'choice'
        ? text || undefined
        : Number.isFinite(number)
          ? number
          : undefined;
  return { ...step, [input.name]: value } as Step;
}
