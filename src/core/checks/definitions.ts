import type { CheckName, Facts, Severity } from './issue';
import { definedInFiles } from './registry';

/** What is to be known of a check without reading it; from this its documentation is made. */
export interface CheckDefinition<K extends CheckName> {
  readonly about: string;
  /** How serious it is where the merchant says nothing; by the sheet where it is the sheet's word. */
  readonly severity: readonly Severity[] | 'the sheet’s';
  /** What it applies to. */
  readonly on: string;
  /** The source it follows, where one is followed. */
  readonly source?: string;
  /** An issue as it is found. */
  readonly example: Facts[K];
}

const gs1 = 'GS1 General Specifications';

/** Every check: those that are whole in their file say it there. One without words in `words.ts` does not compile. */
export const checkDefinitions: { readonly [K in CheckName]: CheckDefinition<K> } = {
  ...definedInFiles,
  missing: {
    about:
      'A field that must be filled, everywhere or where a condition holds, is empty; or one that should be.',
    severity: ['blocker', 'tip'],
    on: 'fields with a need',
    source: 'RFC 2119 for must and should',
    example: { need: 'must', because: 'clothing' },
  },
  oneOfSets: {
    about: 'Of several sets of fields one must be whole, such as a barcode, or brand and part number.',
    severity: 'the sheet’s',
    on: 'the listing',
    example: { sets: [['gtin'], ['brand', 'mpn']], words: 'A barcode, or brand and part number, is needed' },
  },
  ratio: {
    about: 'One number divided by another lies outside what the sheet says.',
    severity: 'the sheet’s',
    on: 'pairs of numbers',
    example: { ratio: 0.3, words: 'The price per litre does not fit the volume' },
  },
  tooLong: {
    about: 'A text is longer than the channel takes, in its own measure.',
    severity: ['blocker'],
    on: 'fields with a length',
    source: 'UAX #29 for graphemes, RFC 3629 for bytes',
    example: { length: 212, most: 150, measure: 'characters' },
  },
  tooShort: {
    about: 'A text is shorter than the least, or than what is advised.',
    severity: ['blocker', 'tip'],
    on: 'fields with a length',
    example: { length: 12, least: 50, measure: 'characters', advised: false },
  },
  phoneCut: {
    about: 'What the product is called stands behind the place where a phone cuts the title.',
    severity: ['tip'],
    on: 'titles',
    example: { at: 70, first: 'Ridge' },
  },
  choice: {
    about: 'A word is none of those that the channel takes.',
    severity: ['blocker'],
    on: 'choice fields',
    example: { found: 'moss', choices: 14 },
  },
  link: {
    about:
      'An address is none, does not begin with https, holds a space, is of one visit, or of one’s own network.',
    severity: ['blocker', 'risk'],
    on: 'links and pictures',
    source: 'WHATWG URL',
    example: { found: 'quillmoss.example/pot', reason: 'scheme' },
  },
  money: {
    about: 'An amount has another form or currency, none, or is zero.',
    severity: ['blocker', 'risk'],
    on: 'prices',
    source: 'ISO 4217',
    example: { found: '24.90 USD', reason: 'currency', currency: 'EUR' },
  },
  identifier: {
    about: 'A number has a wrong check digit or length, or a prefix that no listing may have.',
    severity: ['blocker'],
    on: 'identifiers',
    source: `${gs1}; ISBN Users’ Manual`,
    example: { found: '9520000030493', reason: 'checkdigit' },
  },
  number: {
    about: 'What should be a number is none.',
    severity: ['blocker'],
    on: 'numbers',
    example: { found: 'many' },
  },
  range: {
    about: 'A number lies below or above what is taken.',
    severity: ['blocker'],
    on: 'numbers with bounds',
    example: { found: '-1', least: 0, most: undefined },
  },
  whole: {
    about: 'A number that must be whole is not.',
    severity: ['blocker'],
    on: 'whole numbers',
    example: { found: '1.5' },
  },
  measure: {
    about: 'A measure has no unit, one that is not taken, another form, or is zero.',
    severity: ['blocker'],
    on: 'measures',
    source: 'Unicode CLDR for units',
    example: { found: '14', reason: 'noUnit', units: ['cm', 'mm'] },
  },
  yesNo: {
    about: 'What should be yes or no is neither.',
    severity: ['blocker'],
    on: 'yes or no',
    example: { found: 'maybe' },
  },
  cut: {
    about: 'A value grew past the longest there may be and was cut.',
    severity: ['blocker'],
    on: 'all fields',
    example: {},
  },
  picture: {
    about: 'A picture was looked at and cannot be read.',
    severity: ['blocker'],
    on: 'pictures',
    example: { found: 'https://quillmoss.example/pictures/1.jpg' },
  },
  pictureSize: {
    about:
      'A picture was measured and its longest side is shorter or longer than the channel takes or advises.',
    severity: ['blocker', 'risk', 'tip'],
    on: 'pictures',
    example: { found: '320 × 320', least: 1000 },
  },
  pictureFormat: {
    about: 'A picture was measured and is of a format that the channel does not take.',
    severity: ['blocker', 'risk'],
    on: 'pictures',
    example: { found: 'gif', takes: ['jpeg', 'png'] },
  },
  pictureGround: {
    about:
      'The border of the main picture is not as white as the channel asks: a grey ground, or something that runs to the edge.',
    severity: ['risk'],
    on: 'the main picture',
    example: { found: 0.12, wanted: 0.98 },
  },
  pictureBeside: {
    about:
      'Words or a frame were put on the main picture, where the channel takes the thing alone. Looked for on a white ground, and beside the thing: what is printed on it is part of it.',
    severity: ['risk'],
    on: 'the main picture',
    example: { found: ['words'] },
  },
  date: {
    about: 'What should be a date is none.',
    severity: ['blocker'],
    on: 'dates',
    source: 'RFC 3339',
    example: { found: '31.02.2027' },
  },
  pattern: {
    about: 'A text has not the form that the sheet asks for.',
    severity: ['blocker'],
    on: 'fields with a pattern',
    example: { found: 'x', words: 'letters and digits, 8 of them' },
  },
  tooFew: {
    about: 'A list has fewer values than it must.',
    severity: ['blocker', 'risk'],
    on: 'lists',
    example: { found: 1, least: 3 },
  },
  tooMany: {
    about: 'A list has more values than are taken.',
    severity: ['blocker'],
    on: 'lists',
    example: { found: 9, most: 5 },
  },
  duplicate: {
    about: 'A value that may stand on one listing only stands on several. It cannot be taken lighter.',
    severity: ['blocker'],
    on: 'unique fields',
    source: gs1,
    example: { found: '9520000030773', others: ['QM-POT-RDG-TER-14'], count: 1 },
  },
  sameGtin: {
    about:
      'Several listings have the same GTIN, and the channel does not require it to be unique. Many channels reject all of them. It never blocks.',
    severity: ['risk'],
    on: 'GTINs',
    source: gs1,
    example: { found: '9520000030773', others: ['QM-POT-RDG-TER-14'], count: 1 },
  },
  sameTitle: {
    about: 'Two listings have one title, letter case aside. It blocks nothing, whatever is said of it.',
    severity: ['risk'],
    on: 'titles',
    example: { found: 'Glass cloche', others: ['QM-CLO-GLA-24'], count: 1 },
  },
  samePicture: {
    about:
      'Items of different families have the same first picture, or one that was only scaled or saved anew. It blocks nothing, whatever is said of it.',
    severity: ['risk'],
    on: 'the main picture',
    example: { found: 'https://quillmoss.example/pictures/1.jpg', others: ['QM-CLO-GLA-24'], count: 1 },
  },
  sameText: {
    about:
      'Items of different families have the same description. It blocks nothing, whatever is said of it.',
    severity: ['tip'],
    on: 'descriptions',
    example: { found: 'Keeps the sill dry.', others: ['QM-CLO-GLA-24'], count: 2 },
  },
  category: {
    about: 'A place is a branch, or is not in the channel’s tree.',
    severity: ['blocker'],
    on: 'categories',
    example: { found: '11000', reason: 'branch' },
  },
  restricted: {
    about: 'A branch takes listings only from merchants who handed in a document.',
    severity: ['blocker'],
    on: 'categories',
    example: { document: 'safety data sheet', words: 'Plant food is restricted' },
  },
  promotion: {
    about: 'A text talks of price or delivery.',
    severity: ['blocker', 'risk'],
    on: 'titles and other texts',
    example: { found: 'free shipping' },
  },
  capitals: {
    about: 'Words are written in capitals that are no names.',
    severity: ['risk'],
    on: 'titles',
    example: { found: 'BEST POT EVER' },
  },
  wordTwice: { about: 'A word stands twice.', severity: ['tip'], on: 'titles', example: { found: 'glass' } },
  symbols: {
    about: 'Signs that only catch the eye.',
    severity: ['risk', 'tip'],
    on: 'texts',
    example: { found: '★' },
  },
  contact: {
    about: 'A text says how to reach the merchant elsewhere.',
    severity: ['risk'],
    on: 'texts',
    example: { found: 'shop@quillmoss.example', what: 'email' },
  },
  garbled: {
    about: 'Signs of a wrong encoding, or markup that a shopper sees.',
    severity: ['risk'],
    on: 'texts',
    example: { found: 'Ã¼', reason: 'encoding' },
  },
  placeholder: {
    about: 'A value that says nothing, such as n/a.',
    severity: ['risk'],
    on: 'brands, part numbers, titles and descriptions',
    example: { found: 'n/a' },
  },
  underCost: {
    about: 'A price below what the item costs.',
    severity: ['risk'],
    on: 'prices',
    example: { price: '9.00', cost: '11.20' },
  },
  salePrice: {
    about: 'A sale that is no cheaper, or ends before it begins.',
    severity: ['risk'],
    on: 'prices',
    example: { reason: 'notBelow', found: '24.90' },
  },
  listPrice: {
    about: 'A list price that is not above the price, or many times it.',
    severity: ['risk'],
    on: 'prices',
    example: { list: '19.00', price: '24.90', far: false },
  },
  priceOutlier: {
    about:
      'A price is far from those of the items most like it, and would be like them with its decimal point moved.',
    severity: ['risk'],
    on: 'prices that are filled from the item’s',
    example: { found: '189.00', usual: '18.90', alike: 7 },
  },
  stock: {
    about:
      'What is said of the stock and the pieces left disagree; or something is promised for later without a day.',
    severity: ['risk'],
    on: 'availability',
    source: 'schema.org ItemAvailability',
    example: { reason: 'noneLeft', pieces: '0' },
  },
  language: {
    about: 'A description in another language than the feed’s, where that is sure.',
    severity: ['risk'],
    on: 'descriptions',
    example: { found: 'en', wanted: 'de' },
  },
  isbn: {
    about: 'A book whose number is no ISBN, or an ISBN on what is no book.',
    severity: ['risk'],
    on: 'identifiers',
    source: 'ISBN Users’ Manual',
    example: { found: '9783161484100', reason: 'noBook' },
  },
  ownCode: {
    about: 'The maker’s part number is the merchant’s own SKU, and the merchant is not the maker.',
    severity: ['risk'],
    on: 'part numbers',
    example: { found: 'QM-POT-RDG-MOS-14' },
  },
  onlyList: {
    about: 'A description that is a list and nothing else.',
    severity: ['tip'],
    on: 'descriptions',
    example: {},
  },
  entryTwice: {
    about: 'A list that holds an entry twice.',
    severity: ['tip'],
    on: 'lists and pictures',
    example: { found: 'Felt feet' },
  },
  orders: {
    about: 'The least that can be ordered is more than the most.',
    severity: ['risk'],
    on: 'items with bounds of an order',
    example: { least: '6', most: '4' },
  },
  packing: {
    about: 'A package that is lighter or smaller than what is in it.',
    severity: ['risk'],
    on: 'weights and sizes of packages',
    example: { package: '0.4 kg', item: '0.6 kg', what: 'lighter' },
  },
  unlikely: {
    about: 'A measure that is rather written in the wrong unit than true.',
    severity: ['risk'],
    on: 'fields filled from weights and sizes',
    example: { found: '600 kg', large: true },
  },
  dangerousGoods: {
    about: 'A dangerous goods number that is not UN and four digits.',
    severity: ['risk'],
    on: 'fields filled from the dangerous goods number',
    source: 'UN Model Regulations',
    example: { found: '3082' },
  },
  customsCode: {
    about: 'A customs code of another form, or of no chapter.',
    severity: ['risk'],
    on: 'fields filled from the customs code',
    source: 'WCO Harmonized System',
    example: { found: '7712.00', reason: 'chapter' },
  },
  origin: {
    about: 'A country of origin that is no country.',
    severity: ['risk'],
    on: 'fields filled from the country of origin',
    source: 'ISO 3166-1, Unicode CLDR',
    example: { found: 'Atlantis' },
  },
  plug: {
    about: 'A plug that fits no socket of the country it is sold in.',
    severity: ['risk'],
    on: 'fields filled from the plug',
    source: 'IEC TR 60083',
    example: { found: 'Type G', country: 'DE' },
  },
  ageWarning: {
    about: 'Something for children under three without a warning.',
    severity: ['risk'],
    on: 'fields filled from the warning or the age',
    source: 'Directive 2009/48/EC',
    example: { age: '12 months and up' },
  },
  over: {
    about: 'A day that has passed: to be sown by, the end of a sale, the day something is promised for.',
    severity: ['risk'],
    on: 'days, prices and availability',
    example: { found: '2026-03-31', what: 'sowBy' },
  },
  own: {
    about: 'What the merchant has said is wrong, where a condition of his holds.',
    severity: ['blocker', 'risk', 'tip'],
    on: 'the field it is said of',
    example: { words: 'Pots above 40 EUR want a second picture' },
  },
  otherBrand: {
    about: 'The brand of other items stands in the name, and not as what it fits.',
    severity: ['risk'],
    on: 'titles',
    example: { found: 'Tarnholt' },
  },
  review: {
    about: 'A rule holds the listing back until a person has looked at it: waive it for the items that were.',
    severity: ['blocker'],
    on: 'the listing',
    example: { words: 'a new brand' },
  },
  shopPage: {
    about:
      'The shop’s own page says another price, currency, availability, condition or number, has moved, is gone, or says nothing of the product.',
    severity: ['risk'],
    on: 'listings that lead to the shop',
    source: 'schema.org; Open Graph protocol',
    example: { what: 'price', page: '19.90 EUR', listing: '18.90 EUR' },
  },
  fewPictures: {
    about: 'Fewer pictures than are advised.',
    severity: ['tip'],
    on: 'pictures',
    example: { found: 2, advised: 5 },
  },
};
