/**
 * The invented shop: Quillmoss Indoor Garden. Every name here is made up; GTINs use the GS1 prefix 952, kept for examples.
 * Mistakes that real catalogs have are made on purpose, in `mistakes`.
 */
import { checkDigit } from '../src/core/identifiers/gtin';

export type DemoItem = Record<string, string>;

interface FamilyPlan {
  code: string;
  name: string;
  category: string;
  brand: string;
  price: number;
  about: string;
  extra?: Record<string, string>;
  axes: Record<string, readonly string[]>;
  /** Price added for each step along an axis. */
  steps?: Record<string, number>;
  most?: number;
  withoutGtin?: boolean;
}

const glazes = ['moss', 'chalk', 'ink', 'terracotta', 'honey', 'slate', 'plum'];
const pot = (
  code: string,
  name: string,
  price: number,
  glazeCount: number,
  sizes: readonly string[],
  about: string,
): FamilyPlan => ({
  code: `POT-${code}`,
  name: `${name} with drip tray and felt feet`,
  category: 'Pots, glazed',
  brand: 'Tarnholt',
  price,
  about,
  extra: { material: 'Stoneware', use: 'for herbs and succulents', countryOfOrigin: 'PT' },
  axes: { glaze: glazes.slice(0, glazeCount), diameter: sizes },
  steps: { diameter: 6 },
});
const light = (
  code: string,
  name: string,
  price: number,
  plugs: readonly string[],
  lengths: readonly string[],
  energy: string,
  about: string,
): FamilyPlan => ({
  code: `LGT-${code}`,
  name,
  category: 'Grow lights',
  brand: 'Verrin',
  price,
  about,
  extra: { material: 'Aluminium', ...(energy ? { energyClass: energy } : {}), countryOfOrigin: 'CZ' },
  axes: { plug: plugs, size: lengths },
  steps: { size: 12 },
});
const garment = (
  code: string,
  name: string,
  category: string,
  price: number,
  colors: readonly string[],
  sizes: readonly string[],
  material: string,
  about: string,
): FamilyPlan => ({
  code,
  name,
  category,
  brand: 'Quillmoss',
  price,
  about,
  extra: { material, gender: 'unisex', ageGroup: 'adults', countryOfOrigin: 'PT' },
  axes: { color: colors, size: sizes },
  withoutGtin: true,
});
const seed = (
  code: string,
  name: string,
  price: number,
  packs: readonly string[],
  about: string,
): FamilyPlan => ({
  code: `SED-${code}`,
  name: `${name} seeds`,
  category: 'Seeds',
  brand: 'Quillmoss',
  price,
  about,
  extra: { sowBy: '2028-03-31', use: 'for window sills', weight: '0.03 kg', countryOfOrigin: 'AT' },
  axes: { size: packs },
  steps: { size: 2 },
});
const book = (
  code: string,
  name: string,
  author: string,
  price: number,
  formats: readonly string[],
  about: string,
): FamilyPlan => ({
  code: `BOK-${code}`,
  name,
  category: 'Books',
  brand: 'Sprigwell Press',
  price,
  about,
  extra: { author, weight: '0.6 kg' },
  axes: { bookFormat: formats },
  steps: { bookFormat: -6 },
});

const packs = ['20 seeds', '60 seeds', '200 seeds'];
const care =
  'Comes packed in recycled card without plastic. Every piece is checked by hand before it leaves us, and spare parts stay available for ten years.';

