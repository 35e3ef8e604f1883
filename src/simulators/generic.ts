import { SaxesParser } from 'saxes';
import { type Answer, type Call, one, type Row, readTable, Service, type World } from './kit';

/** Listings of an RSS file, by the local names of their elements. @throws where it is not well-formed */
function readRss(xml: string): Row[] {
  const parser = new SaxesParser({ xmlns: true });
  const rows: Record<string, string[]>[] = [];
  let row: Record<string, string[]> | undefined;
  let text = '';
  parser.on('error', (error) => {
    throw error;
  });
  parser.on('opentag', (tag) => {
    if (tag.local === 'item') row = {};
    text = '';
  });
  parser.on('text', (given) => {
    text += given;
  });
  parser.on('closetag', (tag) => {
    if (tag.local === 'item' && row) {
      rows.push(row);
      row = undefined;
    } else if (row && tag.prefix !== '') row[tag.local] = [...(row[tag.local] ?? []), text];
  });
  parser.write(xml).close();
  return rows;
}

/**
 * A simulated channel of no particular kind, for those a merchant describes: it takes RSS or CSV at any path, keeps what has
 * a price, and answers in a shape that nobody else uses.
 */
export class Generic extends Service {
  constructor(world: World, code = 'generic') {
    super(code, 'A channel of the merchant’s own', world, { count: 60, minutes: 1 });
  }

  answer(call: Call): Answer | Promise<Answer> {
    const report = /^\/outcome\/([\w-]+)$/.exec(call.path)?.[1];
    if (call.method === 'GET' && report)
      return this.report(report, {
        working: { progress: 'busy' },
        done: (rows) => ({ progress: 'ready', data: { rows } }),
      });
    if (call.method !== 'POST') return { status: 404, body: { error: 'nothing here' } };
    return this.once(call, () => {
      const text = call.body.toString('utf8');
      const rows = text.trimStart().startsWith('<') ? readRss(text) : readTable(text, ',');
      let refused = 0;
      const answers = rows.map((row) => {
        // The first value is the key, whatever it is called.
        const key = Object.values(row)[0]?.[0] ?? '';
        const price = Object.keys(row).find((name) => /price|cost|amount/i.test(name)) ?? 'price';
        if (one(row, price) !== '') {
          this.hold(key, row, 'G');
          return { item: { key }, verdict: 'yes' };
        }
        refused++;
        const problems = [{ code: 'E7', field: price, text: 'nothing to pay' }];
        this.refuse(key, problems);
        return { item: { key }, verdict: 'no', notes: [{ nr: 'E7', where: price, says: 'nothing to pay' }] };
      });
      return { answers, refused };
    });
  }

  protected override receipt(id: string): Answer {
    return { status: 201, body: { ticket: { nr: id } } };
  }
}
