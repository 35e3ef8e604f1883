import { languageName } from '../catalog/languages';
import { besideWords } from '../pictures/beside';
import { termWords } from '../shop/page';
import type { CheckName, Facts, Issue, Shared } from './issue';

/** The one place where facts become sentences. `label` is the field's, in the channel's words. */
type Words = { [K in CheckName]: (facts: Facts[K], label: string) => string };

const identifierReasons: Record<string, string> = {
  checkdigit: 'its check digit does not hold',
  length: 'no identifier has that many digits',
  characters: 'it holds signs other than digits',
  restricted: 'its prefix is kept for use inside one company',
  zeros: 'it is nothing but zeros',
  coupon: 'its prefix is for coupons',
  example: 'it is an example that many copy',
};

const othersIn = ({ others, count }: Shared): string =>
  `${others.join(', ')}${count > others.length ? ` and ${count - others.length} more` : ''}`;

const words: Words = {
  missing: ({ need, because }, label) =>
    need === 'must'
      ? `${label} is missing${because ? ` (${because})` : ''}`
      : `${label} is advised and empty`,
  oneOfSets: ({ words }) => words,
  ratio: ({ ratio, words }) => `${words} (it is ${ratio.toFixed(2)} times)`,
  tooFew: ({ found, least }, label) =>
    `${label} has ${found} ${found === 1 ? 'value' : 'values'}; ${least} are the least`,
  tooLong: ({ length, most, measure }, label) => `${label} has ${length} ${measure}; ${most} are allowed`,
  tooShort: ({ length, least, measure, advised }, label) =>
    `${label} has ${length} ${measure}; ${least} ${advised ? 'are advised' : 'are the least'}`,
  phoneCut: ({ at, first }) => `“${first}” starts after the phone cut at ${at}`,
  choice: ({ found, choices }, label) => `${label} “${found}” is not one of the ${choices} words taken here`,
  link: ({ found, reason }, label) =>
    reason === 'space'
      ? `${label} “${found}” has a space in it`
      : reason === 'session'
        ? `${label} “${found}” is of one visit and is gone with it`
        : reason === 'inside'
          ? `${label} “${found}” is reached from your own network only`
          : reason === 'scheme'
            ? `${label} “${found}” does not begin with https://`
            : `${label} “${found}” is not a valid address`,
  money: ({ found, reason, currency }, label) =>
    reason === 'currency'
      ? `${label} “${found}” is not in ${currency}`
      : reason === 'zero'
        ? `${label} is zero`
        : reason === 'noCurrency'
          ? `${label} “${found}” names no currency, and neither its item nor the catalog does`
          : `${label} “${found}” is not an amount with currency, such as 24.90 ${currency}`,
  identifier: ({ found, reason }, label) => `${label} ${found}: ${identifierReasons[reason] ?? reason}`,
  number: ({ found }, label) => `${label} “${found}” is not a number`,
  range: ({ found, least, most }, label) =>
    `${label} “${found}” is ${least !== undefined && Number(found) < least ? `below ${least}` : `above ${most}`}`,
  whole: ({ found }, label) => `${label} “${found}” is not a whole number`,
  measure: ({ found, reason, units }, label) =>
    reason === 'zero'
      ? `${label} “${found}” is not above zero`
      : reason === 'noUnit'
        ? `${label} “${found}” has no unit`
        : reason === 'unit'
          ? `${label} “${found}” is in a unit not taken here; taken are ${units.join(', ')}`
          : `${label} “${found}” is not a number with a unit, such as 1.2 ${units[0] ?? 'kg'}`,
  yesNo: ({ found }, label) => `${label} “${found}” is neither yes nor no`,
  cut: (_facts, label) => `${label} grew past the longest a value may be and was cut; look at its steps`,
  picture: ({ found }, label) => `${label}: the picture ${found} cannot be read`,
  pictureSize: ({ found, least, most, advised }, label) =>
    least !== undefined
      ? `${label} is ${found} pixels; ${least} along the longest side are the least`
      : most !== undefined
        ? `${label} is ${found} pixels; ${most} along the longest side are the most`
        : `${label} is ${found} pixels; ${advised} along the longest side are advised`,
  pictureFormat: ({ found, takes }, label) =>
    `${label} is a ${found.toUpperCase()}; taken are ${takes.map((one) => one.toUpperCase()).join(', ')}`,
  pictureGround: ({ found, wanted }, label) =>
    `${label}: ${Math.floor(found * 100)} % of its border is white; ${Math.round(wanted * 100)} % are asked for`,
  date: ({ found }, label) => `${label} “${found}” is not a date such as 2027-03-31`,
  pattern: ({ found, words }, label) => `${label} “${found}” is not ${words}`,
  tooMany: ({ found, most }, label) =>
    `${label} has ${found} values; ${most} ${most === 1 ? 'is' : 'are'} allowed`,
  duplicate: (shared, label) => `${label} ${shared.found} is also on ${othersIn(shared)}`,
  sameGtin: (shared, label) =>
    `${label} ${shared.found} is also on ${othersIn(shared)}; a GTIN names one item`,
  sameTitle: (shared, label) => `${label} is the same on ${othersIn(shared)}`,
  pictureBeside: ({ found }, label) =>
    `${label} shows ${found.map((one) => besideWords[one]).join(' and ')} beside the thing`,
  samePicture: (shared, label) => `${label} shows the same first picture as ${othersIn(shared)}`,
  sameText: (shared, label) => `${label} says the same as that of ${othersIn(shared)}`,
  restricted: ({ document, words }) => `${words} (the document asked for: ${document})`,
  language: ({ found, wanted }, label) =>
    `${label} is in ${languageName(found)}; this feed is in ${languageName(wanted)}`,
  isbn: ({ found, reason }, label) =>
    reason === 'noBook'
      ? `${label} ${found} is an ISBN, and the item is no book`
      : `${label} ${found} is no ISBN, and the item is a book`,
  ownCode: ({ found }, label) =>
    `${label} “${found}” is your own SKU; leave it empty where the maker has none`,
  bareTitle: ({ found, what }, label) =>
    `${label} “${found}” says only ${what === 'brand' ? 'the brand' : what === 'sku' ? 'your SKU' : what === 'mpn' ? 'the part number' : 'the barcode'}`,
  pictureQuery: ({ found, count }, label) =>
    `${label} has ${count === 1 ? 'an address' : `${count} addresses`} with a query, such as ${found}: many channels refuse these; the step “without query” removes it`,
  pictureText: ({ found, says }, label) =>
    says === 'title'
      ? `${label} says no more than the title`
      : `${label} “${found}” ${says === 'file' ? 'is the name of a file' : 'says nothing of what the picture shows'}`,
  onlyList: (_facts, label) => `${label} is only a list; a sentence before it says what the thing is`,
  entryTwice: ({ found }, label) => `${label} holds “${found}” twice`,
  orders: ({ least, most }) => `At least ${least} must be ordered, and at most ${most} can be`,
  packing: ({ package: packed, item, what }) =>
    `The package, ${packed}, is ${what} than what is in it, ${item}`,
  unlikely: ({ found, large }, label) =>
    `${label} “${found}” is very ${large ? 'much' : 'little'}; look at its unit`,
  dangerousGoods: ({ found }, label) => `${label} “${found}” is not “UN” and four digits, such as UN 3082`,
  customsCode: ({ found, reason }, label) =>
    reason === 'form'
      ? `${label} “${found}” has not 6, 8, 10 or 11 digits`
      : `${label} “${found}” begins with ${found.replace(/\D/g, '').slice(0, 2)}, which is no chapter of the Harmonized System`,
  origin: ({ found }, label) => `${label} “${found}” is no country`,
  plug: ({ found, country }, label) => `${label} “${found}” fits no socket in ${country}`,
  ageWarning: ({ age }) => `For children of “${age}”, and no warning of small parts stands there`,
  over: ({ found, what }, label) =>
    what === 'sowBy'
      ? `${label}: ${found} has passed`
      : what === 'sale'
        ? `${label}: the sale ended on ${found}`
        : `${label} promises it for ${found}, which has passed`,
  own: ({ words }) => words,
  review: ({ words }) => `Held back to be looked at: ${words}`,
  otherBrand: ({ found }, label) => `${label} names “${found}”, which is the brand of other items`,
  shopPage: ({ what, page, listing }, label) =>
    what === 'gone'
      ? `${label}: there is no page at ${listing}`
      : what === 'moved'
        ? `${label}: the page has moved to ${page}`
        : what === 'silent'
          ? `${label}: the page says nothing of the product that a channel can read`
          : what === 'currency'
            ? `${label}: the shop’s page asks ${page}, not ${listing}`
            : what === 'availability' || what === 'condition'
              ? `${label}: the shop’s page says ${termWords(page)}, the item ${termWords(listing)}`
              : `${label}: the shop’s page says ${page}, the listing ${listing}`,
  fewPictures: ({ found, advised }) =>
    `${found} ${found === 1 ? 'picture' : 'pictures'}; ${advised} are advised`,
  promotion: ({ found }, label) => `${label} talks of price or delivery: “${found}”`,
  capitals: ({ found }, label) => `${label} is written in capitals: “${found}”`,
  wordTwice: ({ found }, label) => `${label} says “${found}” twice`,
  symbols: ({ found }, label) => `${label} holds “${found}”, which only catches the eye`,
  contact: ({ found, what }, label) =>
    `${label} holds ${what === 'address' ? 'an address' : what === 'email' ? 'an email address' : 'a telephone number'}: “${found}”`,
  garbled: ({ found, reason }, label) =>
    reason === 'encoding'
      ? `${label} holds “${found}”: its text was read in the wrong encoding`
      : `${label} holds “${found}”, which a shopper sees as it stands`,
  placeholder: ({ found }, label) => `${label} “${found}” says nothing; leave it empty`,
  underCost: ({ price, cost }, label) => `${label} ${price} is below what the item costs, ${cost}`,
  salePrice: ({ reason, found }, label) =>
    reason === 'dates'
      ? `${label}: the sale ends before it begins, ${found}`
      : `${label}: the sale price ${found} is not below it`,
  listPrice: ({ list, price, far }, label) =>
    far
      ? `${label}: the list price ${list} is many times ${price}`
      : `${label}: the list price ${list} is not above ${price}`,
  priceOutlier: ({ found, usual, alike }, label) =>
    `${label} ${found} is far from the ${usual} that is usual for ${alike} items like it; look at its decimal point`,
  stock: ({ reason, pieces }, label) =>
    reason === 'noneLeft'
      ? `${label} says in stock, and ${pieces} are left`
      : reason === 'someLeft'
        ? `${label} says out of stock, and ${pieces} are left`
        : `${label} promises it for later, and no day is given`,
  category: ({ found, reason }, label) =>
    reason === 'branch'
      ? `${label} ${found} is a branch; choose one of its categories`
      : `${label} ${found} is not in the channel's tree`,
};