const families: readonly FamilyPlan[] = [
  pot(
    'RDG',
    'Ridge pot',
    18.9,
    4,
    ['10 cm', '14 cm', '18 cm'],
    'A hand-glazed stoneware pot with fine horizontal ridges. The drip tray catches what the soil cannot hold, and felt feet keep the sill free of scratches.',
  ),
  pot(
    'FEN',
    'Fen pot',
    16.5,
    3,
    ['12 cm', '16 cm'],
    'A low, wide pot for herbs that spread. The glaze runs a little darker towards the foot, so no two are quite alike.',
  ),
  pot(
    'LOM',
    'Loam pot',
    21,
    3,
    ['14 cm', '18 cm'],
    'A tall pot for deep roots, unglazed inside so that the soil can breathe.',
  ),
  pot(
    'HOL',
    'Hollow pot',
    24.5,
    3,
    ['14 cm', '20 cm'],
    'Double-walled, with a hollow that holds two days of water and gives it back slowly.',
  ),
  pot(
    'BRM',
    'Bramble pot',
    19.9,
    4,
    ['12 cm', '16 cm'],
    'Pressed with a bramble leaf before firing; the pattern is felt rather than seen.',
  ),
  pot(
    'TRN',
    'Tarn pot',
    29,
    4,
    ['16 cm', '20 cm'],
    'A round pot with a still, deep glaze like a mountain lake.',
  ),
  light(
    'HAL',
    'Halo grow light with clamp, dimmer and timer',
    39,
    ['Type C', 'Type G'],
    ['20 cm', '40 cm', '60 cm'],
    'E',
    'A ring of warm and cool diodes on a bendable neck. The timer remembers its setting through a power cut.',
  ),
  light(
    'BAR',
    'Bar grow light',
    49,
    ['Type C', 'Type G'],
    ['40 cm', '60 cm', '90 cm'],
    'E',
    'A slim bar that hangs under a shelf. Several can be linked behind one plug.',
  ),
  light(
    'PAN',
    'Panel grow light',
    89,
    ['Type C', 'Type G'],
    ['30 cm', '45 cm'],
    'D',
    'Even light over a whole tray, from a panel as thin as a book.',
  ),
  light(
    'BLB',
    'Bulb grow light',
    14.9,
    ['Type C'],
    ['9 W', '15 W', '22 W'],
    'F',
    'Fits an ordinary lamp holder and turns it into a place for seedlings.',
  ),
  light(
    'STK',
    'Stake grow light',
    27,
    ['Type C', 'Type G'],
    ['25 cm', '40 cm'],
    '',
    'Pushes into the pot itself and shines on one plant only.',
  ),
  light(
    'SHF',
    'Shelf grow light set',
    119,
    ['Type C', 'Type G'],
    ['60 cm', '90 cm'],
    'E',
    'Three bars, one switch and the clips to hang them.',
  ),
  garment(
    'APR-LIN',
    'Linen apron',
    'Aprons',
    44,
    ['fern', 'slate', 'oat'],
    ['S', 'M', 'L'],
    'Linen',
    'A heavy linen apron with a pocket for secateurs and a loop for a cloth. Softens with every wash.',
  ),
  garment(
    'APR-CAN',
    'Canvas half apron',
    'Aprons',
    32,
    ['ink', 'umber'],
    ['M', 'L'],
    'Cotton canvas',
    'Covers from waist to knee and folds into its own pocket.',
  ),
  garment(
    'APR-WAX',
    'Waxed apron',
    'Aprons',
    58,
    ['moss', 'ink', 'umber'],
    ['M', 'L'],
    'Waxed cotton',
    'Shrugs off water and wet soil. Rewax it once a year.',
  ),
  garment(
    'APR-KID',
    'Pocket apron',
    'Aprons',
    24,
    ['marigold', 'fern', 'lake', 'plum', 'ash'],
    ['one size'],
    'Cotton',
    'Five pockets, one for each thing that is always somewhere else.',
  ),
  garment(
    'GLV-SOF',
    'Soft grip gloves',
    'Gloves',
    14.5,
    ['fern', 'slate', 'plum'],
    ['S', 'M', 'L'],
    'Cotton with rubber grip',
    'Thin enough to feel a seed and tough enough for a cactus.',
  ),
  garment(
    'GLV-LON',
    'Long cuff gloves',
    'Gloves',
    26,
    ['umber', 'oat'],
    ['S', 'M', 'L'],
    'Goatskin',
    'The cuff reaches to the elbow, for roses and brambles.',
  ),
  garment(
    'GLV-KID',
    'Small hands gloves',
    'Gloves',
    9.9,
    ['marigold', 'lake', 'brick'],
    ['one size'],
    'Cotton',
    'For hands that are still growing.',
  ),
  seed(
    'BAS',
    'Window basil',
    3.2,
    packs,
    'A small-leaved basil that stays bushy in a pot and does not mind being cut every week.',
  ),
  seed(
    'CHV',
    'Garlic chive',
    3.2,
    packs,
    'Flat leaves with a mild taste of garlic, ready eight weeks after sowing.',
  ),
  seed('PAR', 'Curled parsley', 2.9, packs, 'Slow to come up and worth the wait.'),
  seed('MIN', 'Sill mint', 3.4, packs, 'Keep it in a pot of its own; it likes company too much.'),
  seed(
    'THY',
    'Creeping thyme',
    3.1,
    packs,
    'Spills over the edge of a pot and smells of summer when touched.',
  ),
  seed('ROC', 'Wild rocket', 2.8, packs, 'Sow a pinch every fortnight and there is always some.'),
  seed('CRS', 'Quick cress', 1.9, packs, 'From seed to sandwich in seven days, on nothing but a damp cloth.'),
  seed('PEA', 'Pea shoot', 2.6, packs, 'Sweet shoots, cut when a hand high, and once again after that.'),
  seed(
    'RAD',
    'Windowsill radish',
    2.5,
    ['60 seeds', '200 seeds'],
    'Round, red and ready in a month, if the pot is deep enough.',
  ),
  seed(
    'CHI',
    'Ember chilli',
    3.9,
    ['20 seeds', '60 seeds'],
    'Small upright fruits that turn from cream to orange to red.',
  ),
  seed(
    'TOM',
    'Balcony tomato',
    3.9,
    ['20 seeds', '60 seeds'],
    'Stays knee-high and carries its fruit like a necklace.',
  ),
  seed('LET', 'Cut leaf lettuce', 2.7, packs, 'Pick the outer leaves and let the heart grow on.'),
  seed('SPI', 'Baby spinach', 2.7, packs, 'Tender leaves all winter under a light.'),
  seed(
    'NAS',
    'Trailing nasturtium',
    3.3,
    ['20 seeds', '60 seeds'],
    'Flowers to eat, leaves to eat, and pods to pickle.',
  ),
  seed(
    'LAV',
    'Dwarf lavender',
    3.6,
    ['20 seeds', '60 seeds'],
    'Compact and grey, for the sunniest sill in the house.',
  ),
  seed('CAM', 'Lawn camomile', 3.1, ['60 seeds', '200 seeds'], 'For tea, or for a very small lawn.'),
  seed('MIX', 'Salad mix', 3.5, ['60 seeds', '200 seeds'], 'Six leaves that grow at the same pace.'),
  book(
    'SHA',
    'The Shade Shelf',
    'Imke Lörrimer',
    28,
    ['Hardcover', 'Paperback', 'EBook'],
    'What grows a long way from the window, and how to keep it there.',
  ),
  book(
    'SMA',
    'Small Light, Big Leaves',
    'Tobin Asherwick',
    24,
    ['Hardcover', 'Paperback'],
    'Lamps explained without a formula, and a formula for those who want one.',
  ),
  book(
    'WAT',
    'When to Water',
    'Imke Lörrimer',
    19,
    ['Hardcover', 'Paperback'],
    'A year of plants told by the weight of a pot in the hand.',
  ),
  book(
    'POT',
    'The Potting Table',
    'Oriel Pennack',
    32,
    ['Hardcover', 'Paperback'],
    'Soil, pots and patience.',
  ),
  book(
    'HER',
    'Herbs by the Handful',
    'Sanne Tolliver',
    26,
    ['Hardcover', 'Paperback', 'EBook'],
    'Forty herbs, each with a place, a pot and a supper.',
  ),
  book(
    'WIN',
    'A Window Facing North',
    'Tobin Asherwick',
    22,
    ['Hardcover', 'Paperback'],
    'Essays on growing things in the wrong place.',
  ),
  book(
    'CHI',
    'My First Windowsill',
    'Pia Marrowby',
    16,
    ['Hardcover', 'Paperback'],
    'For children who have been given a pot and no instructions.',
  ),
  book(
    'SOI',
    'Under the Leaf',
    'Oriel Pennack',
    27,
    ['Hardcover', 'Paperback', 'EBook'],
    'Who lives in a pot, with drawings.',
  ),
  {
    code: 'CAN-LON',
    name: 'Long-spout watering can',
    category: 'Watering cans',
    brand: 'Quillmoss',
    price: 38,
    about: 'The spout reaches behind the third row. Balanced so that it pours without a wobble.',
    extra: { material: 'Steel', countryOfOrigin: 'DE' },
    axes: { color: ['copper', 'white', 'ink', 'moss'], volume: ['1 l', '1.5 l'] },
    steps: { volume: 7 },
  },
  {
    code: 'CAN-MIS',
    name: 'Brass mister',
    category: 'Watering cans',
    brand: 'Quillmoss',
    price: 22,
    about: 'A fine mist from a thumb pump, for ferns and orchids.',
    extra: { material: 'Brass', color: 'copper' },
    axes: { volume: ['0.3 l', '0.5 l'] },
    steps: { volume: 5 },
  },
  {
    code: 'CAN-KID',
    name: 'Little watering can',
    category: 'Watering cans',
    brand: 'Ollobee',
    price: 12,
    about: 'Holds exactly as much as a small arm can carry.',
    extra: { material: 'Steel', volume: '0.6 l' },
    axes: { color: ['marigold', 'lake', 'brick', 'fern'] },
  },
  {
    code: 'FOD-LEA',
    name: 'Leaf plant food',
    category: 'Plant food',
    brand: 'Quillmoss',
    price: 9.5,
    about: 'A liquid feed for leaves: one cap to a litre of water, every second week.',
    extra: { dangerousGoods: 'none', warning: 'Keep away from children.' },
    axes: { volume: ['250 ml', '500 ml', '1 l'] },
    steps: { volume: 5 },
  },
  {
    code: 'FOD-BLO',
    name: 'Bloom plant food',
    category: 'Plant food',
    brand: 'Quillmoss',
    price: 10.5,
    about: 'More potash, for whatever should flower or fruit.',
    extra: { warning: 'Keep away from children.' },
    axes: { volume: ['250 ml', '500 ml', '1 l'] },
    steps: { volume: 5 },
  },
  {
    code: 'FOD-CAC',
    name: 'Cactus plant food',
    category: 'Plant food',
    brand: 'Quillmoss',
    price: 8.5,
    about: 'Weak on purpose.',
    extra: { warning: 'Keep away from children.' },
    axes: { volume: ['100 ml', '250 ml'] },
    steps: { volume: 4 },
  },
  {
    code: 'FOD-STI',
    name: 'Slow food sticks',
    category: 'Plant food',
    brand: 'Quillmoss',
    price: 6.5,
    about: 'Push one into the soil and forget it for two months.',
    extra: { warning: 'Keep away from children.' },
    axes: { size: ['10 sticks', '25 sticks', '50 sticks'] },
    steps: { size: 4 },
  },
  {
    code: 'MET-SOI',
    name: 'Moisture meter',
    category: 'Moisture meters',
    brand: 'Verrin',
    price: 17.5,
    about: 'A probe and a needle: dry, moist, wet. Runs for two years on one cell.',
    extra: { batteries: '1 LR44, included', material: 'Aluminium' },
    axes: { color: ['slate', 'white', 'moss', 'plum'] },
  },
  {
    code: 'KIT-FIR',
    name: 'First garden seed kit with nine seed packets, a small trowel, wooden plant labels to write on and a booklet about what happens under the soil while nothing seems to happen',
    category: 'Seed kits',
    brand: 'Ollobee',
    price: 29,
    about: 'Everything for a first harvest, with enough seed for a second try.',
    extra: { ageRange: '5 years and up', warning: 'Small parts. Not for children under 36 months.' },
    axes: { size: ['small', 'medium', 'large'] },
    steps: { size: 10 },
  },
  {
    code: 'KIT-BEA',
    name: 'Giant bean seed kit',
    category: 'Seed kits',
    brand: 'Ollobee',
    price: 15,
    about: 'A bean, a string and a ruler on the wall.',
    extra: { ageRange: '4 years and up' },
    axes: { color: ['marigold', 'lake', 'fern'] },
  },
  {
    code: 'PRT-CAL',
    name: 'Printable planting calendar',
    category: 'Printables',
    brand: 'Quillmoss',
    price: 6,
    about: 'Twelve pages to print at home, with room for your own notes.',
    extra: { digital: 'true' },
    axes: { size: ['A4', 'A3', 'Letter'] },
    withoutGtin: true,
  },
  {
    code: 'TRY-OVA',
    name: 'Oval tray',
    category: 'Trays and saucers',
    brand: 'Tarnholt',
    price: 12,
    about: 'Holds three small pots in a row on a narrow sill.',
    extra: { material: 'Stoneware' },
    axes: { glaze: ['moss', 'chalk', 'ink', 'honey', 'slate'] },
  },
  {
    code: 'TRY-ROU',
    name: 'Round saucer',
    category: 'Trays and saucers',
    brand: 'Tarnholt',
    price: 7,
    about: 'A deep rim, so that a generous hand does no harm.',
    extra: { material: 'Stoneware' },
    axes: { glaze: ['moss', 'chalk', 'terracotta'], diameter: ['12 cm', '16 cm', '20 cm'] },
    steps: { diameter: 3 },
  },
  {
    code: 'STD-LAD',
    name: 'Ladder plant stand',
    category: 'Shelves',
    brand: 'Quillmoss',
    price: 89,
    about: 'Five rungs of oiled ash that lean against any wall.',
    extra: { material: 'Ash wood' },
    axes: { height: ['120 cm', '160 cm', '180 cm'] },
    steps: { height: 20 },
  },
  {
    code: 'STD-WAL',
    name: 'Wall shelf with lip',
    category: 'Shelves',
    brand: 'Quillmoss',
    price: 42,
    about: 'The lip keeps pots where they are when the window is opened.',
    extra: { material: 'Ash wood' },
    axes: { width: ['40 cm', '60 cm', '80 cm', '100 cm'] },
    steps: { width: 9 },
  },
  {
    code: 'CLO-GLA',
    name: 'Glass cloche',
    category: 'Cloches',
    brand: 'Quillmoss',
    price: 26,
    about: 'A bell of clear glass with a knob of cork.',
    extra: { material: 'Glass' },
    axes: { height: ['18 cm', '24 cm', '30 cm'] },
    steps: { height: 7 },
  },
  {
    code: 'WRP-PAP',
    name: 'Seed paper gift wrap',
    category: 'Gift wrap',
    brand: 'Quillmoss',
    price: 4.5,
    about: 'Plant it after the party.',
    extra: { material: 'Paper', color: 'oat' },
    axes: { pattern: ['leaves', 'dots'] },
    withoutGtin: true,
  },
];

