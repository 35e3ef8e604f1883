import { readdirSync, readFileSync } from 'node:fs';
import Ajv2020 from 'ajv/dist/2020';
import { bundled } from '../../../tests/support/sheets';
import { isUnder, nameOf } from '../categories/tree';
import { branchesIn } from '../conditions/conditions';
import { readChannel } from './bundle';
import { sheetSchema } from './sheet';

const codes = readdirSync('src/channels', { withFileTypes: true }).flatMap((entry) =>
  entry.isDirectory() ? [entry.name] : [],
);
const text = (code: string, name: string) => readFileSync(`src/channels/${code}/${name}`, 'utf8');

test('there are six', () => {
  expect(codes.sort()).toEqual([
    'flickerstall',
    'lanternry',
    'orrin-bazaar',
    'own-shop',
    'plazuela-norte',
    'tessel-boards',
  ]);
});

describe.each(codes)('%s', (code) => {
  const { sheet, tree } = readChannel(text(code, 'requirements.json'), text(code, 'taxonomy.csv'));

  // Source: JSON Schema 2020-12 through Ajv, an independent validator.
  test('is valid against the published schema', () => {
    const validate = new Ajv2020({ strict: false, logger: false }).compile(
      JSON.parse(readFileSync('docs/requirement-sheet.schema.json', 'utf8')),
    );
    validate(JSON.parse(text(code, 'requirements.json')));
    expect(validate.errors).toBeNull();
  });

  test('has 25 to 60 fields and a tree of 150 to 600 categories', () => {
    expect(sheet.fields.length).toBeGreaterThanOrEqual(25);
    expect(sheet.fields.length).toBeLessThanOrEqual(60);
    expect(tree.byCode.size).toBeGreaterThanOrEqual(150);
    expect(tree.byCode.size).toBeLessThanOrEqual(600);
  });

  test('names only branches that its tree has', () => {
    const named = [
      ...sheet.branches.map(({ under }) => under),
      ...sheet.fields.flatMap(({ mustWhen }) => (mustWhen ? branchesIn(mustWhen) : [])),
    ];
    for (const branch of named) expect([branch, tree.byCode.has(branch)]).toEqual([branch, true]);
  });

  test('has a name for every category, and none twice under one parent', () => {
    for (const { children } of tree.byCode.values()) {
      const names = children.map((child) => nameOf(tree, child, sheet.markets[0]?.languages[0] ?? 'en'));
      expect(new Set(names).size).toBe(names.length);
      for (const child of children)
        expect(isUnder(tree, child, tree.byCode.get(child)?.parent ?? '')).toBe(true);
    }
  });
});

test.each(['lanternry', 'orrin-bazaar'])('%s speaks two languages', (code) => {
  const { tree } = readChannel(text(code, 'requirements.json'), text(code, 'taxonomy.csv'));
  for (const { names } of tree.byCode.values()) expect(Object.keys(names)).toEqual(['en', 'de']);
});

test.each(['/reports/{id}', '/reports/{Number}', '/reports/{number', '/a}'])(
  'the path %s is refused with what may stand in it',
  (path) => {
    const { sheet } = bundled('orrin-bazaar');
    const read = sheetSchema.safeParse({
      ...sheet,
      delivery: { ...sheet.delivery, report: { ...sheet.delivery.report, path } },
    });
    expect(read.success).toBe(false);
    expect(JSON.stringify(read.error?.issues)).toContain('{number} the ID in the receipt');
  },
);