/** What an issue says to a person. */
export function issueWords(issue: Issue, labelOf: (field: string) => string): string {
  const say = words[issue.check] as (facts: Facts[CheckName], label: string) => string;
  return say(issue.facts, labelOf(issue.field));
}

/** What a group of issues of one check and field is called. */
export const checkTitles: { readonly [K in CheckName]: (label: string) => string } = {
  missing: (label) => `${label} is missing`,
  oneOfSets: () => 'No barcode, and not both brand and part number',
  ratio: (label) => `${label} out of proportion`,
  tooFew: (label) => `${label}: too few`,
  tooLong: (label) => `${label} is too long`,
  tooShort: (label) => `${label} is short`,
  phoneCut: (label) => `${label} is cut on a phone`,
  choice: (label) => `${label} uses words not taken here`,
  link: (label) => `${label} is not a valid address`,
  money: (label) => `${label} is not a valid amount`,
  identifier: (label) => `${label} is not a valid number`,
  number: (label) => `${label} is not a number`,
  range: (label) => `${label} is out of bounds`,
  whole: (label) => `${label} is not a whole number`,
  measure: (label) => `${label} is not a measure taken here`,
  yesNo: (label) => `${label} is neither yes nor no`,
  cut: (label) => `${label} grew too long`,
  picture: (label) => `${label} cannot be read`,
  pictureSize: (label) => `${label} has the wrong size`,
  pictureFormat: (label) => `${label} has a format not taken here`,
  pictureGround: (label) => `${label} is not on white`,
  pictureBeside: (label) => `${label} does not show the thing alone`,
  date: (label) => `${label} is not a date`,
  pattern: (label) => `${label} has the wrong form`,
  tooMany: (label) => `${label} has too many values`,
  duplicate: (label) => `${label} is on several listings`,
  sameGtin: (label) => `${label} is on several listings`,
  sameTitle: (label) => `${label} is the same on several listings`,
  samePicture: (label) => `${label} is the same on several families`,
  sameText: (label) => `${label} is copied`,
  category: (label) => `${label} is not in the tree`,
  restricted: (label) => `${label} asks for a document`,
  language: (label) => `${label} is in another language`,
  isbn: (label) => `${label}: books and ISBN disagree`,
  ownCode: (label) => `${label} is your own SKU`,
  bareTitle: (label) => `${label} says too little`,
  pictureQuery: (label) => `${label} with a query in its address`,
  pictureText: (label) => `${label} does not say what the picture shows`,
  onlyList: (label) => `${label} is only a list`,
  entryTwice: (label) => `${label} holds an entry twice`,
  orders: () => 'Least order above the most',
  packing: () => 'The package is smaller than what is in it',
  unlikely: (label) => `${label} is hardly true`,
  dangerousGoods: (label) => `${label} is no UN number`,
  customsCode: (label) => `${label} is no customs code`,
  origin: (label) => `${label} is no country`,
  plug: (label) => `${label} does not fit the country`,
  ageWarning: () => 'No warning for small children',
  over: (label) => `${label}: a day that has passed`,
  review: () => 'Held back to be looked at',
  own: (label) => `${label}: a check of your own`,
  otherBrand: (label) => `${label} names another brand`,
  shopPage: (label) => `${label}: the shop’s page says otherwise`,
  fewPictures: () => 'Few pictures',
  promotion: (label) => `${label} talks of price or delivery`,
  capitals: (label) => `${label} shouts`,
  wordTwice: (label) => `${label} says a word twice`,
  symbols: (label) => `${label} holds signs that only catch the eye`,
  contact: (label) => `${label} says how to reach the merchant`,
  garbled: (label) => `${label} holds what a shopper cannot read`,
  placeholder: (label) => `${label} says nothing`,
  underCost: (label) => `${label} is below cost`,
  salePrice: (label) => `${label}: the sale makes no sense`,
  listPrice: (label) => `${label}: the list price is no list price`,
  priceOutlier: (label) => `${label} is far from its likes`,
  stock: (label) => `${label} and the pieces left disagree`,
};
