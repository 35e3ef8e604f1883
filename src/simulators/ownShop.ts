import { fetchFile } from './fetching';
import { type Answer, type Call, one, type Row, Service, type ShopPage, type World } from './kit';

const safe = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

/** The merchant's own simulated shop: fetches its listings, and serves the pages that the other channels visit. */
export class OwnShop extends Service {
  constructor(world: World) {
    super('own-shop', 'Own shop', world, { count: 60, minutes: 1 });
  }

  /** The page at an address, whatever host it names. */
  pageAt(address: string): ShopPage | undefined {
    const path = (text: string) => (URL.canParse(text) ? new URL(text).pathname : text);
    const wanted = path(address);
    const listing = Object.values(this.kept.listings).find(
      ({ row }) => path(one(row, 'page_address')) === wanted,
    );
    if (!listing) return undefined;
    const { row } = listing;
    const text = (name: string) => one(row, name);
    const [price = '', currency = ''] = text('price').split(' ');
    const data = {
      '@context': 'https://schema.org',
      '@type': 'Product',
      name: text('heading'),
      sku: text('handle'),
      image: row.pictures ?? [],
      ...(text('gtin') ? { gtin: text('gtin') } : {}),
      offers: {
        '@type': 'Offer',
        price,
        priceCurrency: currency,
        availability: `https://schema.org/${text('availability')}`,
      },
    };
    const html = `<!doctype html><html><head><meta charset="utf-8"><title>${safe(text('page_title') || text('heading'))}</title>
<meta name="description" content="${safe(text('page_description'))}">
<meta property="og:title" content="${safe(text('heading'))}">
<meta property="og:type" content="product">
<meta property="og:image" content="${safe(row.pictures?.[0] ?? '')}">
<meta property="og:url" content="${safe(text('page_address'))}">
<script type="application/ld+json">${JSON.stringify(data).replace(/</g, '\\u003c')}</script>
</head><body><h1>${safe(text('heading'))}</h1><p>${safe(text('price'))}</p></body></html>`;
    return { html, price: text('price'), availability: text('availability') };
  }

  answer(call: Call): Answer | Promise<Answer> {
    if (call.method === 'GET' && call.path.startsWith('/pages/')) {
      this.kept.visits = [
        ...this.kept.visits.slice(-1999),
        { path: call.path, at: Date.now(), agent: call.header('user-agent') },
      ];
      if (call.path === '/pages/robots.txt')
        return { status: 200, html: 'User-agent: *\nDisallow: /basket\nDisallow: /pictures/\n' };
      const page = this.pageAt(`/${call.path.slice('/pages/'.length)}`);
      return page ? { status: 200, html: page.html } : { status: 404, body: { error: 'no such page' } };
    }
    if (call.method === 'POST' && call.path === '/fetches') {
      const { address, country } = JSON.parse(call.body.toString('utf8'));
      return this.once(call, async () => {
        const file = await fetchFile(address);
        this.kept.feeds[country] = { address, etag: file.etag, fetchedAt: Date.now() };
        const rows: Row[] = JSON.parse(file.text).map((given: Record<string, unknown>) =>
          Object.fromEntries(
            Object.entries(given).map(([name, value]) => [
              name,
              (Array.isArray(value) ? value : [value]).map(String),
            ]),
          ),
        );
        // What the file does not hold is not in the shop any more.
        const named = new Set(rows.map((row) => one(row, 'handle')));
        for (const key of Object.keys(this.kept.listings))
          if (!named.has(key)) delete this.kept.listings[key];
        let refused = 0;
        const answers = rows.map((row) => {
          const handle = one(row, 'handle');
          const missing = ['heading', 'page_address', 'price'].filter((name) => one(row, name) === '');
          if (missing.length > 0) {
            refused++;
            const problems = missing.map((field) => ({ code: 'empty', field, text: `${field} is empty` }));
            this.refuse(handle, problems);
            return { ref: handle, result: 'refused', problems };
          }
          return { ref: handle, result: 'accepted', number: this.hold(handle, row, 'P'), problems: [] };
        });
        return { answers, refused };
      });
    }
    const report = /^\/fetches\/([\w-]+)$/.exec(call.path)?.[1];
    if (call.method === 'GET' && report)
      return this.report(report, { working: { state: 'working' }, done: (entries) => ({ entries }) });
    return { status: 404, body: { error: 'nothing here' } };
  }
}
