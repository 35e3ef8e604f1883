import currencies from 'currency-codes';

/** Decimal places of a currency by ISO 4217; undefined where the standard knows no such code. */
export function minorUnits(currency: string): number | undefined {
  return currencies.code(currency)?.digits;
}

/**
 * Signs and words that stand for a currency beside an amount; those that several currencies share name all of them, the
 * most used first. Source of the signs: Unicode CLDR, currency symbols; the words are common practice.
 */
const dollars = ['USD', 'CAD', 'AUD', 'NZD', 'SGD', 'HKD', 'MXN', 'ARS', 'CLP', 'COP', 'TWD'];
const crowns = ['SEK', 'NOK', 'DKK', 'ISK'];
const signs = new Map<string, readonly string[]>(
  Object.entries({
    '€': ['EUR'],
    euro: ['EUR'],
    euros: ['EUR'],
    '£': ['GBP'],
    pounds: ['GBP'],
    $: dollars,
    dollar: dollars,
    dollars: dollars,
    us$: ['USD'],
    // As French writes them.
    $us: ['USD'],
    $ca: ['CAD'],
    $au: ['AUD'],
    '£gb': ['GBP'],
    ca$: ['CAD'],
    c$: ['CAD'],
    a$: ['AUD'],
    au$: ['AUD'],
    nz$: ['NZD'],
    hk$: ['HKD'],
    s$: ['SGD'],
    mx$: ['MXN'],
    r$: ['BRL'],
    '¥': ['JPY', 'CNY'],
    '￥': ['JPY', 'CNY'],
    円: ['JPY'],
    元: ['CNY'],
    fr: ['CHF'],
    sfr: ['CHF'],
    francs: ['CHF'],
    franken: ['CHF'],
    kr: crowns,
    kronor: ['SEK'],
    kroner: ['NOK', 'DKK'],
    zł: ['PLN'],
    zl: ['PLN'],
    kč: ['CZK'],
    kc: ['CZK'],
    ft: ['HUF'],
    lei: ['RON'],
    лв: ['BGN'],
    '₺': ['TRY'],
    tl: ['TRY'],
    '₽': ['RUB'],
    '₴': ['UAH'],
    '₹': ['INR'],
    rs: ['INR'],
    '₩': ['KRW'],
    '₪': ['ILS'],
    '฿': ['THB'],
    '₫': ['VND'],
  }),
);

/**
 * The currency that a sign, a code or a word names.
 * @param expected taken where the sign is shared by several currencies, that one among them
 * @returns an ISO 4217 code, or undefined where it names none
 */
export function currencyOf(word: string, expected?: string): string | undefined {
  const trimmed = word.trim();
  if (/^[A-Za-z]{3}$/.test(trimmed)) {
    const code = trimmed.toUpperCase();
    if (minorUnits(code) !== undefined) return code;
  }
  const plain = trimmed.toLowerCase().replace(/\.$/, '');
  const named = signs.get(plain);
  if (!named) return undefined;
  return expected !== undefined && named.includes(expected) ? expected : named[0];
}
