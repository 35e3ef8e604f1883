import { SaxesParser } from 'saxes';
import { fetchFile } from './fetching';
import { type Answer, addsUp, type Call, type Problem, Service, type World } from './kit';

/**
 * The simulated ads channel Lanternry. It knows only the file that it fetches and judges it by rules of its own,
 * some of which nobody told its senders. It shares no code with the application on purpose.
 */
export interface ReportEntry {
  ref: string;
  result: 'accepted' | 'refused';
  problems: Problem[];
}

type Entry = Record<string, string[]>;

/** Reads the channel's own elements of every entry. @throws where the file is not well-formed */
export function readFile(xml: string): Entry[] {
  const parser = new SaxesParser({ xmlns: true });
  const entries: Entry[] = [];
  let entry: Entry | undefined;
  let text = '';
  parser.on('error', (error) => {
    throw error;
  });
  parser.on('opentag', (tag) => {
    if (tag.local === 'entry') entry = {};
    text = '';
  });
  parser.on('text', (data) => {
    text += data;
  });
  parser.on('closetag', (tag) => {
    if (tag.local === 'entry' && entry) entries.push(entry);
    else if (entry && tag.uri === 'urn:lively-cart:channel:lanternry:1') {
      entry[tag.local] ??= [];
      entry[tag.local]?.push(text);
    }
  });
  parser.write(xml).close();
  return entries;
}

const currencyOf: Record<string, string> = { DE: 'EUR', AT: 'EUR', GB: 'GBP' };

type Rule = (entry: Entry, one: (field: string) => string) => Problem | undefined;

const rules: readonly Rule[] = [
  (_, one) =>
    one('headline') === '' ? { code: 'L100', field: 'headline', text: 'Headline missing' } : undefined,
  (_, one) =>
    one('headline').length > 150
      ? { code: 'L101', field: 'headline', text: 'Headline longer than 150' }
      : undefined,
  (_, one) =>
    /best price|cheap|free shipping|sale\b|!!|\bdeal\b/i.test(one('headline'))
      ? { code: 'L104', field: 'headline', text: 'Promotional text in the headline is not allowed' }
      : undefined,
  (_, one) => {
    const letters = one('headline').replace(/[^A-Za-z]/g, '');
    return letters.length > 8 && letters.replace(/[^A-Z]/g, '').length > letters.length * 0.6
      ? { code: 'L105', field: 'headline', text: 'Headline is written in capitals' }
      : undefined;
  },
  (_, one) =>
    one('about').length < 20
      ? { code: 'L110', field: 'about', text: 'About is too short to show' }
      : undefined,
  (_, one) =>
    !/^https:\/\//.test(one('page'))
      ? { code: 'L120', field: 'page', text: 'Page must be an https address' }
      : undefined,
  (_, one) =>
    !/^https:\/\/\S+\.(jpe?g|png|gif|tiff?)$/i.test(one('picture'))
      ? { code: 'L130', field: 'picture', text: 'Picture cannot be fetched' }
      : undefined,
  (_, one) =>
    one('barcode') !== '' && !addsUp(one('barcode'))
      ? { code: 'L140', field: 'barcode', text: 'Barcode does not exist' }
      : undefined,
  (_, one) =>
    one('barcode') === '' && (one('brand') === '' || one('part_number') === '')
      ? { code: 'L141', field: 'barcode', text: 'Neither barcode nor brand with part number' }
      : undefined,
  (_, one) => (one('place') === '' ? { code: 'L150', field: 'place', text: 'Category missing' } : undefined),
  (_, one) =>
    one('place').startsWith('5') &&
    (one('gender') === '' || one('age_group') === '' || one('size') === '' || one('colour') === '')
      ? { code: 'L151', field: 'size', text: 'Clothing needs colour, size, gender and age group' }
      : undefined,
  (_, one) =>
    one('place').startsWith('74') && !/\b(sow|seed|grow)/i.test(one('about') + one('headline'))
      ? { code: 'L160', field: 'about', text: 'Seeds must say how they are sown' }
      : undefined,
  (_, one) =>
    one('weight') !== '' && Number.parseFloat(one('weight')) > 3 && /seeds/i.test(one('headline'))
      ? { code: 'L170', field: 'weight', text: 'Shipping weight is not believable' }
      : undefined,
];

