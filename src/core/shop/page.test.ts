import fc from 'fast-check';
import { pageText, readPage, termWords } from './page';

const page = (head: string, body = '') =>
  `<!doctype html><html><head>${head}</head><body>${body}</body></html>`;
const data = (...of: unknown[]) =>
  of.map((one) => `<script type="application/ld+json">${JSON.stringify(one)}</script>`).join('\n');

const offer = {
  '@type': 'Offer',
  price: '24.90',
  priceCurrency: 'EUR',
  availability: 'https://schema.org/InStock',
  itemCondition: 'https://schema.org/NewCondition',
};
const pot = { '@context': 'https://schema.org', '@type': 'Product', name: 'Ridge pot', sku: 'POT-14' };
const expected = {
  name: 'Ridge pot',
  sku: 'POT-14',
  price: '24.90',
  currency: 'EUR',
  availability: 'InStock',
  condition: 'NewCondition',
};

// Source of the terms and of the shapes they come in: schema.org 29 (Product, Offer, AggregateOffer, PriceSpecification,
// ProductGroup), JSON-LD 1.1.
describe('JSON-LD on a page', () => {
  it.each<[string, unknown]>([
    ['one product with one offer', { ...pot, offers: offer }],
    ['offers as a list', { ...pot, offers: [offer] }],
    [
      'inside a graph',
      { '@context': 'https://schema.org', '@graph': [{ '@type': 'WebSite' }, { ...pot, offers: offer }] },
    ],
    ['a list of things', [{ '@type': 'BreadcrumbList' }, { ...pot, offers: offer }]],
    ['what the page is about', { '@type': 'ItemPage', mainEntity: { ...pot, offers: offer } }],
    ['several types at once', { ...pot, '@type': ['Product', 'IndividualProduct'], offers: offer }],
    [
      'types and terms by http',
      {
        ...pot,
        '@type': 'http://schema.org/Product',
        offers: { ...offer, availability: 'http://schema.org/InStock' },
      },
    ],
    [
      'terms with a prefix or bare',
      { ...pot, offers: { ...offer, availability: 'schema:InStock', itemCondition: 'NewCondition' } },
    ],
    ['a price that is a number', { ...pot, offers: { ...offer, price: 24.9 } }],
    [
      'a price that is specified apart',
      {
        ...pot,
        offers: {
          ...offer,
          price: undefined,
          priceCurrency: undefined,
          priceSpecification: [
            {
              '@type': 'UnitPriceSpecification',
              priceType: 'https://schema.org/ListPrice',
              price: 39,
              priceCurrency: 'EUR',
            },
            { '@type': 'UnitPriceSpecification', price: '24.90', priceCurrency: 'EUR' },
          ],
        },
      },
    ],
    ['offers within an offer', { ...pot, offers: { '@type': 'AggregateOffer', offers: [offer] } }],
    ['a price with a decimal comma and its sign', { ...pot, offers: { ...offer, price: '24,90 €' } }],
  ])('%s', (_what, given) => {
    const [found, ...others] = readPage(page(data(given)));
    expect({ ...found, price: Number(found?.price).toFixed(2) }).toEqual(expected);
    expect(others).toEqual([]);
  });

  it('gives each variant of a group for itself, with what the group says for all', () => {
    const group = {
      '@type': 'ProductGroup',
      name: 'Ridge pot',
      offers: { ...offer, price: undefined },
      hasVariant: [
        { '@type': 'Product', sku: 'POT-10', gtin13: '9520000030070', offers: { ...offer, price: 18.9 } },
        {
          '@type': 'Product',
          sku: 'POT-14',
          gtin: '9520000030148',
          offers: { ...offer, price: 24.9, availability: 'OutOfStock' },
        },
      ],
    };
    expect(readPage(page(data(group)))).toMatchObject([
      { sku: 'POT-10', gtin: '9520000030070', price: '18.9', availability: 'InStock' },
      { sku: 'POT-14', gtin: '9520000030148', price: '24.9', availability: 'OutOfStock' },
    ]);
  });

  it('takes offers that have codes of their own for variants, and several offers of one thing for one', () => {
    const variants = [
      { ...offer, sku: 'POT-10', price: '18.90' },
      { ...offer, sku: 'POT-14', price: '24.90', availability: 'OutOfStock' },
    ];
    expect(readPage(page(data({ ...pot, sku: undefined, offers: variants })))).toMatchObject([
      { name: 'Ridge pot', sku: 'POT-10', price: '18.90', availability: 'InStock' },
      { name: 'Ridge pot', sku: 'POT-14', price: '24.90', availability: 'OutOfStock' },
    ]);
    expect(readPage(page(data({ ...pot, offers: [offer, { ...offer, price: '30' }] })))).toEqual([expected]);
  });

  it('takes the lowest of an aggregate, and no number that is none', () => {
    const [found] = readPage(
      page(
        data({
          ...pot,
          gtin: 'none',
          offers: { '@type': 'AggregateOffer', lowPrice: '18.90', highPrice: '30', priceCurrency: 'EUR' },
        }),
      ),
    );
    expect(found).toEqual({ name: 'Ridge pot', sku: 'POT-14', price: '18.90', currency: 'EUR' });
  });

  it('passes over data that is broken, and reads what stands beside it', () => {
    const broken = '<script type="application/ld+json">{"@type":"Product",</script>';
    const wrapped = `<script type="application/ld+json">//<![CDATA[\n${JSON.stringify({ ...pot, offers: offer })}\n//]]></script>`;
    expect(readPage(page(broken + wrapped))).toHaveLength(1);
    expect(readPage(page(broken))).toEqual([]);
  });

  it('says nothing where a page sells nothing', () => {
    expect(readPage('')).toEqual([]);
    expect(readPage(page('<title>About us</title><meta property="og:title" content="About us">'))).toEqual(
      [],
    );
    expect(readPage(page(data({ '@type': 'Organization', name: 'Quillmoss' })))).toEqual([]);
  });
});

