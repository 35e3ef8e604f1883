import { claim } from './claims/claim';
import { dealerNote } from './claims/dealerNote';
import { skuInTitle } from './claims/skuInTitle';
import { unfinished } from './claims/unfinished';
import { composition } from './contradictions/composition';
import { titleAgainst } from './contradictions/titleAgainst';
import { ageWarning } from './goods/ageWarning';
import { cartonGtin } from './goods/cartonGtin';
import { customsCode } from './goods/customsCode';
import { dangerousGoods } from './goods/dangerousGoods';
import { orders } from './goods/orders';
import { origin } from './goods/origin';
import { ownCode } from './goods/ownCode';
import { packing } from './goods/packing';
import { partNumber } from './goods/partNumber';
import { plug } from './goods/plug';
import { ratio } from './goods/ratio';
import { unlikely } from './goods/unlikely';
import { beyondReason } from './listings/beyondReason';
import { catalogHints } from './listings/catalogHints';
import { expired } from './listings/expired';
import { needs } from './listings/needs';
import { ownChecks } from './listings/own';
import { priceAndStock } from './listings/priceAndStock';
import { restricted } from './listings/restricted';
import { review } from './listings/review';
import { sharedValues } from './listings/sharedValues';
import { shopPage } from './listings/shopPage';
import { testLink } from './listings/testLink';
import { fewPictures } from './pictures/fewPictures';
import { picture } from './pictures/picture';
import { pictureFacts } from './pictures/pictureFacts';
import { pictureQuery } from './pictures/pictureQuery';
import { pictureText } from './pictures/pictureText';
import { placeholderPicture } from './pictures/placeholderPicture';
import { bareTitle } from './texts/bareTitle';
import { capitals } from './texts/capitals';
import { contact } from './texts/contact';
import { entryTwice } from './texts/entryTwice';
import { garbled } from './texts/garbled';
import { language } from './texts/language';
import { onlyList } from './texts/onlyList';
import { phoneCut } from './texts/phoneCut';
import { placeholder } from './texts/placeholder';
import { promotion } from './texts/promotion';
import { symbols } from './texts/symbols';
import { wordTwice } from './texts/wordTwice';
import { category } from './values/category';
import { choice } from './values/choice';
import { count } from './values/count';
import { form } from './values/form';
import { identifier } from './values/identifier';
import { isbn } from './values/isbn';
import { length } from './values/length';
import { link } from './values/link';
import { measure } from './values/measure';
import { money } from './values/money';
import { truncated } from './values/truncated';
import { yesNo } from './values/yesNo';

/**
 * Every check. A new one is a file, its name here, and its test. Checks on values come first, then those on listings; in this order
 * the issues of a field are reported.
 */
export const checkModules = [
  truncated,
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
  claim,
  dealerNote,
  unfinished,
  testLink,
  placeholderPicture,
  entryTwice,
  needs,
  ratio,
  fewPictures,
  priceAndStock,
  phoneCut,
  isbn,
  ownCode,
  partNumber,
  cartonGtin,
  titleAgainst,
  skuInTitle,
  composition,
  beyondReason,
  orders,
  packing,
  unlikely,
  dangerousGoods,
  customsCode,
  origin,
  plug,
  ageWarning,
  expired,
  catalogHints,
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
