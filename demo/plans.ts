import { type Plan, planSchema } from '../src/core/plans/plan';

/** The plans of the demo's other feeds, as the people of the invented shop have set them up so far. */

type Step = Record<string, unknown>;
type Part = Record<string, unknown>;

const from = (attribute: string, ...steps: Step[]): Part => ({ attribute, steps });
const word = (text: string): Part => ({ text });
const alternatives = (...parts: Part[][]) => ({ alternatives: parts.map((one) => ({ parts: one })) });
/** The first attribute that is filled. */
const first = (...attributes: string[]) => alternatives(...attributes.map((one) => [from(one)]));
const attribute = (code: string, ...steps: Step[]) => alternatives([from(code, ...steps)]);
const always = (text: string) => alternatives([word(text)]);
const lookUp = (table: string): Step => ({ step: 'lookUp', table, otherwise: 'keep' });
const pictures = (start: number, end: number): Step => ({ step: 'take', from: start, to: end });

const gtin = attribute('gtin', { step: 'keepDigits' }, { step: 'gtinForm', digits: 'short' });
const money = attribute('price', { step: 'money' });
const plain = attribute('description', { step: 'stripMarkup' });
const brand = alternatives([from('brand')], [word('Quillmoss')]);

const title = (keep: string[], parts: string[], dropFirst: string[]) => ({
  parts: parts.map((code, at) => ({ attribute: code, glue: at < 2 ? ' ' : ', ' })),
  dropFirst,
  keep,
});
const variantParts = ['glaze', 'color', 'diameter', 'size', 'volume', 'plug', 'bookFormat'];

/** Colours of the shop by the plain words that most channels take. */
const colours = {
  moss: 'green',
  chalk: 'white',
  ink: 'blue',
  terracotta: 'red',
  honey: 'yellow',
  slate: 'grey',
  plum: 'purple',
  fern: 'green',
  oat: 'beige',
  umber: 'brown',
  marigold: 'yellow',
  lake: 'blue',
  brick: 'red',
  ash: 'grey',
};
const colores = {
  moss: 'verde',
  chalk: 'blanco',
  ink: 'azul',
  terracotta: 'rojo',
  honey: 'amarillo',
  slate: 'gris',
  plum: 'morado',
  fern: 'verde',
  oat: 'beige',
  umber: 'marrón',
  marigold: 'amarillo',
  lake: 'azul',
  brick: 'rojo',
  ash: 'gris',
  white: 'blanco',
};
const conditionOf = (fresh: string) => ({ NewCondition: fresh });

const places = (given: Record<string, string>) =>
  Object.fromEntries(
    Object.entries(given).map(([name, category]) => [
      name,
      category.startsWith('–') ? { leaveOut: category.slice(1).trim() } : { category },
    ]),
  );

const plugs = {
  id: 'uk-plugs',
  name: 'Lights with a British plug stay out',
  on: true,
  when: { attribute: 'plug', is: 'equals', value: 'Type G' },
  then: [{ do: 'leaveOut', reason: 'plug is not sold here' }],
};

