import type { Value } from '../catalog/value';
import { category } from './category';
import type { CheckContext, ListingCheck, ValueCheck, ValueCheckMaker } from './check';
import { choice } from './choice';
import { count } from './count';
import { form } from './form';
import { identifier } from './identifier';
import { length } from './length';
import { link } from './link';
import { money } from './money';
import { needs } from './needs';
import { ratios } from './ratio';

/** Every check on single values. A new one is a file of its own and a line here. */
const valueChecks: readonly ValueCheckMaker[] = [
  count,
  length,
  choice,
  link,
  money,
  identifier,
  form,
  category,
];

/** Compiles all checks of a sheet for one feed into one function over a listing. */
export function compileChecks(context: CheckContext): ListingCheck {
  const onValues: ValueCheck[] = [];
  const at: number[] = [];
  context.sheet.fields.forEach((field, i) => {
    for (const make of valueChecks) {
      const check = make(field, context);
      if (check) {
        onValues.push(check);
        at.push(i);
      }
    }
  });
  const onListing = [...needs(context), ...ratios(context)];
  return (row, values, report) => {
    for (let i = 0; i < onListing.length; i++) (onListing[i] as ListingCheck)(row, values, report);
    for (let i = 0; i < onValues.length; i++) {
      const value: Value | undefined = values[at[i] as number];
      if (value !== undefined) (onValues[i] as ValueCheck)(value, report);
    }
  };
}