// Source: HTML Standard, 5 Microdata; the markup is that of schema.org's own microdata examples for Product and Offer.
describe('microdata on a page', () => {
  it('reads a product, its offer inside it, values from content, href and text', () => {
    const [found] = readPage(
      page(
        '',
        `<div itemscope itemtype="https://schema.org/Product">
          <span itemprop="name">Ridge <b>pot</b></span>
          <img itemprop="image" src="pot.jpg">
          <meta itemprop="sku" content="POT-14">
          <div itemprop="offers" itemscope itemtype="https://schema.org/Offer">
            <span itemprop="priceCurrency" content="EUR">€</span><span itemprop="price" content="24.90">24,90</span>
            <link itemprop="availability" href="https://schema.org/InStock">In stock
            <link itemprop="itemCondition" href="https://schema.org/NewCondition">
          </div>
          <div itemprop="review" itemscope itemtype="https://schema.org/Review"><span itemprop="name">Great</span></div>
        </div>`,
      ),
    );
    expect(found).toEqual(expected);
  });
});

// Source: the Open Graph protocol, ogp.me, with the properties of its `product` type.
describe('Open Graph on a page', () => {
  it('fills what schema.org does not say, and stands for it where that says nothing', () => {
    const graph = `<meta property="og:title" content="Ridge pot"><meta property="og:type" content="product">
      <meta property="product:price:amount" content="24.90"><meta property="product:price:currency" content="EUR">
      <meta property="product:availability" content="in stock"><meta property="product:condition" content="new">
      <meta property="product:retailer_item_id" content="POT-14">`;
    expect(readPage(page(graph))).toEqual([expected]);
    expect(
      readPage(page(graph + data({ ...pot, name: 'Pot', offers: { price: 19, priceCurrency: 'EUR' } }))),
    ).toEqual([{ ...expected, name: 'Pot', price: '19' }]);
  });

  it('does not spread over the several products of a page', () => {
    const graph =
      '<meta property="og:price:amount" content="1"><meta property="product:availability" content="oos">';
    const found = readPage(page(graph + data([pot, { ...pot, sku: 'POT-10' }])));
    expect(found.map(({ price, availability }) => [price, availability])).toEqual([
      [undefined, undefined],
      [undefined, undefined],
    ]);
  });
});

describe('whatever a page holds', () => {
  it('never throws, and keeps no more than it may', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), fc.json(), (text, json) => {
        readPage(
          `${text}<script type="application/ld+json">${json}</script><div itemscope itemprop="${text}">`,
        );
      }),
    );
    const many = Array.from({ length: 5000 }, (_, at) => ({ ...pot, sku: `S${at}` }));
    expect(readPage(page(data(many))).length).toBeLessThanOrEqual(300);
    const deep = `${'{"@graph":['.repeat(5000)}{}${']}'.repeat(5000)}`;
    expect(readPage(page(`<script type="application/ld+json">${deep}</script>`))).toEqual([]);
    expect(
      readPage('<div itemscope itemtype="https://schema.org/Product">'.repeat(20_000)).length,
    ).toBeLessThan(301);
  });

  it('is the same where it says the same in another order', () => {
    const one = { state: 'read' as const, products: [{ sku: 'A', price: '1' }] };
    const other = { state: 'read' as const, products: [{ price: '1', sku: 'A' }] };
    expect(pageText(one)).toBe(pageText(other));
    expect(pageText(one)).not.toBe(pageText({ ...one, state: 'gone' }));
  });

  it('says terms as words', () => expect(termWords('LimitedAvailability')).toBe('limited availability'));
});