const orrin = {
  channel: 'orrin-bazaar',
  market: { country: 'DE', language: 'de', currency: 'EUR' },
  fields: {
    offer_code: attribute('sku'),
    maker: brand,
    maker_part: attribute('mpn'),
    product_number: gtin,
    long_text: plain,
    main_picture: attribute('image', pictures(1, 1)),
    other_pictures: attribute('image', pictures(2, 9)),
    offer_price: money,
    stock_state: attribute('availability', lookUp('stock')),
    stock_from: attribute('availabilityStarts'),
    quantity: attribute('inventoryLevel'),
    held_by: always('merchant'),
    goods_condition: attribute('itemCondition', lookUp('condition')),
    family_code: attribute('family'),
    varies_by: alternatives(
      [from('glaze', lookUp('axes'))],
      [from('plug', lookUp('axes'))],
      [from('gender', lookUp('axes'))],
      [from('bookFormat', lookUp('axes'))],
      [word('size')],
    ),
    colour: alternatives([from('glaze', lookUp('colours'))], [from('color', lookUp('colours'))]),
    colour_name: first('glaze', 'color'),
    size: first('size', 'diameter'),
    department: attribute('gender', lookUp('department')),
    material: attribute('material'),
    pot_diameter: attribute('diameter'),
    contents: attribute('volume'),
    plug_type: attribute('plug', { step: 'replace', find: 'Type ', with: '' }),
    efficiency: attribute('energyClass'),
    item_weight: attribute('weight'),
    origin: attribute('countryOfOrigin'),
    age_from: attribute('ageRange'),
    warning: attribute('warning'),
    author: attribute('author'),
    binding: attribute('bookFormat', { step: 'case', to: 'lower' }),
    best_before: attribute('sowBy'),
    responsible: always('Quillmoss Indoor Garden, Moosweg 7, 95200 Farnfeld'),
  },
  tables: {
    stock: { InStock: 'in_stock', OutOfStock: 'out_of_stock', PreOrder: 'pre_order' },
    condition: conditionOf('new'),
    colours,
    department: { unisex: 'all', women: 'women', men: 'men' },
    axes: {
      ...Object.fromEntries(Object.keys(colours).map((glaze) => [glaze, 'diameter'])),
      'Type C': 'plug',
      'Type G': 'plug',
      unisex: 'colour_size',
      Hardcover: 'binding',
      Paperback: 'binding',
      EBook: 'binding',
    },
  },
  placements: places({
    'Pots, glazed': '11001',
    'Grow lights': '21001',
    Aprons: '31001',
    Gloves: '31002',
    Seeds: '14001',
    Books: '51001',
    'Watering cans': '12001',
    'Plant food': '– wants its safety data sheet first',
    'Moisture meters': '13007',
    'Seed kits': '– wants its declaration of conformity first',
    'Trays and saucers': '11006',
    Shelves: '11010',
    Cloches: '15001',
    'Gift wrap': '52005',
    Printables: '– nothing to ship',
  }),
  met: ['address', 'tax_number', 'return_address'],
  title: title(variantParts, ['brand', 'name', ...variantParts, 'material'], ['material', 'brand']),
  rules: [
    plugs,
    {
      id: 'batteries',
      name: 'Meters say which battery they have',
      on: true,
      when: { attribute: 'batteries', is: 'filled' },
      then: [{ do: 'set', field: 'battery_kind', text: 'button' }],
    },
  ],
};

const tessel = {
  channel: 'tessel-boards',
  market: { country: 'DE', language: 'en', currency: 'EUR' },
  scope: { attribute: 'category', is: 'oneOf', value: ['Trays and saucers', 'Cloches', 'Shelves'] },
  fields: {
    card_key: attribute('sku'),
    story: attribute('description', { step: 'stripMarkup' }, { step: 'shorten', most: 800 }),
    lead_picture: attribute('image', pictures(1, 1)),
    more_pictures: attribute('image', pictures(2, 5)),
    picture_words: attribute('name'),
    leads_to: attribute('url'),
    price: money,
    on_hand: attribute('availability', lookUp('stock')),
    condition: attribute('itemCondition', lookUp('condition')),
    brand,
    gtin,
    part_number: attribute('mpn'),
    set_key: attribute('family'),
    colour: first('glaze', 'color'),
    material: attribute('material'),
  },
  tables: {
    stock: { InStock: 'yes', OutOfStock: 'no', PreOrder: 'soon' },
    condition: conditionOf('new'),
  },
  placements: places({
    'Trays and saucers': 'pots-and-stands/drip-trays-and-saucers',
    Shelves: 'pots-and-stands/shelving-for-house-plants',
    Cloches: 'growing/glass-domes-for-seedlings',
  }),
  met: ['website', 'page_data'],
  title: title(
    ['glaze', 'color', 'diameter', 'height', 'width'],
    ['name', 'glaze', 'color', 'diameter', 'height', 'width'],
    [],
  ),
};