const short = (text: string) =>
  text
    .replace(/^Type /, 'TY')
    .replace(/[^A-Za-z0-9]/g, '')
    .slice(0, 3)
    .toUpperCase();

function gtinOf(prefix: string, serial: number): string {
  const body = prefix + String(serial).padStart(12 - prefix.length, '0');
  return body + checkDigit(body);
}

const skuPrefix: Record<string, string> = {
  Quillmoss: 'QM',
  Tarnholt: 'QM',
  Verrin: 'VR',
  Ollobee: 'OB',
  'Sprigwell Press': 'SP',
};
const slug = (text: string) =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');

/** Every combination of the axes' terms, the first axis slowest. */
function combinations(axes: Record<string, readonly string[]>): Record<string, string>[] {
  return Object.entries(axes).reduce<Record<string, string>[]>(
    (made, [axis, terms]) => made.flatMap((start) => terms.map((term) => ({ ...start, [axis]: term }))),
    [{}],
  );
}

/** The whole demo catalog, one record an item with every value on it; the same each time. */
export function demoItems(): DemoItem[] {
  const items: DemoItem[] = [];
  let serial = 3000;
  for (const family of families) {
    for (const variant of combinations(family.axes)) {
      serial += 7;
      const terms = Object.values(variant);
      const sku = [
        skuPrefix[family.brand],
        family.code,
        ...terms.map((term) => (/^\d/.test(term) ? term.replace(/\D*$/, '').replace('.', '') : short(term))),
      ].join('-');
      const step = Object.entries(family.steps ?? {}).reduce(
        (sum, [axis, by]) => sum + by * (family.axes[axis]?.indexOf(variant[axis] ?? '') ?? 0),
        0,
      );
      const path = `${slug(family.name).slice(0, 40).replace(/-$/, '')}-${slug(terms.join(' '))}`;
      const prefix = family.category === 'Books' ? '9793' : '952';
      items.push({
        sku,
        family: family.code,
        name: family.name,
        description: `<p>${family.about}</p><p>${care}</p>`,
        brand: family.brand,
        category: family.category,
        ...(family.withoutGtin ? {} : { gtin: gtinOf(prefix, serial) }),
        mpn: `${family.code}-${serial}`,
        price: (family.price + step).toFixed(2),
        priceCurrency: 'EUR',
        availability: 'InStock',
        inventoryLevel: String((serial * 37) % 90),
        itemCondition: 'NewCondition',
        weight: `${((((serial * 13) % 30) + 4) / 10).toFixed(1)} kg`,
        url: `https://quillmoss.example/${path}`,
        image: [`${slug(sku)}-1.jpg`, `${slug(sku)}-2.jpg`]
          .map((file) => `https://quillmoss.example/pictures/${file}`)
          .join('|'),
        ...family.extra,
        ...variant,
      });
    }
  }
  return makeMistakes(items);
}

