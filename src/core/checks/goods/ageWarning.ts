import type { CheckContext, CheckModule, ListingCheck } from '../check';
import { atFieldsOf, reader } from '../item';

interface Facts {
  ageWarning: { age: string };
}

/** The youngest age a text names, in months: "3 years and up", "6-18 months", "ab 2 Jahren"; undefined where it names none. */
export function monthsIn(text: string): number | undefined {
  const found =
    /(\d+(?:[.,]\d+)?)\s*(?:[-–+]|to|bis|a|à|tot)?\s*(?:\d+)?\s*(m(?:o|th|onth|onat|ois|es|ies|aand|ånad)?\w*|y(?:ea)?rs?|j(?:ahre?n?|aar|r)?|ans?|años?|anni|anos?|lat|år)?/iu.exec(
      text,
    );
  if (!found) return undefined;
  const amount = Number((found[1] as string).replace(',', '.'));
  return /^m/i.test(found[2] ?? '') ? amount : amount * 12;
}

/** From 36 months on small parts need no warning: Directive 2009/48/EC, annex V. */
const hasWarning = 36;

function onListing(context: CheckContext): ListingCheck<Facts>[] {
  if (context.slotOf('ageRange') === undefined) return [];
  const [age, warning] = [reader(context, 'ageRange'), reader(context, 'warning')];
  return atFieldsOf(
    context,
    'warning',
    (row, report, field) => {
      const found = age(row);
      if (found === '' || warning(row) !== '') return;
      const months = monthsIn(found);
      if (months !== undefined && months < hasWarning) report('ageWarning', 'risk', field, { age: found });
    },
    ['ageRange'],
  );
}

/** Something for children under three whose listing carries no warning. */
export const ageWarning: CheckModule<Facts> = {
  issues: {
    ageWarning: {
      about: 'An item for children under three without a warning.',
      severity: ['risk'],
      on: 'fields with the warning or the age',
      source: 'Directive 2009/48/EC',
      example: { age: '12 months and up' },
      title: () => 'No warning for small children',
      words: ({ age }) => `For ages “${age}”, without a warning of small parts`,
    },
  },
  onListing,
};
