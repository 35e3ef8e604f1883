import type { Row, Value } from '../catalog/value';
import type { Field } from '../channels/sheet';
import { remembering } from '../text/remembering';
import { ageWarning } from './ageWarning';
import { bareTitle } from './bareTitle';
import { capitals } from './capitals';
import { category } from './category';
import type { CheckContext, ListingCheck, ValueCheck, ValueCheckMaker } from './check';
import { choice } from './choice';
import { contact } from './contact';
import { count } from './count';
import { customsCode } from './customsCode';
import { dangerousGoods } from './dangerousGoods';
import { entryTwice } from './entryTwice';
import { fewPictures } from './fewPictures';
import { form } from './form';
import { garbled } from './garbled';
import { identifier } from './identifier';
import { isbn } from './isbn';
import type { Report } from './issue';
import { language } from './language';
import { length } from './length';
import { link } from './link';
import { measure } from './measure';
import { money } from './money';
import { needs } from './needs';
import { offer } from './offer';
import { onlyList } from './onlyList';
import { orders } from './orders';
import { origin } from './origin';
import { over } from './over';
import { ownChecks } from './own';
import { ownCode } from './ownCode';
import { packing } from './packing';
import { phoneCut } from './phoneCut';
import { picture } from './picture';
import { pictureFacts } from './pictureFacts';
import { pictureQuery } from './pictureQuery';
import { pictureText } from './pictureText';
import { placeholder } from './placeholder';
import { plug } from './plug';
import { promotion } from './promotion';
import { ratios } from './ratio';
import { remarks } from './remarks';
import { restricted } from './restricted';
import { review } from './review';
import { shopPage } from './shopPage';
import { symbols } from './symbols';
import { unlikely } from './unlikely';
import { whole } from './whole';
import { wordTwice } from './wordTwice';
import { yesNo } from './yesNo';

/** Every check on single values. A new one is a file of its own and a line here. */
const valueChecks: readonly ValueCheckMaker[] = [
  whole,
  count,
  length,
  choice,
  link,
  money,
  identifier,
  form,
  measure,
  yesNo,
  picture,
  pictureFacts,
  category,
  restricted,
  promotion,
  capitals,
  wordTwice,
  symbols,
  contact,
  garbled,
  placeholder,
  language,
  onlyList,
  entryTwice,
];

/** Checks that are whole in their files: a new one is a file, its words, and its name here. */
const inFiles = { bareTitle, pictureQuery, pictureText };
type InFiles = typeof inFiles;

/** What is to be known of them. */
export const definedInFiles = Object.fromEntries(
  Object.entries(inFiles).map(([name, { definition }]) => [name, definition]),
) as { readonly [K in keyof InFiles]: InFiles[K]['definition'] };

/** Every check that looks at several fields of a listing. */
const listingChecks: readonly ((context: CheckContext) => ListingCheck[])[] = [
  needs,
  ratios,
  fewPictures,
  offer,
  phoneCut,
  isbn,
  ownCode,
  orders,
  packing,
  unlikely,
  dangerousGoods,
  customsCode,
  origin,
  plug,
  ageWarning,
  over,
  remarks,
  shopPage,
  review,
  ownChecks,
  ...Object.values(inFiles).map(({ make }) => make),
];

/** All checks that report on one field, and the fields they read: where none of those changed, neither do their issues. */
export interface FieldChecks {
  readonly at: number;
  readonly reads: ReadonlySet<number>;
  run: CheckRun;
  /** Equal for two plans under which the checks that depend on what fills the field report alike. */
  readonly fillings: string;
  /** Those among them that look at several fields, or at the item, each with what it reads. */
  readonly onListing: readonly { readonly reads: ReadonlySet<number>; readonly run: CheckRun }[];
}

type CheckRun = (row: Row, values: readonly (Value | undefined)[], report: Report) => void;

/** Compiles all checks of a sheet for one feed, gathered by the field they report on, in the sheet's order. */
export function compileChecks(context: CheckContext): FieldChecks[] {
  const { sheet } = context;
  const placeAt = sheet.fields.findIndex(({ kind }) => kind === 'category');
  const onListings = listingChecks.flatMap((make) => make(context));
  return sheet.fields.flatMap((field, at): FieldChecks[] => {
    const listing = onListings.filter((check) => check.field === field.code);
    const value = onValue(field, context);
    if (listing.length === 0 && !value) return [];
    const onListing = listing.map(({ run, reads, readsPlace }) => ({
      run,
      reads: new Set([
        ...reads.map(context.fieldAt).filter((read) => read !== undefined),
        ...(readsPlace && placeAt >= 0 ? [placeAt] : []),
      ]),
    }));
    const reads = new Set([at, ...onListing.flatMap((check) => [...check.reads])]);
    return [
      {
        at,
        reads,
        run: together(at, onListing, value),
        fillings: listing.flatMap(({ filling }) => filling ?? []).join('\n'),
        onListing,
      },
    ];
  });
}

/**
 * All checks on the value of one field. What they say of a text is remembered while it comes again, but for checks that ask
 * what was seen by looking: that changes.
 */
function onValue(field: Field, context: CheckContext): ValueCheck | undefined {
  let asked = false;
  const watched = Object.defineProperty({ ...context }, 'seen', {
    get: () => {
      asked = true;
      return context.seen;
    },
  });
  let looks = false;
  const checks = valueChecks.flatMap((make) => {
    asked = false;
    const check = make(field, watched);
    if (check && asked) looks = true;
    return check ?? [];
  });
  if (checks.length === 0) return undefined;
  const each: ValueCheck = (value, report) => {
    for (let i = 0; i < checks.length; i++) (checks[i] as ValueCheck)(value, report);
  };
  if (looks) return each;
  const said = remembering((text): readonly Said[] => {
    const found: Said[] = [];
    each(text, (check, severity, code, facts) => found.push([check, severity, code, facts]));
    return found.length === 0 ? nothingSaid : found;
  });
  return (value, report) => {
    if (typeof value !== 'string') return each(value, report);
    const found = said(value);
    for (let i = 0; i < found.length; i++) report(...(found[i] as Said));
  };
}

/** What a check reports, as it reports it. */
type Said = Parameters<Report>;
const nothingSaid: readonly Said[] = [];

/** Checks on a listing and on the value of one field as one function. */
function together(
  at: number,
  listing: readonly { readonly run: CheckRun }[],
  value: ValueCheck | undefined,
): CheckRun {
  const onListing = listing.map(({ run }) => run);
  const [first] = onListing;
  const ofValue: CheckRun = (_row, found, report) => {
    const own = found[at];
    if (own !== undefined && value) value(own, report);
  };
  if (first === undefined) return ofValue;
  if (onListing.length === 1)
    return (row, found, report) => {
      first(row, found, report);
      ofValue(row, found, report);
    };
  return (row, found, report) => {
    for (const run of onListing) run(row, found, report);
    ofValue(row, found, report);
  };
}