/** The mistakes real catalogs have. Each names the items it spoils and what it does to them. */
function makeMistakes(items: DemoItem[]): DemoItem[] {
  const spoil = (test: (item: DemoItem, at: number) => boolean, change: (item: DemoItem) => void) =>
    items.filter((item, at) => test(item, at)).forEach(change);
  const drop =
    (...codes: string[]) =>
    (item: DemoItem) => {
      for (const code of codes) delete item[code];
    };
  const nth = (category: string, ...positions: number[]) => {
    const of = items.filter((item) => item.category === category);
    return (item: DemoItem) => positions.includes(of.indexOf(item));
  };
  // Gloves were typed in without their sizes, and two colours were forgotten.
  spoil(nth('Gloves', 2, 5, 8, 9, 13), drop('size'));
  spoil(nth('Aprons', 1, 10), drop('color'));
  spoil(nth('Aprons', 4, 5, 12, 13, 14), drop('gender'));
  // One wrong check digit, one barcode on two variants, one with a digit lost, one kept for use inside the shop.
  spoil(nth('Pots, glazed', 6), (item) => {
    item.gtin = `${item.gtin?.slice(0, 12)}${(Number(item.gtin?.[12]) + 3) % 10}`;
  });
  const pots = items.filter((item) => item.category === 'Pots, glazed');
  if (pots[9] && pots[10]?.gtin) pots[9].gtin = pots[10].gtin;
  spoil(nth('Grow lights', 3), (item) => {
    item.gtin = item.gtin?.slice(1) ?? '';
  });
  spoil(nth('Trays and saucers', 2), (item) => {
    item.gtin = gtinOf('02', 40417);
  });
  // Neither barcode nor part number.
  spoil(nth('Watering cans', 8, 9), drop('gtin', 'mpn'));
  spoil(nth('Gift wrap', 0, 1), drop('mpn'));
  // A brand written into the name as well, and one in capitals.
  spoil(
    (item) => item.family === 'POT-FEN',
    (item) => {
      item.name = `Tarnholt ${item.name}`;
    },
  );
  spoil(
    (item) => item.family === 'SED-CRS',
    (item) => {
      item.name = 'QUICK CRESS SEEDS, BEST PRICE';
    },
  );
  // Prices: zero, another currency, a price in words.
  spoil(nth('Seeds', 11), (item) => {
    item.price = '0.00';
  });
  spoil(nth('Books', 4, 5), (item) => {
    item.priceCurrency = 'GBP';
  });
  // Addresses: relative, with a space.
  spoil(nth('Shelves', 1), (item) => {
    item.url = item.url?.replace('https://quillmoss.example', '') ?? '';
  });
  spoil(nth('Cloches', 2), (item) => {
    item.image = item.image?.replace('-1.jpg', ' front.jpg') ?? '';
  });
  spoil(nth('Moisture meters', 3), drop('image'));
  // Words for stock that no channel knows, and an announcement without its date.
  spoil(nth('Seeds', 20, 21, 22), (item) => {
    item.availability = 'few left';
  });
  spoil(nth('Grow lights', 20, 21), (item) => {
    item.availability = 'PreOrder';
  });
  spoil(nth('Grow lights', 12), (item) => {
    item.availability = 'PreOrder';
    item.availabilityStarts = '2027-02-15';
  });
  // Hardly any description, and a weight without its unit.
  spoil(
    (item) => item.family === 'FOD-CAC',
    (item) => {
      item.description = 'Weak on purpose.';
    },
  );
  spoil(nth('Watering cans', 2, 3), (item) => {
    item.weight = '1400';
  });
  // Plant food sticks have no contents, and three items were never given a category.
  spoil(nth('Trays and saucers', 11, 12, 13), drop('category'));
  spoil((item) => item.digital === 'true', drop('weight'));
  return items;
}
