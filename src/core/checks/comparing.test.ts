import { trialField, trialSheet } from '../../../tests/support/sheets';
import { attributeIndex } from '../catalog/value';
import { readTree } from '../categories/tree';
import { fromAttribute } from '../compose/composition';
import { compile } from '../listing/compile';
import { evaluateAll } from '../listing/evaluate';
import { emptyPlan } from '../plans/plan';
import { isCompared } from './comparing';
import { noExternalFacts } from './externalFacts';
import { issueWords } from './messages';
import { checkSettingsSchema } from './severityOverrides';

const sheet = trialSheet([
  trialField('ref', 'text', { role: 'id', unique: true }),
  trialField('title', 'text', { role: 'title' }),
  trialField('text', 'text', { role: 'description' }),
  trialField('shown', 'pictures', { role: 'image', values: { most: 5 } }),
]);
const index = attributeIndex(['ref', 'title', 'text', 'shown', 'family', 'left']);
const measured = { width: 1600, height: 1600, format: 'jpeg', whiteBorder: 1 };

const compiled = compile(
  {
    ...emptyPlan('trial', { country: 'DE', language: 'de', currency: 'EUR' }),
    fields: { ...Object.fromEntries(['ref', 'text', 'shown'].map((code) => [code, fromAttribute(code)])) },
    title: {
      parts: [{ attribute: 'title', glue: ' ', steps: [] }],
      dropFirst: [],
      keep: [],
      letterCase: 'asis',
      sayOnce: true,
      tellApart: true,
      nameOnPhone: false,
      abbreviations: {},
      worth: {},
    },
    scope: { attribute: 'left', is: 'empty' },
  },
  sheet,
  readTree('code,parent,name_en\n1,,Garden\n'),
  index,
  {
    seen: {
      ...noExternalFacts,
      // The pictures of another host are those of the first, saved anew.
      picture: (link) =>
        link.startsWith('https://b.example/')
          ? { ...measured, same: link.replace('//b.', '//a.') }
          : link.endsWith('/broken.jpg')
            ? 'unreadable'
            : measured,
    },
  },
);

type Item = Readonly<Record<string, string | readonly string[]>>;
const found = (items: readonly Item[]) =>
  evaluateAll(compiled, {
    skus: items.map((_, at) => `S${at}`),
    rows: items.map((item) => index.codes.map((code) => item[code])),
  }).flatMap(({ sku, issues }) =>
    issues.map((issue) => `${sku} ${issue.check} ${issue.severity}: ${issueWords(issue, (field) => field)}`),
  );

const long = 'A light stool for the allotment, with an ash frame and a seat of waxed canvas.';

