import { ageWarning } from './ageWarning';
import { bareTitle } from './bareTitle';
import { capitals } from './capitals';
import { category } from './category';
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
import { sharedValues } from './sharedValues';
import { shopPage } from './shopPage';
import { symbols } from './symbols';
import { unlikely } from './unlikely';
import { whole } from './whole';
import { wordTwice } from './wordTwice';
import { yesNo } from './yesNo';

/**
 * Every check. A new one is a file, its name here, and its test. Checks on values come first, then those on listings; in this order
 * the issues of a field are reported.
 */
export const checkModules = [
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
  bareTitle,
  pictureQuery,
  pictureText,
  sharedValues,
] as const;

type Intersected<U> = (U extends unknown ? (one: U) => void : never) extends (one: infer I) => void
  ? I
  : never;
type Kinds = Intersected<(typeof checkModules)[number]['issues']>;

/** By kind of issue: the facts behind one. */
export type Facts = { [K in keyof Kinds]: Kinds[K] extends { readonly example: infer F } ? F : never };
export type CheckName = Extract<keyof Facts, string>;

/** Every kind of issue by its code. */
export const issueKinds = Object.assign({}, ...checkModules.map(({ issues }) => issues)) as Kinds;
