import {
  type Answer,
  addsUp,
  type Call,
  one,
  type Problem,
  type Row,
  readTable,
  Service,
  type World,
} from './kit';

/** A path of places that want a document, and which. */
const restricted: readonly (readonly [RegExp, string])[] = [
  [/^1300/, 'safety data sheet'],
  [/^41/, 'declaration of conformity'],
  [/^63002/, 'transport test summary'],
];
/** Entries that other merchants have made: the same goods, others under a number that is not theirs, and some without one. */
const others: readonly { readonly number: string; readonly row: Readonly<Record<string, string>> }[] = [
  entry('OB-700001', '9520000042530', 'Quillmoss', 'Quillmoss watering can with a long spout, copper', {
    colour: 'copper',
    contents: '1 l',
  }),
  entry('OB-700002', '9520000042677', 'Verrin', 'Soil probe with display, white', { colour: 'white' }),
  entry('OB-700003', '9520000045401', 'Tarnholt', 'Oval tray in honey glaze', { colour: 'honey' }),
  entry('OB-700004', '9793000041487', 'Sprigwell Press', 'Small Light, Big Leaves', {}),
  entry('OB-700005', '', 'Tarnholt', 'Round saucer for pots, terracotta', { colour: 'terracotta' }),
  entry('OB-700006', '', 'Verrin', 'Moisture meter for potted plants, plum', { colour: 'plum' }),
  entry('OB-700007', '', 'Fernholm', 'Ladder stand for plants', {}),
];

function entry(
  number: string,
  product: string,
  maker: string,
  name: string,
  more: Readonly<Record<string, string>>,
) {
  return { number, row: { product_number: product, maker, entry_name: name, ...more } };
}

/** Words by which entries are found, without those that all have. */
const wordsOf = (text: string): string[] =>
  text
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word.length > 2 && !['with', 'and', 'for', 'the'].includes(word));
/** So many words of a name must be met. */
const MIN_MET = 2;

const talk = /\b(free shipping|best price|sale|gratis|kostenlos|angebot)\b|!!/i;

/** The simulated marketplace Orrin Bazaar: tab-separated files in batches, a report later, leads with members, own numbers. */
export class OrrinBazaar extends Service {
  constructor(world: World) {
    super('orrin-bazaar', 'Orrin Bazaar', world, { count: 10, minutes: 60 });
  }

  private judge(row: Row, families: ReadonlySet<string>): Problem[] {
    const text = (name: string) => one(row, name);
    const problems: Problem[] = [];
    const say = (code: string, field: string, words: string) => problems.push({ code, field, text: words });
    const lead = text('relation') === 'lead';
    if (text('offer_code') === '') say('OB-001', 'offer_code', 'offer_code: value required');
    if (text('entry_name').length < 15) say('OB-110', 'entry_name', 'entry_name: 15..200');
    if (text('entry_name').length > 200) say('OB-110', 'entry_name', 'entry_name: 15..200');
    if (talk.test(text('entry_name'))) say('OB-114', 'entry_name', 'entry_name: shop talk');
    if (text('long_text').length < 50) say('OB-120', 'long_text', 'long_text: 50..2000');
    if (text('place_code') === '') say('OB-130', 'place_code', 'place_code: value required');
    if (!/^https:\/\/\S+$/.test(text('main_picture')))
      say('OB-140', 'main_picture', 'main_picture: unreachable');
    for (const [path, document] of restricted)
      if (path.test(text('place_code')) && !this.kept.merchant[document])
        say('OB-412', 'place_code', `place_code: document missing (${document})`);
    if (lead) {
      if (text('product_number') !== '') say('OB-202', 'product_number', 'product_number: not on leads');
      if (text('offer_price') !== '') say('OB-203', 'offer_price', 'offer_price: not on leads');
      return problems;
    }
    if (text('product_number') !== '' && !addsUp(text('product_number')))
      say('OB-201', 'product_number', 'product_number: checksum');
    if (text('product_number') === '' && (text('maker') === '' || text('maker_part') === ''))
      say('OB-204', 'product_number', 'product_number: value required');
    if (!/^\d+(\.\d+)? [A-Z]{3}$/.test(text('offer_price')))
      say('OB-210', 'offer_price', 'offer_price: amount');
    if (text('relation') === 'member' && !families.has(text('family_code')))
      say('OB-301', 'family_code', 'family_code: no lead');
    return problems;
  }

