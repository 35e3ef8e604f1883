import { readFileSync } from 'node:fs';
import { attributeIndex } from '../catalog/value';
import { fixedText } from '../compose/composition';
import { compile } from '../listing/compile';
import { evaluate } from '../listing/evaluate';
import { emptyPlan } from '../plans/plan';
import { type Channel, readChannel } from './bundle';

/**
 * What each channel asks of an item beyond what it asks of every item: one line a situation, the fields that are then a
 * must and empty, all of them. Read off the sheets' words by a person; common practice, no source.
 */
interface Situation {
  readonly what: string;
  readonly country: string;
  readonly place: string;
  /** What is filled; the rest is empty. */
  readonly filled?: Readonly<Record<string, string>>;
  readonly attributes?: Readonly<Record<string, string>>;
  readonly must: readonly string[];
}

const situations: Readonly<Record<string, readonly Situation[]>> = {
  'orrin-bazaar': [
    {
      what: 'apparel',
      country: 'DE',
      place: '31001',
      must: ['product_number', 'colour', 'size', 'department', 'responsible'],
    },
    {
      what: 'apparel elsewhere',
      country: 'GB',
      place: '31002',
      must: ['product_number', 'colour', 'size', 'department', 'customs_code'],
    },
    {
      what: 'a book',
      country: 'AT',
      place: '51001',
      must: ['product_number', 'responsible', 'author', 'binding'],
    },
    {
      what: 'batteries',
      country: 'DE',
      place: '63001',
      must: ['product_number', 'battery_kind', 'responsible'],
    },
    {
      what: 'a device with batteries',
      country: 'GB',
      place: '13007',
      must: ['product_number', 'customs_code', 'battery_kind'],
    },
    {
      what: 'a liquid',
      country: 'DE',
      place: '13001',
      must: ['product_number', 'contents', 'liquid', 'hazard', 'responsible'],
    },
    {
      what: 'children',
      country: 'IE',
      place: '41001',
      must: ['product_number', 'age_from', 'warning', 'responsible'],
    },
    { what: 'a download', country: 'DE', place: '52001', must: ['product_number', 'responsible'] },
    {
      what: 'pre-order',
      country: 'DE',
      place: '52001',
      filled: { stock_state: 'pre_order' },
      must: ['product_number', 'stock_from', 'responsible'],
    },
    {
      what: 'in stock',
      country: 'DE',
      place: '52001',
      filled: { stock_state: 'in_stock' },
      must: ['product_number', 'responsible'],
    },
    {
      what: 'a deal',
      country: 'DE',
      place: '52001',
      filled: { deal_price: '5.00 EUR' },
      must: ['product_number', 'deal_from', 'deal_until', 'responsible'],
    },
    {
      what: 'one of a family',
      country: 'DE',
      place: '11001',
      filled: { family_code: 'POT' },
      must: ['product_number', 'varies_by', 'pot_diameter', 'responsible'],
    },
    {
      what: 'a lamp',
      country: 'DE',
      place: '21001',
      must: ['product_number', 'plug_type', 'efficiency', 'responsible'],
    },
    {
      what: 'a lamp outside the EU',
      country: 'GB',
      place: '21001',
      must: ['product_number', 'plug_type', 'customs_code'],
    },
    { what: 'seeds', country: 'DE', place: '14001', must: ['product_number', 'responsible', 'best_before'] },
  ],
  lanternry: [
    { what: 'apparel', country: 'DE', place: '5101', must: ['colour', 'size', 'gender', 'age_group'] },
    {
      what: 'apparel elsewhere',
      country: 'GB',
      place: '5102',
      must: ['colour', 'size', 'gender', 'age_group'],
    },
    { what: 'a book', country: 'DE', place: '3101', must: ['barcode', 'author'] },
    { what: 'batteries', country: 'DE', place: '9531', must: [] },
    { what: 'a liquid', country: 'DE', place: '7321', must: ['contents'] },
    { what: 'a liquid elsewhere', country: 'GB', place: '7321', must: [] },
    { what: 'children', country: 'GB', place: '9102', must: ['safety_note', 'age_range'] },
    { what: 'a lamp', country: 'DE', place: '6101', must: ['energy_class'] },
    { what: 'a lamp elsewhere', country: 'GB', place: '6101', must: [] },
    { what: 'pre-order', country: 'DE', place: '7302', filled: { stock: 'pre_order' }, must: ['stock_from'] },
    {
      what: 'back-order',
      country: 'GB',
      place: '7302',
      filled: { stock: 'back_order' },
      must: ['stock_from'],
    },
    { what: 'a download', country: 'DE', place: '3301', must: [] },
  ],
  'tessel-boards': [
    {
      what: 'apparel',
      country: 'DE',
      place: 'workwear/aprons-for-work-and-garden',
      must: ['colour', 'size', 'made_for'],
    },
    {
      what: 'apparel elsewhere',
      country: 'US',
      place: 'clothes/warm-gloves',
      must: ['colour', 'size', 'made_for'],
    },
    { what: 'a book', country: 'DE', place: 'books/books-on-plants-and-gardens', must: [] },
    { what: 'a device with batteries', country: 'GB', place: 'feeding-and-soil/moisture-meters', must: [] },
    { what: 'children', country: 'GB', place: 'toys/first-garden-sets', must: ['age_note'] },
    { what: 'a download', country: 'DE', place: 'paper-and-cards/planners-to-print-at-home', must: [] },
    {
      what: 'pre-order',
      country: 'DE',
      place: 'growing/small-greenhouses',
      filled: { on_hand: 'soon' },
      must: ['coming_on'],
    },
  ],
  flickerstall: [
    { what: 'apparel', country: 'DE', place: 'FC1-01', must: ['colour', 'size', 'made_in'] },
    { what: 'fashion elsewhere', country: 'GB', place: 'FC2-10', must: ['size_chart', 'colour', 'size'] },
    { what: 'a book', country: 'GB', place: 'FE1-01', must: ['writer'] },
    { what: 'batteries', country: 'GB', place: 'FF3-01', must: ['with_batteries'] },
    { what: 'a device with batteries', country: 'ES', place: 'FA3-07', must: ['made_in', 'with_batteries'] },
    { what: 'a liquid', country: 'GB', place: 'FA3-01', must: ['is_liquid'] },
    { what: 'children', country: 'GB', place: 'FD1-01', must: ['age_from', 'warning_words'] },
    { what: 'a lamp', country: 'GB', place: 'FB1-01', must: ['mains_plug'] },
    { what: 'a download', country: 'GB', place: 'FE2-01', must: [] },
    {
      what: 'pre-order',
      country: 'GB',
      place: 'FE2-02',
      filled: { sale_state: 'pre_sale' },
      must: ['pre_sale_ships'],
    },
    {
      what: 'a number without its kind',
      country: 'GB',
      place: 'FE2-02',
      filled: { code_number: '9520000000004' },
      must: ['code_kind'],
    },
  ],
  'plazuela-norte': [
    { what: 'a pot', country: 'ES', place: '01.01.01', must: ['diametro'] },
    { what: 'apparel', country: 'ES', place: '03.01.01', must: ['color', 'talla', 'genero'] },
    { what: 'a book', country: 'ES', place: '05.01.01', must: ['autor', 'encuadernacion'] },
    { what: 'batteries', country: 'ES', place: '06.03.01', must: ['pilas'] },
    { what: 'a device with batteries', country: 'ES', place: '01.03.07', must: ['aviso_consumo', 'pilas'] },
    { what: 'a device with batteries elsewhere', country: 'PT', place: '01.03.07', must: ['pilas'] },
    { what: 'a liquid', country: 'ES', place: '01.03.01', must: ['contenido', 'aviso_consumo'] },
    { what: 'a liquid elsewhere', country: 'PT', place: '01.03.01', must: ['contenido'] },
    { what: 'children', country: 'ES', place: '04.01.01', must: ['edad', 'advertencia'] },
    { what: 'a lamp', country: 'PT', place: '02.01.01', must: ['clase_energetica'] },
    { what: 'seeds', country: 'ES', place: '01.04.01', must: ['fecha_siembra'] },
    { what: 'a download', country: 'ES', place: '05.02.01', must: [] },
    {
      what: 'pre-order',
      country: 'ES',
      place: '05.02.02',
      filled: { disponibilidad: 'reserva' },
      must: ['fecha_llegada'],
    },
  ],
  'own-shop': [
    { what: 'apparel', country: 'DE', place: 'wear/aprons', must: ['colour', 'size', 'weight'] },
    {
      what: 'apparel elsewhere',
      country: 'GB',
      place: 'wear/work-gloves',
      must: ['colour', 'size', 'weight'],
    },
    {
      what: 'a book',
      country: 'DE',
      place: 'read/gardening-books',
      filled: { gtin: '9790000000001' },
      must: ['weight', 'author'],
    },
    {
      what: 'a notebook among the books',
      country: 'DE',
      place: 'read/gardening-books',
      filled: { gtin: '9520000000004' },
      must: ['weight'],
    },
    {
      what: 'a liquid',
      country: 'DE',
      place: 'feed-and-measure/liquid-feed',
      must: ['weight', 'unit_price_base'],
    },
    { what: 'a liquid elsewhere', country: 'ES', place: 'feed-and-measure/liquid-feed', must: ['weight'] },
    {
      what: 'a device with batteries',
      country: 'DE',
      place: 'feed-and-measure/soil-testers',
      must: ['weight'],
    },
    {
      what: 'children',
      country: 'DE',
      place: 'for-children/planting-kits-for-children',
      must: ['weight', 'age', 'warning'],
    },
    {
      what: 'a download',
      country: 'DE',
      place: 'write-and-wrap/printable-planners',
      attributes: { digital: 'true' },
      must: ['delivery_note'],
    },
    {
      what: 'pre-order',
      country: 'DE',
      place: 'light/plant-lights',
      filled: { availability: 'PreOrder' },
      must: ['available_from', 'weight'],
    },
  ],
};