test.each<[string, Item[], string[]]>([
  [
    'one number on two',
    [{ ref: 'A' }, { ref: 'A' }],
    ['S0 duplicate blocker: ref A is also on S1', 'S1 duplicate blocker: ref A is also on S0'],
  ],
  ['two numbers', [{ ref: 'A' }, { ref: 'B' }], []],
  [
    'one picture, saved anew at another address',
    [{ shown: ['https://a.example/1.jpg'] }, { shown: ['https://b.example/1.jpg'] }],
    [
      'S0 samePicture risk: shown has the same main picture as S1',
      'S1 samePicture risk: shown has the same main picture as S0',
    ],
  ],
  [
    'two pictures, and one of them is another saved anew',
    [{ shown: ['https://a.example/1.jpg'] }, { shown: ['https://b.example/2.jpg'] }],
    [],
  ],
  [
    'one picture in two families',
    [
      { shown: ['https://b.example/1.jpg'], family: 'F' },
      { shown: ['https://b.example/1.jpg'], family: 'F' },
      { shown: ['https://a.example/1.jpg'], family: 'G' },
    ],
    [
      'S0 samePicture risk: shown has the same main picture as S2',
      'S1 samePicture risk: shown has the same main picture as S2',
      'S2 samePicture risk: shown has the same main picture as S0 and 1 more',
    ],
  ],
  [
    'one title on two, in other letters',
    [{ title: 'Stool' }, { title: 'STOOL' }],
    ['S0 sameTitle risk: title is the same on S1', 'S1 sameTitle risk: title is the same on S0'],
  ],
  [
    'one title on two variants of a family',
    [
      { title: 'Stool', family: 'F' },
      { title: 'Stool', family: 'F' },
    ],
    ['S0 sameTitle risk: title is the same on S1', 'S1 sameTitle risk: title is the same on S0'],
  ],
  ['titles that differ', [{ title: 'Stool' }, { title: 'Stools' }], []],
  [
    'one first picture of two things',
    [
      { shown: ['https://quillmoss.example/1.jpg', 'https://quillmoss.example/2.jpg'] },
      { shown: ['https://quillmoss.example/1.jpg'] },
    ],
    [
      'S0 samePicture risk: shown has the same main picture as S1',
      'S1 samePicture risk: shown has the same main picture as S0',
    ],
  ],
  [
    'one first picture of a family',
    [
      { shown: ['https://quillmoss.example/1.jpg'], family: 'F' },
      { shown: ['https://quillmoss.example/1.jpg'], family: 'F' },
    ],
    [],
  ],
  [
    'one first picture of a family and another thing',
    [
      { shown: ['https://quillmoss.example/1.jpg'], family: 'F' },
      { shown: ['https://quillmoss.example/1.jpg'], family: 'F' },
      { shown: ['https://quillmoss.example/1.jpg'] },
    ],
    [
      'S0 samePicture risk: shown has the same main picture as S2',
      'S1 samePicture risk: shown has the same main picture as S2',
      'S2 samePicture risk: shown has the same main picture as S0 and 1 more',
    ],
  ],
  [
    'one second picture of two things',
    [
      { shown: ['https://quillmoss.example/1.jpg', 'https://quillmoss.example/2.jpg'] },
      { shown: ['https://quillmoss.example/3.jpg', 'https://quillmoss.example/2.jpg'] },
    ],
    [],
  ],
  [
    'one text of two things',
    [{ text: long }, { text: long }],
    ['S0 sameText tip: text is the same as that of S1', 'S1 sameText tip: text is the same as that of S0'],
  ],
  ['one short text of two things', [{ text: 'A stool.' }, { text: 'A stool.' }], []],
  [
    'one text of a family',
    [
      { text: long, family: 'F' },
      { text: long, family: 'F' },
    ],
    [],
  ],
  [
    'one that is left out is compared with nothing',
    [{ title: 'Stool' }, { title: 'Stool', left: 'yes' }],
    [],
  ],
])('%s', (_name, items, wanted) => {
  expect(found(items)).toEqual(wanted);
});

test('what is shared is taken lighter, or waived for an item, and blocks nothing but where a number is shared', () => {
  const judged = compile(
    {
      ...compiled.plan,
      checks: checkSettingsSchema.parse({
        severity: {
          'sameTitle:title': 'tip',
          'sameText:text': 'off',
          'samePicture:shown': 'blocker',
          'duplicate:ref': 'tip',
        },
        waived: { known: { check: 'sameTitle:title', skus: ['S1'], reason: 'a pair' } },
      }),
    },
    sheet,
    compiled.tree,
    index,
  );
  const items: Item[] = [
    { ref: 'A', title: 'Stool', text: long, shown: ['1.jpg'] },
    { ref: 'A', title: 'Stool', text: long, shown: ['1.jpg'] },
  ];
  const listings = evaluateAll(judged, {
    skus: ['S0', 'S1'],
    rows: items.map((item) => index.codes.map((code) => item[code])),
  });
  const own = (at: number) =>
    listings[at]?.issues.flatMap(({ check, severity }) =>
      isCompared(check) ? [`${check} ${severity}`] : [],
    );
  expect(own(0)).toEqual(['duplicate blocker', 'sameTitle tip', 'samePicture risk']);
  expect(own(1)).toEqual(['duplicate blocker', 'samePicture risk']);
});
