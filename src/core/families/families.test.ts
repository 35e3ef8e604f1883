import {
  type FamilyMember,
  type FamilyView,
  familyIssueSeverity,
  familyIssues,
  familyIssueText,
  gapsOf,
} from './familyIssues';
import { groupCode, noFamilyChoice, shownOf } from './shape';

const axis = (attribute: string, more: Partial<FamilyView['axes'][number]> = {}) => ({
  attribute,
  label: attribute,
  fields: [attribute],
  allowed: true,
  told: false,
  ...more,
});
const member = (axes: string[], more: Partial<FamilyMember> = {}): FamilyMember => ({
  sku: `QM-APR-${axes.join('-')}`,
  place: '21003',
  brand: 'Quillmoss',
  title: `Linen apron, ${axes.join(', ')}`,
  picture: `https://quillmoss.example/${axes[0]}.jpg`,
  number: '',
  axes,
  ...more,
});
const apron = (members: FamilyMember[], more: Partial<FamilyView> = {}): FamilyView => ({
  axes: [axis('color'), axis('size')],
  members,
  number: '',
  lead: true,
  ...more,
});
const complete = ['fern', 'oat', 'umber', 'lake'].flatMap((color) =>
  ['S', 'M', 'L'].map((size) => member([color, size])),
);
const found = (view: FamilyView) => familyIssues(view).map(({ fault }) => fault);
const changed = (at: number, more: Partial<FamilyMember>) =>
  complete.map((one, i) => (i === at ? { ...one, ...more } : one));

test('an apron in four colours and three sizes has nothing against it', () => {
  expect(familyIssues(apron(complete))).toEqual([]);
});

/** Each fault with a family that has it; the apron above is the one that has none. */
const faulty: readonly [fault: string, family: FamilyView, words: RegExp][] = [
  ['places', apron(changed(3, { place: '21099' })), /^QM-APR-oat-S is in another category, Hats$/],
  ['places', apron(changed(3, { place: undefined })), /^QM-APR-oat-S has no category$/],
  [
    'sameVariant',
    apron(changed(1, { axes: ['fern', 's'], title: 'another', sku: 'TWIN' })),
    /QM-APR-fern-S, TWIN are both fern, S/,
  ],
  ['noAxis', apron(changed(5, { axes: ['oat', ''] })), /has no size/],
  [
    'notAllowed',
    apron(complete, { axes: [axis('color'), axis('size', { allowed: false })] }),
    /^size is not a variant axis there$/,
  ],
  [
    'axisAlike',
    apron(
      complete.slice(0, 3).map((one) => ({ ...one, picture: 'a' })),
      {},
    ),
    /all variants are “fern”/,
  ],
  ['leadNumber', apron(complete, { number: '9520000000011' }), /9520000000011; only variants/],
  ['brands', apron(changed(2, { brand: 'Tarnholt' })), /Quillmoss, Tarnholt/],
  ['alone', apron(complete.slice(0, 1)), /a family of one/],
  ['noPicture', apron(changed(0, { picture: '' })), /QM-APR-fern-S, its first variant/],
  ['samePicture', apron(complete.map((one) => ({ ...one, picture: 'a' }))), /different color show the same/],
  ['sameTitle', apron(changed(1, { title: 'LINEN APRON, fern, S' })), /2 variants have the same title/],
  ['gap', apron(complete.slice(1)), /^fern, S is missing/],
];

test.each(faulty)('%s is found and said', (fault, family, words) => {
  expect(found(apron(complete))).not.toContain(fault);
  const mine = familyIssues(family).filter((one) => one.fault === fault);
  expect(mine).toHaveLength(1);
  for (const one of mine) {
    expect(familyIssueText(one, () => 'Hats')).toMatch(words);
    expect(['risk', 'tip']).toContain(familyIssueSeverity[one.fault]);
  }
});

test('what a title tells, or what parts families, need not be an axis of the channel', () => {
  expect(
    found(apron(complete, { axes: [axis('color'), axis('size', { allowed: false, told: true })] })),
  ).toEqual([]);
});

test('members of one size that share a picture over sizes mislead nobody', () => {
  expect(found(apron(complete))).not.toContain('samePicture');
});

test('a family of which most would be missing has no gaps: its axes belong together', () => {
  const diagonal = Array.from({ length: 9 }, (_, at) => member([`c${at}`, `s${at}`]));
  expect(gapsOf(diagonal)).toEqual([]);
  expect(gapsOf(complete.slice(2))).toEqual([
    ['fern', 'S'],
    ['fern', 'M'],
  ]);
  expect(gapsOf([])).toEqual([]);
});

describe('how a family is shown', () => {
  const choice = {
    ...noFamilyChoice,
    branches: { clothes: 'singly' as const },
    families: { APR: 'together' as const },
  };
  test.each([
    ['APR', ['aprons', 'clothes'], 'together', 'family'],
    ['GLV', ['gloves', 'clothes'], 'singly', 'branch'],
    ['POT', ['pots'], 'together', 'feed'],
    ['constructor', ['__proto__'], 'together', 'feed'],
  ])('%s: the nearest choice counts', (family, path, shown, by) => {
    expect(shownOf(choice, family, path)).toEqual({ shown, by });
  });

  test('singly in no group; parted by axes in a group for each value', () => {
    expect(groupCode('APR', 'singly', [])).toBeUndefined();
    expect(groupCode('APR', 'together', [])).toBe('APR');
    expect(groupCode('APR', 'together', ['Type G', 'grün'])).toBe('APR-TYPE-G-GRUN');
    expect(groupCode('APR', 'together', [''])).toBe('APR');
    expect(groupCode(undefined, 'together', ['x'])).toBeUndefined();
  });
});