const channels = new Map<string, Channel>();
function channelOf(code: string): Channel {
  const read = (name: string) => readFileSync(`src/channels/${code}/${name}`, 'utf8');
  const known = channels.get(code) ?? readChannel(read('requirements.json'), read('taxonomy.csv'));
  channels.set(code, known);
  return known;
}

/** Runs an item in the situation through the whole pipeline; gives the fields it must have and has not. */
function missing(code: string, { country, place, filled = {}, attributes = {} }: Situation) {
  const { sheet, tree } = channelOf(code);
  const market = sheet.markets.find((one) => one.country === country);
  if (!market) throw new Error(`${code} has no market ${country}`);
  if (tree.byCode.get(place)?.children.length !== 0) throw new Error(`${code} has no category ${place}`);
  const index = attributeIndex(['sku', 'category', ...Object.keys(attributes)]);
  const plan = {
    ...emptyPlan(code, { country, language: market.languages[0] ?? 'en', currency: market.currency }),
    fields: Object.fromEntries(Object.entries(filled).map(([field, text]) => [field, fixedText(text)])),
    placements: { Things: { category: place } },
  };
  const listing = evaluate(compile(plan, sheet, tree, index), 'QM-1', [
    'QM-1',
    'Things',
    ...Object.values(attributes),
  ]);
  return listing.issues.flatMap((issue) =>
    issue.check === 'missing' && issue.severity === 'blocker' ? [issue.field] : [],
  );
}

describe.each(Object.keys(situations))('%s', (code) => {
  const always = new Set(
    channelOf(code).sheet.fields.flatMap((field) => (field.need === 'must' ? [field.code] : [])),
  );
  test.each(situations[code] ?? [])('$what in $country', (situation) => {
    const conditional = missing(code, situation).filter((field) => !always.has(field));
    expect([...conditional].sort()).toEqual([...situation.must].sort());
  });
  test('every condition of the sheet is met by some situation, and not by every one', () => {
    for (const field of channelOf(code).sheet.fields) {
      if (!field.mustWhen) continue;
      const requested = (situations[code] ?? []).filter(({ must }) => must.includes(field.code));
      expect([field.code, requested.length > 0]).toEqual([field.code, true]);
    }
  });
  test('what is a must everywhere is one here', () => {
    const [first] = situations[code] ?? [];
    const found = first ? missing(code, { ...first, filled: {} }) : [];
    const place = channelOf(code).sheet.fields.find(({ kind }) => kind === 'category')?.code;
    for (const field of always) if (field !== place) expect(found).toContain(field);
  });
});

test('the video shop wants a weight even of a download', () => {
  expect(missing('flickerstall', { what: '', country: 'GB', place: 'FE2-01', must: [] })).toContain('weight');
});