  answer(call: Call): Answer | Promise<Answer> {
    if (call.method === 'POST' && call.path === '/files')
      return this.once(call, () => this.take(readTable(call.body.toString('utf8'), '\t')));
    if (call.method === 'POST' && call.path === '/offers')
      return this.once(call, () => this.takeOffers(readTable(call.body.toString('utf8'), '\t')));
    const report = /^\/files\/([\w-]+)\/report$/.exec(call.path)?.[1];
    if (call.method === 'GET' && report)
      return this.report(report, {
        working: { status: 'in progress' },
        done: (lines) => ({ status: 'done', lines }),
      });
    if (call.method === 'GET' && call.path === '/entries') {
      const number = call.query.get('product_number') ?? '';
      const words = wordsOf(call.query.get('words') ?? '');
      const entries = this.entries().filter(({ row }) =>
        number !== ''
          ? row.product_number === number
          : wordsOf(row.entry_name ?? '').filter((word) => words.includes(word)).length >= MIN_MET,
      );
      return {
        status: 200,
        body: { entries: entries.slice(0, 10).map(({ number: own, row }) => ({ number: own, ...row })) },
      };
    }
    if (call.method === 'POST' && call.path === '/documents') {
      this.kept.merchant[call.body.toString('utf8').trim()] = 'handed in';
      this.save();
      return { status: 200, body: { documents: Object.keys(this.kept.merchant) } };
    }
    return { status: 404, body: { error: 'nothing here' } };
  }

  /** Every entry there is, once: those of others, and those this merchant's offers stand on. */
  private entries(): readonly { readonly number: string; readonly row: Readonly<Record<string, string>> }[] {
    const found = new Map(others.map((one) => [one.number, one]));
    for (const { number, row } of Object.values(this.kept.listings))
      if (!found.has(number))
        found.set(number, {
          number,
          row: Object.fromEntries(Object.entries(row).map(([name, [text = '']]) => [name, text])),
        });
    return [...found.values()];
  }

  /** What is wrong with an offer that joins an entry: most of it stands in the entry. */
  private judgeJoining(row: Row): Problem[] {
    const problems: Problem[] = [];
    const say = (code: string, field: string, words: string) => problems.push({ code, field, text: words });
    const number = one(row, 'entry_number');
    if (one(row, 'offer_code') === '') say('OB-001', 'offer_code', 'offer_code: value required');
    if (!this.entries().some((known) => known.number === number))
      say('OB-206', 'entry_number', 'entry_number: not known');
    if (one(row, 'entry_name') !== '')
      say('OB-205', 'entry_number', 'entry_number: the entry has a name already');
    if (!/^\d+(\.\d+)? [A-Z]{3}$/.test(one(row, 'offer_price')))
      say('OB-210', 'offer_price', 'offer_price: amount');
    if (one(row, 'stock_state') === '') say('OB-211', 'stock_state', 'stock_state: value required');
    if (one(row, 'goods_condition') === '')
      say('OB-212', 'goods_condition', 'goods_condition: value required');
    return problems;
  }

  /** Prices and stock alone, of offers that are there. */
  private takeOffers(rows: readonly Row[]) {
    let refused = 0;
    const answers = rows.map((row) => {
      const offer = one(row, 'offer_code');
      const blocked = this.kept.listings[offer];
      const wrong = !blocked
        ? { id: 'OB-404', column: 'offer_code', message: 'offer_code: not known' }
        : /^\d+(\.\d+)? [A-Z]{3}$/.test(one(row, 'offer_price'))
          ? undefined
          : { id: 'OB-210', column: 'offer_price', message: 'offer_price: amount' };
      if (!blocked || wrong) {
        refused++;
        return { offer, outcome: 'error', messages: [wrong] };
      }
      this.kept.listings[offer] = { number: blocked.number, row: { ...blocked.row, ...row } };
      return { offer, outcome: 'ok', entry: blocked.number, messages: [] };
    });
    return { answers, refused };
  }

  private take(rows: readonly Row[]) {
    const leads = [...Object.entries(this.kept.listings).map(([, { row }]) => row), ...rows]
      .filter((row) => one(row, 'relation') === 'lead')
      .map((row) => one(row, 'family_code') || one(row, 'offer_code'));
    const families = new Set(leads);
    let refused = 0;
    const answers = rows.map((row) => {
      const offer = one(row, 'offer_code');
      if (one(row, 'action') === 'delete') {
        const was = this.kept.listings[offer];
        delete this.kept.listings[offer];
        return { offer, outcome: 'ok', entry: was?.number ?? null, messages: [] };
      }
      const joins = one(row, 'entry_number');
      const problems = joins === '' ? this.judge(row, families) : this.judgeJoining(row);
      if (problems.length > 0) {
        refused++;
        this.refuse(offer, problems);
        return {
          offer,
          outcome: 'error',
          messages: problems.map(({ code, field, text }) => ({ id: code, column: field, message: text })),
        };
      }
      // An entry that is known under the product's number is joined, not made anew.
      const number = one(row, 'product_number');
      const joined = Object.values(this.kept.listings).find(
        (entry) => number !== '' && one(entry.row, 'product_number') === number,
      )?.number;
      const entry = joins || (this.kept.listings[offer]?.number ?? joined ?? this.number('OB'));
      this.kept.listings[offer] = { number: entry, row };
      const short = joins === '' && one(row, 'long_text').length < 150;
      return {
        offer,
        outcome: 'ok',
        entry,
        messages: short ? [{ id: 'OB-121', column: 'long_text', message: 'long_text: short' }] : [],
      };
    });
    return { answers, refused };
  }
}