const flickerstall = {
  channel: 'flickerstall',
  market: { country: 'DE', language: 'en', currency: 'EUR' },
  fields: {
    stall_code: attribute('sku'),
    details: attribute('description'),
    brand_name: brand,
    code_number: gtin,
    maker_code: attribute('mpn'),
    pictures: attribute('image', pictures(1, 9)),
    amount: money,
    stock_count: attribute('inventoryLevel'),
    sale_state: attribute('availability', lookUp('stock')),
    pre_sale_ships: attribute('availabilityStarts'),
    newness: attribute('itemCondition', lookUp('condition')),
    bundle_code: attribute('family'),
    colour: first('color', 'glaze'),
    size: attribute('size'),
    weight: attribute('weight'),
    made_of: attribute('material'),
    made_in: attribute('countryOfOrigin'),
    mains_plug: attribute('plug', lookUp('plugs')),
    with_batteries: attribute('batteries'),
    age_from: attribute('ageRange'),
    warning_words: attribute('warning'),
    writer: attribute('author'),
  },
  tables: {
    stock: { InStock: 'now', OutOfStock: 'paused', PreOrder: 'pre_sale' },
    condition: conditionOf('new'),
    plugs: { 'Type C': 'eu', 'Type F': 'eu', 'Type G': 'uk' },
  },
  placements: places({
    'Pots, glazed': 'FA1-01',
    'Grow lights': 'FB1-01',
    Aprons: 'FC1-01',
    Gloves: 'FC1-02',
    Seeds: 'FA4-01',
    Books: 'FE1-01',
    'Watering cans': 'FA2-01',
    'Moisture meters': 'FA3-07',
    'Seed kits': 'FD1-01',
    'Trays and saucers': 'FA1-06',
    Shelves: 'FA1-10',
    Cloches: 'FA5-01',
    'Gift wrap': 'FE2-05',
    'Plant food': '– not filmed yet',
    Printables: '– nothing to ship',
  }),
  met: ['warehouse', 'bank_account'],
  title: title(variantParts, ['brand', 'name', ...variantParts, 'material'], ['material']),
  rules: [
    plugs,
    {
      id: 'code-kind',
      name: 'Numbers of thirteen digits are EANs',
      on: true,
      when: { field: 'code_number', is: 'filled' },
      then: [{ do: 'set', field: 'code_kind', text: 'ean' }],
    },
    {
      id: 'book-numbers',
      name: 'Numbers of books are ISBNs',
      on: true,
      when: { field: 'code_number', is: 'startsWith', value: '97' },
      then: [{ do: 'set', field: 'code_kind', text: 'isbn' }],
    },
  ],
};

const plazuela = {
  channel: 'plazuela-norte',
  market: { country: 'ES', language: 'es', currency: 'EUR' },
  fields: {
    referencia: attribute('sku'),
    descripcion: plain,
    marca: brand,
    codigo_barras: gtin,
    numero_pieza: attribute('mpn'),
    foto_principal: attribute('image', pictures(1, 1)),
    otras_fotos: attribute('image', pictures(2, 9)),
    enlace: attribute('url'),
    precio: money,
    existencias: attribute('inventoryLevel'),
    disponibilidad: attribute('availability', lookUp('existencias')),
    fecha_llegada: attribute('availabilityStarts'),
    estado: attribute('itemCondition', lookUp('estado')),
    peso: attribute('weight'),
    familia: attribute('family'),
    color: alternatives([from('glaze', lookUp('colores'))], [from('color', lookUp('colores'))]),
    talla: attribute('size'),
    genero: attribute('gender', lookUp('genero')),
    material: attribute('material'),
    diametro: attribute('diameter'),
    contenido: attribute('volume'),
    clase_energetica: attribute('energyClass'),
    origen: attribute('countryOfOrigin'),
    fecha_siembra: attribute('sowBy'),
    autor: attribute('author'),
    encuadernacion: attribute('bookFormat', lookUp('tapas')),
    edad: attribute('ageRange'),
    advertencia: attribute('warning'),
    pilas: attribute('batteries'),
  },
  tables: {
    existencias: { InStock: 'disponible', OutOfStock: 'agotado', PreOrder: 'reserva' },
    estado: conditionOf('nuevo'),
    colores,
    genero: { unisex: 'unisex', women: 'mujer', men: 'hombre' },
    tapas: { Hardcover: 'dura', Paperback: 'blanda', EBook: 'digital' },
  },
  placements: places({
    'Pots, glazed': '01.01.01',
    'Grow lights': '02.01.01',
    Aprons: '03.01.01',
    Gloves: '03.01.02',
    Seeds: '01.04.01',
    Books: '05.01.01',
    'Watering cans': '01.02.01',
    'Moisture meters': '01.03.07',
    'Seed kits': '04.01.01',
    'Trays and saucers': '01.01.06',
    Shelves: '01.01.10',
    Cloches: '01.05.01',
    'Gift wrap': '05.02.05',
    'Plant food': '– texto legal pendiente',
  }),
  met: ['full_address', 'tax_number'],
  title: title(variantParts, ['name', ...variantParts], []),
  rules: [plugs],
};

