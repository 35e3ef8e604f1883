import fc from 'fast-check';
import { commonName, type GroupRow, groupingWays, groupRows } from './grouping';

const axes = ['color', 'size'];
const row = (sku: string, values: Record<string, string>, more: Partial<GroupRow> = {}): GroupRow => ({
  sku,
  values,
  ...more,
});

test('by a shared group code', () => {
  const rows = [
    row('A1', { color: 'moss' }, { group: 'A' }),
    row('A2', { color: 'chalk' }, { group: 'A' }),
    row('A3', { color: 'moss' }, { group: 'A' }),
    row('B1', {}, { group: 'B' }),
    row('C', {}),
  ];
  expect(groupRows(rows, 'sharedCode', axes)).toMatchObject({
    families: [{ code: 'A', skus: ['A1', 'A2', 'A3'], axes: ['color'] }],
    loose: [
      { sku: 'C', why: 'alone' },
      { sku: 'A3', why: 'sameAxes' },
      { sku: 'B1', why: 'alone' },
    ],
  });
});

test('by a parent code, the parent in the file or not', () => {
  const rows = [
    row('P', { name: 'Pot', material: 'clay' }),
    row('P1', { color: 'moss' }, { parent: 'P' }),
    row('P2', { color: 'ink' }, { parent: 'P' }),
    row('Q1', { size: 'S' }, { parent: 'Q' }),
    row('Q2', { size: 'M' }, { parent: 'Q' }),
    row('R1', {}, { parent: 'R' }),
  ];
  const { families, loose } = groupRows(rows, 'parentCode', axes);
  expect(families).toEqual([
    {
      code: 'P',
      name: 'Pot',
      skus: ['P1', 'P2'],
      axes: ['color'],
      parent: true,
      shared: { name: 'Pot', material: 'clay' },
    },
    { code: 'Q', name: '', skus: ['Q1', 'Q2'], axes: ['size'], parent: false, shared: undefined },
  ]);
  expect(loose).toEqual([{ sku: 'R1', why: 'noParent' }]);
});

test('by nesting in the file', () => {
  const rows = [
    row('1', { size: 'S' }, { group: 'apron' }),
    row('2', { size: 'M' }, { group: 'apron' }),
    row('3', { size: 'M' }, { group: 'glove' }),
  ];
  expect(groupRows(rows, 'nesting', axes)).toMatchObject({
    families: [{ code: 'apron', skus: ['1', '2'] }],
    loose: [{ sku: '3', why: 'alone' }],
  });
});

test('by the same name', () => {
  const rows = [
    row('1', { name: 'Linen apron', size: 'S' }),
    row('2', { name: 'linen  Apron', size: 'M' }),
    row('3', { name: 'Linen apron', size: 'M' }),
    row('4', { name: 'Canvas apron' }),
    row('5', {}),
  ];
  expect(groupRows(rows, 'sameName', axes)).toMatchObject({
    families: [{ code: '1', skus: ['1', '2'], axes: ['size'] }],
    loose: [
      { sku: '5', why: 'noName' },
      { sku: '3', why: 'sameAxes' },
      { sku: '4', why: 'alone' },
    ],
  });
});

test('by names that differ only in axis words', () => {
  const rows = [
    row('1', { name: 'Ridge pot moss 14 cm', color: 'moss', size: '14 cm' }),
    row('2', { name: 'Ridge pot, chalk, 14 cm', color: 'chalk', size: '14 cm' }),
    row('3', { name: 'Ridge pot chalk 18 cm', color: 'chalk', size: '18 cm' }),
    row('4', { name: 'Ridge tray moss 14 cm', color: 'moss', size: '14 cm' }),
  ];
  expect(groupRows(rows, 'names', axes)).toMatchObject({
    families: [{ skus: ['1', '2', '3'], axes: ['color', 'size'] }],
    loose: [{ sku: '4', why: 'alone' }],
  });
});

test('whichever way: no row is lost, none is in two places', () => {
  const word = fc.constantFrom('pot', 'tray', '', 'apron');
  const rows = fc
    .array(
      fc.record({
        name: word,
        color: fc.constantFrom('moss', 'ink', ''),
        group: fc.constantFrom('A', 'B', ''),
        parent: fc.constantFrom('S0', 'X', ''),
      }),
      { maxLength: 12 },
    )
    .map((list) =>
      list.map(({ name, color, group, parent }, i) =>
        row(`S${i}`, { ...(name && { name }), ...(color && { color }) }, { group, parent }),
      ),
    );
  fc.assert(
    fc.property(rows, fc.constantFrom(...groupingWays), (list, route) => {
      const { families, loose } = groupRows(list, route, axes);
      const placed = [
        ...families.flatMap(({ skus }) => skus),
        // A row that the source itself puts into a family stays there, told apart or not.
        ...loose.filter(({ sku }) => !families.some(({ skus }) => skus.includes(sku))).map(({ sku }) => sku),
        ...families.flatMap(({ code, parent }) => (parent ? [code] : [])),
      ];
      expect([...placed].sort()).toEqual(list.map(({ sku }) => sku).sort());
    }),
  );
});

test('what stands once for a whole group is shared by it; what differs or tells apart is not', () => {
  const { families } = groupRows(
    [
      row('A1', { name: 'Pot', color: 'moss', material: 'clay', price: '4' }, { group: 'A' }),
      row('A2', { color: 'ink', price: '5' }, { group: 'A' }),
    ],
    'sharedCode',
    axes,
  );
  expect(families[0]).toMatchObject({ parent: false, shared: { name: 'Pot', material: 'clay' } });
  expect(families[0]?.shared).not.toHaveProperty('price');
  // A named item that lacks a value lacks it, whatever its sibling has.
  const named = groupRows(
    [
      row('A1', { name: 'Pot', color: 'moss', category: 'Pots' }, { group: 'A' }),
      row('A2', { name: 'Pot', color: 'ink' }, { group: 'A' }),
    ],
    'sharedCode',
    axes,
  );
  expect(named.families[0]?.shared).toBeUndefined();
});

test.each([
  [['Pot, moss, 14 cm', 'Pot, chalk, 14 cm'], 'Pot, 14 cm'],
  [['Wandtopf Über Eck, schwarz', 'Wandtopf Über Eck, weiß'], 'Wandtopf Über Eck'],
  [['Linen apron in moss (S)', 'Linen apron in moss (M)'], 'Linen apron'],
  [['Moss pot', 'Moss pot'], 'Moss pot'],
  [['moss pot large', 'chalk pot large'], 'pot large'],
  [['Shelf for walls, moss', 'Shelf for walls'], 'Shelf for walls'],
  [['Potting mix 5 l', 'Potting mix 10 l'], 'Potting mix'],
  [['Alpha', 'Beta'], ''],
  [['Saucer', 'Saucers'], ''],
  [['', ''], ''],
])('a family of %j is called “%s”', (names, name) => {
  const values = [
    { color: 'moss', size: 'S' },
    { color: 'chalk', size: 'M' },
  ];
  const rows = names.map((one, at) => row(`N${at}`, { name: one, ...values[at] }));
  expect(commonName(rows, axes)).toBe(name);
});
