/**
 * The demo plan for Lanternry, Germany, written out by hand: what a programmer would write for exactly this feed.
 * The limit that compiled evaluation is measured against; its results are compared with the core's before anything is timed.
 */
import type { Value } from '../src/core/catalog/value';
import { checkDigitHolds } from '../src/core/identifiers/gtin';
import { textOfMarkup } from '../src/core/markup/markup';
import { shortenAtWord } from '../src/core/text/fitting';

type Item = Record<string, Value | undefined>;
export interface HandIssue {
  check: string;
  severity: string;
  field: string;
  facts: object;
}
export interface HandListing {
  sku: string;
  state: 'ready' | 'blocked' | 'leftOut';
  reason: string | undefined;
  values: (Value | undefined)[];
  issues: HandIssue[];
}

const stock = new Map([
  ['InStock', 'available'],
  ['OutOfStock', 'sold_out'],
  ['PreOrder', 'pre_order'],
  ['BackOrder', 'back_order'],
]);
const condition = new Map([
  ['NewCondition', 'new'],
  ['RefurbishedCondition', 'refurbished'],
  ['UsedCondition', 'used'],
]);
const gender = new Map([
  ['unisex', 'any'],
  ['women', 'female'],
  ['men', 'male'],
]);
const colours = new Map([
  ['chalk', 'white'],
  ['ink', 'blue'],
  ['terracotta', 'red'],
  ['honey', 'yellow'],
  ['slate', 'grey'],
  ['plum', 'purple'],
  ['fern', 'green'],
  ['oat', 'beige'],
  ['umber', 'brown'],
  ['marigold', 'yellow'],
  ['lake', 'blue'],
  ['brick', 'red'],
  ['copper', 'copper'],
  ['white', 'white'],
]);
const places = new Map([
  ['Pots, glazed', '7302'],
  ['Trays and saucers', '7305'],
  ['Shelves', '7304'],
  ['Cloches', '7301'],
  ['Grow lights', '6101'],
  ['Aprons', '5101'],
  ['Gloves', '5102'],
  ['Books', '3101'],
  ['Watering cans', '7501'],
  ['Plant food', '7321'],
  ['Seeds', '7404'],
]);
const clothing = new Set(['5101', '5102']);
const states = new Set(['available', 'sold_out', 'pre_order', 'back_order']);
const conditions = new Set(['new', 'refurbished', 'used']);
const colourChoices = new Set([
  'black',
  'white',
  'grey',
  'red',
  'pink',
  'orange',
  'yellow',
  'green',
  'blue',
  'purple',
  'brown',
  'beige',
  'copper',
  'multicolour',
]);
const genders = new Set(['female', 'male', 'any']);
const bindings = new Set(['hardcover', 'paperback', 'ebook']);
const leaves = new Set(places.values());
const linkForm =
  /^https?:\/\/[A-Za-z0-9](?:[A-Za-z0-9.-]*[A-Za-z0-9])?(?::\d{1,5})?(?:[/?#][^\s"<>\\^`{|}]*)?$/;
const lengthForm = /^\d+(\.\d+)? (cm|mm|m)$/u;
const weightForm = /^\d+(\.\d+)? (kg|g)$/u;
const contentsForm = /^\d+(\.\d+)? (ml|l|g|kg)$/u;

const text = (value: Value | undefined) => (typeof value === 'string' ? value : undefined);
const mapped = (table: Map<string, string>, value: string | undefined) =>
  value === undefined ? undefined : (table.get(value) ?? value);
const because = {
  barcode: 'books always need their ISBN',
  stockFrom: 'needed for pre-order and back-order',
  clothing: 'needed for clothing',
  contents: 'plant food needs it for the base price in Germany',
  energy: 'lamps need it in the European Union',
  author: 'needed for books',
};

const rubbish =
  /Ã[\u0080-\u00bf€‚ƒ„…†‡ˆ‰Š‹ŒŽ‘’“”•–—˜™š›œžŸ]|â€[\u0080-\u00bf™œž“”]|Â[\u00a0-\u00bf]|\ufffd|<\/?(?:p|br|b|i|u|li|ul|ol|div|span|strong|em|h[1-6]|a|table|font)\b[^>]*>|&(?:amp|quot|apos|lt|gt|nbsp|[aouAOU]uml|szlig|eacute|euro|#\d{2,5});/iu;
const decoration = /(?![©®™])[\p{Extended_Pictographic}★☆✓✔✗✘►▶◄●■◆♦♥❤➤→⇒«»]|!{2,}|\?{2,}|\*{2,}|~{2,}/u;
const talk =
  /(?<![\p{L}\p{N}])(?:free (?:shipping|delivery|returns?)|(?:best|lowest|special|unbeatable|low) prices?|(?:buy|order|shop) now|hurry|while stocks? lasts?|limited (?:time|offer)|on sale|clearance|bestseller|best seller|money back|versandkostenfrei|gratis ?versand|bestpreis|tiefpreis|sonderpreis|sonderangebot|jetzt kaufen|nur heute|ausverkauf|envío gratis|livraison gratuite|spedizione gratuita|gratis verzending|\d{1,2} ?% (?:off|discount|rabatt)|[-−–] ?\d{1,2} ?%)(?![\p{L}\p{N}])/iu;
const reach =
  /[\w.+-]+@[\w-]+\.[a-z]{2,}|(?:https?:\/\/|www\.)[\w-]+\.[a-z]{2,}|(?:\+\d{2}[\s/().-]?|(?:tel|phone|fon|telefon)\.?:? ?)\(?\d[\d\s/().-]{6,}\d/i;
const inBase: Readonly<Record<string, number>> = { kg: 1, g: 0.001, m: 1, cm: 0.01, mm: 0.001 };
const emptyTalk = /\blorem ipsum\b|\{\{?\s*[\w.]+\s*\}?\}|\[(?:brand|name|title|size|colou?r)\]/i;
const bare = (words: string) =>
  words
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
const nothing = new Set(['n/a', 'none', 'no brand', 'unknown', 'generic', 'ohne marke', 'keine', 'test']);

/** Wraps what is asked of single texts, so that it may be asked once of each. */
export type Once = <T>(answer: (text: string) => T) => (text: string) => T;

/** The function written by hand. @param once what wraps its looks at single texts; straight and uncached where left out */
export function handWritten(once: Once = (answer) => answer): (item: Item) => HandListing {
  const plainText = once(textOfMarkup);
  const folded = once(bare);
  const isRubbish = once((text) => rubbish.test(text));
  const isDecorated = once((text) => decoration.test(text));
  const isTalk = once((text) => talk.test(text));
  const isReach = once((text) => reach.test(text));
  const isEmptyTalk = once((text) => emptyTalk.test(text));
  return (item) => {
    const sku = text(item.sku) ?? '';
    const glaze = text(item.glaze);
    const color = text(item.color);
    const category = text(item.category);
    const image = item.image as readonly string[] | undefined;
    const about =
      text(item.description) === undefined ? undefined : plainText(text(item.description) ?? '') || undefined;
    const priceText = text(item.price);
    const price = priceText === undefined ? undefined : `${priceText} ${text(item.priceCurrency) ?? 'EUR'}`;
    let barcode = text(item.gtin)?.replace(/\D+/g, '') || undefined;
    if (barcode !== undefined && barcode.length === 14 && barcode.startsWith('0') && checkDigitHolds(barcode))
      barcode = barcode.slice(1);
    if (barcode !== undefined && (barcode.length === 8 || barcode.length === 12) && checkDigitHolds(barcode))
      barcode = barcode.padStart(13, '0');
    const brand = text(item.brand) ?? 'Quillmoss';
    const stockState = mapped(stock, text(item.availability));
    const state = mapped(condition, text(item.itemCondition)) ?? 'new';
    const colour = mapped(colours, glaze) ?? mapped(colours, color);
    const size =
      text(item.size) ?? text(item.diameter) ?? text(item.volume) ?? text(item.height) ?? text(item.width);
    const forGender = mapped(gender, text(item.gender));
    const binding = text(item.bookFormat)?.toLocaleLowerCase('de');
    const place = category === undefined ? undefined : places.get(category);
    let reason = category === 'Gift wrap' ? 'not sold here' : undefined;

    const name = text(item.name) ?? '';
    const inName = ` ${folded(name)} `;
    const part = (glue: string, value: string | readonly string[] | undefined) => {
      const one = text(value);
      if (one === undefined) return '';
      return one.length >= 3 && /\p{L}/u.test(one) && inName.includes(` ${folded(one)} `) ? '' : glue + one;
    };
    const middle = [glaze, color, item.diameter, item.size, item.volume, item.plug]
      .map((one) => part(', ', one))
      .join('');
    const format = part(', ', item.bookFormat);
    const material = part(' · ', item.material);
    const use = part(' · ', item.use);
    const brandPart = part('', item.brand);
    const front = brandPart === '' ? '' : `${brandPart} `;
    let title: string | undefined = front + name + middle + format + material + use;
    if (title.length > 150) title = front + name + middle + format + material;
    if (title.length > 150) title = front + name + middle + format;
    if (title.length > 150) title = name + middle + format;
    if (title.length > 150) title = shortenAtWord(name, name.length - (title.length - 150)) + middle + format;
    if (title.toLowerCase().includes('best price')) title = title.split(', BEST PRICE').join('');
    title = title || undefined;
    if (text(item.plug)?.toLowerCase() === 'type g') reason = 'plug is not sold in Germany';

    const picture = image?.[0];
    const more = image !== undefined && image.length > 1 ? image.slice(1, 10) : undefined;
    const url = text(item.url);
    const mpn = text(item.mpn);
    const width = text(item.width);
    const height = text(item.height);
    const weight = text(item.weight);
    const contents = text(item.volume);
    const warning = text(item.warning);
    const ageRange = text(item.ageRange);
    const author = text(item.author);
    const materialText = text(item.material);
    const patternText = text(item.pattern);
    const values: (Value | undefined)[] = [
      sku,
      title,
      about,
      url,
      picture,
      more,
      price,
      undefined,
      stockState,
      undefined,
      place,
      category,
      barcode,
      brand,
      mpn,
      undefined,
      state,
      colour,
      size,
      forGender,
      undefined,
      materialText,
      patternText,
      width,
      height,
      undefined,
      weight,
      contents,
      undefined,
      warning,
      ageRange,
      author,
      binding,
      undefined,
    ];
    const issues: HandIssue[] = [];
    if (reason !== undefined) return { sku, state: 'leftOut', reason, values, issues };
    let blocked = false;
    const block = (check: string, field: string, facts: object) => {
      blocked = true;
      issues.push({ check, severity: 'blocker', field, facts });
    };
    const tip = (check: string, field: string, facts: object) =>
      issues.push({ check, severity: 'tip', field, facts });
    const must = (value: unknown, field: string) =>
      value === undefined && block('missing', field, { need: 'must' });
    const should = (value: unknown, field: string) =>
      value === undefined && tip('missing', field, { need: 'should' });
    const here = (value: unknown, field: string, why: string) =>
      value === undefined && block('missing', field, { need: 'must', because: why });
    must(sku, 'ref');
    must(title, 'headline');
    must(about, 'about');
    must(url, 'page');
    must(picture, 'picture');
    should(more, 'more_pictures');
    must(price, 'price');
    must(stockState, 'stock');
    const low = stockState?.toLowerCase();
    if (low === 'pre_order' || low === 'back_order') here(undefined, 'stock_from', because.stockFrom);
    must(place, 'place');
    should(category, 'own_category');
    if (place === '3101') here(barcode, 'barcode', because.barcode);
    must(brand, 'brand');
    should(undefined, 'family');
    must(state, 'condition');
    if (place !== undefined && clothing.has(place)) {
      here(colour, 'colour', because.clothing);
      here(size, 'size', because.clothing);
      here(forGender, 'gender', because.clothing);
      here(undefined, 'age_group', because.clothing);
    }
    should(materialText, 'material');
    should(weight, 'weight');
    if (place === '7321') here(contents, 'contents', because.contents);
    if (place === '6101') here(undefined, 'energy_class', because.energy);
    if (place === '3101') here(author, 'author', because.author);
    should(undefined, 'highlights');
    if (barcode === undefined && mpn === undefined) block('oneOfSets', 'barcode', {});
    const long = (value: string | undefined, field: string, most: number) =>
      value !== undefined &&
      value.length > most &&
      block('tooLong', field, { length: value.length, most, measure: 'characters' });
    const choice = (value: string | undefined, field: string, allowed: ReadonlySet<string>) =>
      value !== undefined &&
      !allowed.has(value) &&
      block('choice', field, { found: value, choices: allowed.size });
    const link = (value: string | undefined, field: string) =>
      value !== undefined && !linkForm.test(value) && block('link', field, { found: value });
    const form = (value: string | undefined, field: string, expression: RegExp) =>
      value !== undefined && !expression.test(value) && block('pattern', field, { found: value });
    long(sku, 'ref', 50);
    long(title, 'headline', 150);
    if (title !== undefined && title.length < 5) block('tooShort', 'headline', { length: title.length });
    if (about !== undefined) {
      long(about, 'about', 5000);
      if (about.length < 20)
        block('tooShort', 'about', {
          length: about.length,
          least: 20,
          measure: 'characters',
          advised: false,
        });
      else if (about.length < 500)
        tip('tooShort', 'about', { length: about.length, least: 500, measure: 'characters', advised: true });
    }
    link(url, 'page');
    link(picture, 'picture');
    if (more !== undefined) for (const one of more) link(one, 'more_pictures');
    if (price !== undefined) {
      if (!/^\d+\.\d{2} EUR$/.test(price)) block('money', 'price', { found: price });
      else if (price.charCodeAt(0) === 48 && Number.parseFloat(price) === 0)
        block('money', 'price', { found: price });
    }
    choice(stockState, 'stock', states);
    if (place !== undefined && !leaves.has(place)) block('category', 'place', { found: place });
    long(category, 'own_category', 250);
    if (
      barcode !== undefined &&
      !(barcode.length === 13 && /^[13-8]\d+$/.test(barcode) && checkDigitHolds(barcode))
    ) {
      if (
        !((barcode.length === 13 && !/^(02|04|05|2|98|99)/.test(barcode)) || barcode.length === 14) ||
        !checkDigitHolds(barcode)
      )
        block('identifier', 'barcode', { found: barcode });
    }
    long(brand, 'brand', 70);
    long(mpn, 'part_number', 70);
    choice(state, 'condition', conditions);
    choice(colour, 'colour', colourChoices);
    long(size, 'size', 30);
    choice(forGender, 'gender', genders);
    long(materialText, 'material', 200);
    long(patternText, 'pattern', 100);
    form(width, 'width', lengthForm);
    form(height, 'height', lengthForm);
    form(weight, 'weight', weightForm);
    form(contents, 'contents', contentsForm);
    long(warning, 'safety_note', 500);
    long(author, 'author', 200);
    choice(binding, 'binding', bindings);
    const risk = (check: string, field: string, found: string) =>
      issues.push({ check, severity: 'risk', field, facts: { found } });
    for (const [text, field, measured] of [
      [sku, 'ref', true],
      [title, 'headline', true],
      [about, 'about', true],
      [category, 'own_category', true],
      [brand, 'brand', true],
      [mpn, 'part_number', true],
      [size, 'size', true],
      [materialText, 'material', true],
      [patternText, 'pattern', true],
      [warning, 'safety_note', true],
      [author, 'author', true],
      [width, 'width', false],
      [height, 'height', false],
      [weight, 'weight', false],
      [contents, 'contents', false],
      [ageRange, 'age_range', false],
    ] as const) {
      if (text === undefined) continue;
      if (isRubbish(text)) risk('garbled', field, text);
      if (measured && isDecorated(text)) (field === 'headline' ? risk : tip)('symbols', field, text as never);
    }
    for (const [text, field] of [
      [title, 'headline'],
      [about, 'about'],
    ] as const) {
      if (text === undefined) continue;
      if (isTalk(text)) (field === 'headline' ? risk : tip)('promotion', field, text as never);
      if (isReach(text)) risk('contact', field, text);
    }
    if (title !== undefined) {
      const words = title.match(/\p{L}{4,}/gu) ?? [];
      let loud = 0;
      for (const word of words) if (word === word.toUpperCase() && word !== word.toLowerCase()) loud++;
      if (loud >= 2 && loud > words.length / 2) risk('capitals', 'headline', title);
      const seen = new Set<string>();
      let twice = false;
      for (const part of title.split(/[,·|–;()]/)) {
        const long = part.match(/\p{L}{5,}/gu) ?? [];
        if (long.length === 1 && part.trim() === long[0]) continue;
        for (const word of long) {
          const key = word.toLowerCase();
          if (seen.has(key)) twice = true;
          seen.add(key);
        }
      }
      if (twice) tip('wordTwice', 'headline', { found: title });
      if (title.length > 70) {
        const first = /[\p{L}\p{N}]+/u.exec(name)?.[0];
        if (first !== undefined && title.toLowerCase().indexOf(first.toLowerCase()) >= 70)
          tip('phoneCut', 'headline', { at: 70, first });
      }
    }
    for (const [text, field] of [
      [brand, 'brand'],
      [mpn, 'part_number'],
    ] as const)
      if (text !== undefined && (nothing.has(text.toLowerCase()) || /^[0-]+$/.test(text)))
        risk('placeholder', field, text);
    const pieces = item.inventoryLevel === undefined ? undefined : Number(item.inventoryLevel);
    if (stockState !== undefined || item.availability !== undefined) {
      if (item.availability === 'InStock' && pieces !== undefined && pieces <= 0)
        risk('stock', 'stock', 'used up');
      if (item.availability === 'OutOfStock' && pieces !== undefined && pieces > 0)
        risk('stock', 'stock', 'some left');
      if (
        (item.availability === 'PreOrder' || item.availability === 'BackOrder') &&
        item.availabilityStarts === undefined
      )
        risk('stock', 'stock', 'no date');
    }
    const asked = Number.parseFloat(String(item.price));
    if (asked > 0) {
      if (Number.parseFloat(String(item.cost)) > asked) risk('underCost', 'price', String(item.cost));
      if (Number.parseFloat(String(item.salePrice)) >= asked)
        risk('salePrice', 'price', String(item.salePrice));
      const full = Number.parseFloat(String(item.listPrice));
      if (full > 0 && (full <= asked || full > 5 * asked)) risk('listPrice', 'price', String(item.listPrice));
    }
    const number = text(item.gtin)?.replace(/[\s-]/g, '') ?? '';
    if (/^\d{13}$/.test(number)) {
      const isIsbn = /^97[89]/.test(number) && !number.startsWith('9790');
      const isBook = item.bookFormat !== undefined || item.author !== undefined;
      if (isBook && !isIsbn) risk('isbn', 'barcode', number);
      if (!isBook && isIsbn && !/\bbooks?\b/i.test(`${category} ${name}`)) risk('isbn', 'barcode', number);
    }
    if (mpn !== undefined && folded(mpn) === folded(sku)) risk('ownCode', 'part_number', mpn);
    if (title !== undefined && title.length <= 60) {
      const plain = folded(title);
      for (const other of [text(item.brand), sku, mpn, number])
        if (other !== undefined && other.length === title.length && folded(other) === plain)
          risk('bareTitle', 'headline', title);
    }
    for (const [words, field] of [
      [title, 'headline'],
      [about, 'about'],
    ] as const)
      if (words !== undefined && (isEmptyTalk(words) || (words.length < 40 && nothing.has(folded(words)))))
        risk('placeholder', field, words);
    if (about !== undefined && /^\s*(?:[-–•*·▪►✓]|\d{1,2}[.)])\s/.test(about)) tip('onlyList', 'about', {});
    if (more !== undefined && new Set(more).size < more.length) tip('entryTwice', 'more_pictures', {});
    for (const address of [url, picture, ...(more ?? [])])
      if (address?.includes('?') && /[?&;](?:sid|sessionid|phpsessid|jsessionid)=/i.test(address))
        risk('link', 'page', address);
      else if (address !== undefined && /^https?:\/\/(?:localhost|127\.|10\.|192\.168\.)/.test(address))
        block('link', 'page', { found: address });
    for (const [measure, field] of [
      [weight, 'weight'],
      [width, 'width'],
      [height, 'height'],
    ] as const) {
      const found = measure === undefined ? undefined : /^(\d+(?:\.\d+)?) (kg|g|m|cm|mm)$/.exec(measure);
      if (!found) continue;
      const amount = Number(found[1]) * (inBase[found[2] as string] ?? 1);
      if (amount > (field === 'weight' ? 500 : 20) || amount < 0.0001)
        risk('unlikely', field, measure as string);
    }
    if (ageRange !== undefined && warning === undefined) {
      const age = /(\d+)\s*[-–]?\s*\d*\s*(m)?/i.exec(ageRange);
      if (age && Number(age[1]) * (age[2] ? 1 : 12) < 36) risk('ageWarning', 'safety_note', ageRange);
    }
    return { sku, state: blocked ? 'blocked' : 'ready', reason, values, issues };
  };
}

export const evaluateByHand = handWritten();