const ownShop = {
  channel: 'own-shop',
  market: { country: 'DE', language: 'en', currency: 'EUR' },
  fields: {
    handle: attribute('sku'),
    // What was typed for the page comes first.
    page_title: alternatives(
      [from('pageTitle')],
      [from('name', { step: 'shorten', most: 44 }), word('· Quillmoss Indoor Garden')],
    ),
    page_description: alternatives(
      [from('pageDescription')],
      [from('description', { step: 'stripMarkup' }, { step: 'shorten', most: 320 })],
    ),
    page_address: attribute('url'),
    body: attribute('description'),
    pictures: attribute('image', pictures(1, 12)),
    picture_text: attribute('name', { step: 'shorten', most: 125 }),
    price: money,
    availability: attribute('availability'),
    available_from: attribute('availabilityStarts'),
    stock: attribute('inventoryLevel'),
    condition: attribute('itemCondition'),
    brand,
    gtin,
    mpn: attribute('mpn'),
    group: attribute('family'),
    colour: first('color', 'glaze'),
    size: first('size', 'diameter'),
    material: attribute('material'),
    weight: attribute('weight'),
    origin: attribute('countryOfOrigin'),
    age: attribute('ageRange'),
    warning: attribute('warning'),
    author: attribute('author'),
    unit_price_base: attribute('volume'),
  },
  tables: {},
  placements: places({
    'Pots, glazed': 'pots/glazed-pots',
    'Grow lights': 'light/plant-lights',
    Aprons: 'wear/aprons',
    Gloves: 'wear/work-gloves',
    Seeds: 'sow/herb-seed',
    Books: 'read/gardening-books',
    'Watering cans': 'water/watering-cans',
    'Plant food': 'feed-and-measure/liquid-feed',
    'Moisture meters': 'feed-and-measure/soil-testers',
    'Seed kits': 'for-children/planting-kits-for-children',
    Printables: 'write-and-wrap/printable-planners',
    'Trays and saucers': 'pots/saucers-for-pots',
    Shelves: 'pots/plant-shelves',
    Cloches: 'under-glass/cloches',
    'Gift wrap': 'write-and-wrap/gift-wrap',
  }),
  // Only what is downloaded says how it arrives.
  perCategory: {
    delivery_note: [{ categories: ['Printables'], composition: always('A file to save, by e-mail') }],
  },
  met: ['imprint'],
  title: title(variantParts, ['name', ...variantParts], []),
};

/**
 * Lanternry in Great Britain, made from the German feed: prices by the shop's own rate for pounds, and lights with the plugs
 * of that country.
 */
function lanternryGb(german: Plan): unknown {
  return {
    ...german,
    market: { country: 'GB', language: 'en', currency: 'GBP' },
    fields: {
      ...german.fields,
      price: attribute(
        'price',
        { step: 'adjust', percent: -14, ending: '0.95' },
        { step: 'number', decimals: 2, currency: 'GBP' },
      ),
    },
    rules: [
      ...german.rules.filter(({ id }) => id !== 'uk-plugs'),
      {
        ...plugs,
        id: 'eu-plugs',
        name: 'Lights with a European plug stay out',
        when: { attribute: 'plug', is: 'equals', value: 'Type C' },
      },
    ],
  };
}

/** The further feeds, in the order in which the board shows them. @throws where one is no valid plan */
export const morePlans = (german: Plan): Plan[] =>
  [lanternryGb(german), orrin, tessel, flickerstall, plazuela, ownShop].map((plan) =>
    planSchema.parse({ format: 'lively-cart/plan@2', ...(plan as object) }),
  );
