import fc from 'fast-check';
import { brandsOf } from './otherBrands';
import { LikePrices } from './outliers';

interface Priced {
  readonly sku: string;
  readonly family: string | undefined;
  readonly price: number;
}
const priced = (prices: readonly number[], family?: string): Priced[] =>
  prices.map((price, at) => ({ sku: `${family ?? 'S'}${at}`, family, price }));
function outliersAmong(items: readonly Priced[]): string[] {
  const similar = new LikePrices();
  for (const { price, family } of items) similar.add(price, family);
  return items.filter(({ price, family }) => similar.outlier(price, family)).map(({ sku }) => sku);
}
const found = (prices: readonly number[], family?: string) => outliersAmong(priced(prices, family));

describe('prices whose decimal point has slipped', () => {
  it.each<[string, number[], string[]]>([
    ['ten times as much', [18.9, 24.9, 21.5, 189, 19.9, 22], ['S3']],
    ['a tenth', [18.9, 24.9, 21.5, 1.89, 19.9, 22], ['S3']],
    ['a hundred times', [18.9, 24.9, 21.5, 2490, 19.9, 22], ['S3']],
    ['a hundredth', [18.9, 24.9, 21.5, 0.19, 19.9, 22], ['S3']],
    ['two at once', [18.9, 24.9, 21.5, 189, 19.9, 22, 249, 20, 21], ['S3', 'S6']],
    ['prices that are spread widely anyway', [3, 9, 19, 45, 90, 140, 320, 18], []],
    ['one expensive thing that is no slip', [18.9, 24.9, 21.5, 60, 19.9, 22], []],
    ['too few to tell', [18.9, 189, 19.9], []],
    ['all alike', [20, 20, 20, 20, 20, 20], []],
  ])('%s', (_what, prices, expected) => expect(found(prices)).toEqual(expected));

  it('a small family tells, where it is close', () => {
    expect(found([18.9, 18.9, 189], 'POT')).toEqual(['POT2']);
    expect(found([4.9, 19.9, 89], 'MAT')).toEqual([]);
  });

  it('a family is its own measure among others', () => {
    const cheap = priced([2.5, 2.6, 2.4, 2.5, 2.7, 2.6], 'SEED');
    const dear = priced([249, 259, 239], 'LAMP');
    expect(outliersAmong([...cheap, ...dear])).toEqual([]);
  });

  it('finds a slip in any group of prices that lie close together, and nothing else in it', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 10, max: 14, noNaN: true }), { minLength: 6, maxLength: 90 }),
        fc.nat(),
        fc.constantFrom(10, 0.1, 100, 0.01),
        (prices, at, by) => {
          const where = at % prices.length;
          const slipped = prices.map((price, i) => (i === where ? price * by : price));
          expect(found(prices)).toEqual([]);
          expect(found(slipped)).toEqual([`S${where}`]);
        },
      ),
    );
  });

  it('looks at a large group once: a hundred thousand in one category, a family and all, take no time worth telling', () => {
    const many = Array.from({ length: 100_000 }, (_, at) => ({
      sku: `S${at}`,
      family: at < 50_000 ? 'LARGE' : undefined,
      price: at === 7 || at === 60_007 ? 189 : 15 + (at % 9),
    }));
    expect(outliersAmong(many)).toEqual(['S7', 'S60007']);
  });
});

describe('the brand of others in a name', () => {
  const brands = brandsOf([
    'Tarnholt',
    'Verrin',
    'Quillmoss',
    'Quillmoss Studio',
    'fern',
    'OB',
    'Sprigwell Press',
  ]);
  it.each<[string, string, string | undefined]>([
    ['Tarnholt ridge pot', 'Verrin', 'Tarnholt'],
    ['Ridge pot (Tarnholt)', 'Verrin', 'Tarnholt'],
    ['Ridge pot, Sprigwell Press', 'Verrin', 'Sprigwell Press'],
    ['Tarnholt ridge pot', 'Tarnholt', undefined],
    ['Tarnholt ridge pot', 'TARNHOLT', undefined],
    ['Quillmoss pot', 'Quillmoss Studio', undefined],
    ['Saucer for Tarnholt pots', 'Verrin', undefined],
    ['Untersetzer passend zu Tarnholt', 'Verrin', undefined],
    ['Plato compatible con Tarnholt', 'Verrin', undefined],
    ['Soucoupe pour pots Tarnholt', 'Verrin', undefined],
    ['Linen apron, fern', 'Verrin', undefined],
    ['Tarnholter Topf', 'Verrin', undefined],
    ['tarnholt pot', 'Verrin', undefined],
    ['OB pot', 'Verrin', undefined],
    ['', 'Verrin', undefined],
  ])('%s by %s: %s', (name, own, expected) => expect(brands.in(name, own)).toBe(expected));
});