/** Judges a whole file, as of one country. */
export function judge(entries: readonly Entry[], country: string): ReportEntry[] {
  const holders = new Map<string, number>();
  for (const entry of entries)
    for (const code of entry.barcode ?? []) holders.set(code, (holders.get(code) ?? 0) + 1);
  return entries.map((entry) => {
    const one = (field: string) => entry[field]?.[0]?.trim() ?? '';
    const problems = rules.flatMap((rule) => rule(entry, one) ?? []);
    const price = /^(\d+(?:\.\d+)?) ([A-Z]{3})$/.exec(one('price'));
    if (!price || Number(price[1]) <= 0)
      problems.push({ code: 'L180', field: 'price', text: 'Price is not a positive amount with currency' });
    else if (price[2] !== currencyOf[country])
      problems.push({ code: 'L181', field: 'price', text: `Price must be in ${currencyOf[country]}` });
    if ((holders.get(one('barcode')) ?? 0) > 1)
      problems.push({ code: 'L142', field: 'barcode', text: 'Barcode is on another entry of this file' });
    return { ref: one('ref'), result: problems.length > 0 ? 'refused' : 'accepted', problems };
  });
}

const wordsOfShop: Readonly<Record<string, string>> = {
  available: 'InStock',
  sold_out: 'OutOfStock',
  pre_order: 'PreOrder',
  back_order: 'BackOrder',
};

export class Lanternry extends Service {
  constructor(world: World) {
    super('lanternry', 'Lanternry', world, { count: 6, minutes: 1 });
  }

  /** What the shop's page says otherwise than the file; nothing where there is no such page. */
  private disagrees(entry: Entry): Problem[] {
    const page = this.world.page(entry.page?.[0] ?? '');
    if (!page) return [];
    const [price, stock] = [entry.price?.[0] ?? '', entry.stock?.[0] ?? ''];
    return [
      ...(page.price !== price && page.price.slice(-3) === price.slice(-3)
        ? [{ code: 'L190', field: 'price', text: `Page says ${page.price}` }]
        : []),
      ...((wordsOfShop[stock] ?? stock) !== page.availability
        ? [{ code: 'L191', field: 'stock', text: `Page says ${page.availability}` }]
        : []),
    ];
  }

  private async fetch(address: string, country: string) {
    const file = await fetchFile(address);
    this.kept.feeds[country] = {
      ...this.kept.feeds[country],
      address,
      etag: file.etag,
      fetchedAt: Date.now(),
    };
    const entries = readFile(file.text);
    const named = new Set(entries.map((entry) => entry.ref?.[0] ?? ''));
    for (const key of Object.keys(this.kept.listings)) {
      const [of, ref] = [key.slice(0, 2), key.slice(3)];
      if (of === country && !named.has(ref)) delete this.kept.listings[key];
    }
    const judged = judge(entries, country);
    let refused = 0;
    const answers = judged.map((one, at): ReportEntry => {
      const entry = entries[at] ?? {};
      const problems = [...one.problems, ...this.disagrees(entry)].filter(
        ({ code }) => !this.kept.givenUp.includes(code),
      );
      if (problems.length === 0) {
        this.hold(`${country} ${one.ref}`, entry, 'L');
        return { ref: one.ref, result: 'accepted', problems };
      }
      refused++;
      this.refuse(one.ref, problems);
      return { ref: one.ref, result: 'refused', problems };
    });
    return { answers, refused };
  }

  /** Fetches every feed again by itself, whatever its merchant says; a file that is away leaves everything as it is. */
  override async lookAgain(): Promise<void> {
    for (const [country, { address, receipt }] of Object.entries(this.kept.feeds)) {
      const found = await this.fetch(address, country).catch(() => undefined);
      const taken = this.kept.taken[receipt ?? ''];
      // Its last report says what it decided since.
      if (found && taken) Object.assign(taken, found, { refused: found.refused });
    }
    this.save();
  }

  async answer(call: Call): Promise<Answer> {
    if (call.method === 'GET' && call.path === '/listings') return this.list(call);
    if (call.method === 'POST' && call.path === '/fetches') {
      const { address, country } = JSON.parse(call.body.toString('utf8'));
      const answer = await this.once(call, () => this.fetch(address, country));
      const { id } = (answer.body ?? {}) as { id?: string };
      const known = this.kept.feeds[country];
      if (answer.status === 202 && id && known) known.receipt = id;
      this.save();
      return answer;
    }
    const report = /^\/fetches\/([\w-]+)\/report$/.exec(call.path)?.[1];
    if (call.method === 'GET' && report)
      return this.report(report, { working: { state: 'working' }, done: (entries) => ({ entries }) });
    return { status: 404, body: { error: 'nothing here' } };
  }
}
