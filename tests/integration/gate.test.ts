import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { gateOf } from '@/actions/action';
import * as attributes from '@/actions/catalog/attributes';
import * as families from '@/actions/catalog/families';
import * as gtins from '@/actions/catalog/gtins';
import * as items from '@/actions/catalog/items';
import * as keywords from '@/actions/catalog/keywords';
import * as suppliers from '@/actions/catalog/suppliers';
import * as channels from '@/actions/channels';
import * as feeds from '@/actions/feeds';
import * as imports from '@/actions/import';
import * as notifications from '@/actions/notifications';
import * as submissions from '@/actions/submissions';
import * as workspace from '@/actions/workspace';
import { closeDatabase, freshDemo } from '../support/stack';

// What is asked for by a number is there or not: that must not hang on what ran before.
beforeAll(freshDemo);
afterAll(closeDatabase);

/** Every way into the application and what it asks for. A new one is written down here, or the test fails. */
const routes: Readonly<Record<string, string>> = {
  'api/channels/[code]/route.ts': 'GET look',
  'api/feeds/[feed]/file/route.ts': 'GET look',
  'api/feeds/[feed]/plan/route.ts': 'GET look',
  'api/feeds/[feed]/fixes/route.ts': 'GET look',
  'api/feeds/[feed]/workbook/route.ts': 'GET look, POST change',
  'api/fetched/[feed]/[token]/route.ts': 'GET look',
  'api/find/route.ts': 'GET look',
  'api/health/route.ts': 'GET look',
  'api/items/export/route.ts': 'GET look',
  'api/items/route.ts': 'GET look',
  'api/metrics/route.ts': 'GET look',
  'api/pictures/route.ts': 'POST change',
  'api/runs/[run]/rejected/route.ts': 'GET look',
  'api/runs/[run]/route.ts': 'GET look',
  'api/sidebar/route.ts': 'GET look',
  'api/sources/route.ts': 'POST change',
  'api/submissions/[id]/files/[position]/route.ts': 'GET look',
  'api/progress/route.ts': 'GET look',
  'pictures/[file]/route.ts': 'GET look',
};
const pages = [
  'attributes/[code]/page.tsx',
  'attributes/page.tsx',
  'channels/[code]/edit/page.tsx',
  'channels/[code]/page.tsx',
  'channels/[code]/versions/page.tsx',
  'channels/new/page.tsx',
  'channels/page.tsx',
  'families/[code]/page.tsx',
  'families/page.tsx',
  'feeds/[feed]/[...unknown]/page.tsx',
  'feeds/[feed]/drilldown/page.tsx',
  'feeds/[feed]/categories/page.tsx',
  'feeds/[feed]/checks/page.tsx',
  'feeds/[feed]/differences/page.tsx',
  'feeds/[feed]/fields/page.tsx',
  'feeds/[feed]/history/page.tsx',
  'feeds/[feed]/matching/page.tsx',
  'feeds/[feed]/listings/page.tsx',
  'feeds/[feed]/rules/page.tsx',
  'feeds/[feed]/send/page.tsx',
  'feeds/[feed]/settings/page.tsx',
  'feeds/[feed]/families/page.tsx',
  'feeds/[feed]/titles/page.tsx',
  'feeds/[feed]/values/page.tsx',
  'items/[sku]/page.tsx',
  'items/archived/page.tsx',
  'items/new/page.tsx',
  'items/page.tsx',
  'keywords/page.tsx',
  'notifications/page.tsx',
  'gtins/page.tsx',
  'submissions/insights/page.tsx',
  'submissions/page.tsx',
  'page.tsx',
  'suppliers/[range]/page.tsx',
  'suppliers/page.tsx',
  'settings/page.tsx',
  'sources/[run]/page.tsx',
  'sources/page.tsx',
];
const actions = {
  'catalog/attributes': {
    change: 'storeAttribute deleteAttribute orderTerms rename',
    look: 'previewTermRename',
  },
  'catalog/families': {
    change:
      'addFamily setFamilyValue setFamilyAxes makeVariants moveToFamily mergeIntoFamily splitByAxis deleteFamily duplicateFamily',
    look: 'previewNewVariants',
  },
  'catalog/gtins': {
    change: 'addGtins removeGtins assignGtinsTo',
  },
  'catalog/items': {
    change:
      'undoCatalogEdit setCells bulkEdit archive letItemsJoin addItem duplicateItem setPictureOrder addPictureAddress describePicture storeView deleteView',
    look: 'previewBulkEdit',
  },
  'catalog/keywords': {
    change: 'importKeywordList deleteKeywords',
  },
  'catalog/suppliers': {
    change: 'importSupplierRange decideSupplierMatch applySupplierMatches deleteSupplier',
    look: 'previewSupplierRange',
  },
  channels: {
    change: 'makeOwnChannel openVersionOf saveSheet saveSheetText acceptVersion dropVersionOf deleteChannel',
    look: 'previewChannel',
  },
  feeds: {
    change:
      'saveEdit saveValueMapping applySuggestedFixes copyRuleTo searchEntries refuseEntryOf undoEdit publish storeDraft resumeStoredDraft createExpectation createValueExpectation deleteExpectation discard restore pin pinRepresentative addFeed copyFeed',
    look: 'previewCopy',
    send: 'deleteFeed',
  },
  notifications: {
    change: 'createWebhook editWebhook deleteWebhook testWebhook callWebhookAgain',
    look: 'markNotificationsRead',
  },
  submissions: {
    send: 'send changeDestination changeSchedule release drop pause resume stop sendHeld goBack answerAll answerWithFile askChannelAgain takeChannelList',
  },
  workspace: { change: 'storeSetup storeRetention fetchDictionaries storeVisits visitShopNow' },
  import: {
    change:
      'changeImport setForm startImport stopImport choose saveAddress addSource fetchSourceNow holdForReview deleteSource',
  },
} as const;

const app = 'src/app';
const filesNamed = (name: RegExp, folder = app): string[] =>
  readdirSync(folder, { withFileTypes: true })
    .flatMap((entry) => {
      const path = join(folder, entry.name);
      return entry.isDirectory() ? filesNamed(name, path) : name.test(entry.name) ? [path] : [];
    })
    .sort();
const own = (path: string) => relative(app, path);
const textOf = (path: string) => readFileSync(path, 'utf8');

test('every route is in the table, and goes through the gate', () => {
  const found = Object.fromEntries(
    filesNamed(/^route\.tsx?$/).map((path) => {
      const text = textOf(path);
      const exported = [...text.matchAll(/^export (?:const|async function|function) (\w+)/gm)].map(
        ([, name]) => name,
      );
      const made = [...text.matchAll(/^export const (GET|POST) = route\(\s*\{\s*right: '(\w+)'/gm)];
      // Nothing is exported that was not made by the gate.
      expect([own(path), made.map(([, name]) => name)]).toEqual([own(path), exported]);
      return [own(path), made.map(([, name, right]) => `${name} ${right}`).join(', ')];
    }),
  );
  expect(found).toEqual(routes);
});

test('every page is in the table, and goes through the gate', () => {
  const found = filesNamed(/^page\.tsx?$/);
  expect(found.map(own)).toEqual([...pages].sort());
  for (const path of found) {
    expect([own(path), /^export default page\(/m.test(textOf(path))]).toEqual([own(path), true]);
    expect(textOf(path).match(/^export /gm)).toHaveLength(1);
  }
  // What a page's folder names is parsed.
  for (const path of found.filter((one) => one.includes('[')))
    expect([own(path), /params: z\.object|feedPage/.test(textOf(path))]).toEqual([own(path), true]);
});

test('every action is in the table, and goes through the gate with a parse of what it takes', () => {
  const modules = {
    'catalog/attributes': attributes,
    'catalog/families': families,
    'catalog/gtins': gtins,
    'catalog/items': items,
    'catalog/keywords': keywords,
    'catalog/suppliers': suppliers,
    channels,
    feeds,
    import: imports,
    notifications,
    submissions,
    workspace,
  };
  expect(
    filesNamed(/\.ts$/, 'src/actions')
      .filter((path) => /^'use server'/.test(textOf(path)))
      .map((path) => relative('src/actions', path).replace('.ts', ''))
      .sort(),
  ).toEqual(Object.keys(modules).sort());
  for (const [area, module] of Object.entries(modules)) {
    const found: Record<string, string[]> = {};
    for (const [name, one] of Object.entries(module)) {
      const gate = gateOf(one);
      expect([area, name, gate !== undefined]).toEqual([area, name, true]);
      if (gate) found[gate.right] = [...(found[gate.right] ?? []), name].sort();
    }
    const wanted = Object.fromEntries(
      Object.entries(actions[area as keyof typeof actions]).map(([right, names]) => [
        right,
        names.split(' ').sort(),
      ]),
    );
    expect([area, found]).toEqual([area, wanted]);
  }
});

test('no other file makes actions', () => {
  const all = ['src/app', 'src/ui', 'src/server'].flatMap((folder) => filesNamed(/\.tsx?$/, folder));
  expect(all.filter((path) => /^\s*['"]use server['"]/m.test(textOf(path)))).toEqual([]);
});

const nasty: unknown[] = [
  undefined,
  null,
  7,
  -1,
  Number.NaN,
  '',
  '\u0000',
  {},
  [],
  '__proto__',
  'x'.repeat(10_000),
];

test('whatever an action is given, it answers in words', async () => {
  // Not those that would send or fetch; what they are given is parsed by the same gate.
  const all = [
    ...Object.values(imports),
    workspace.storeSetup,
    channels.acceptVersion,
    feeds.saveEdit,
    items.setCells,
  ];
  for (const one of all)
    for (const given of nasty) {
      const answer = await (one as (...words: unknown[]) => Promise<{ ok: boolean; words?: unknown }>)(
        given,
        given,
        given,
      );
      expect(answer).toMatchObject({ ok: false, words: expect.any(String) });
      expect(String(answer.words)).not.toMatch(/ZodError|at Object|TypeError/);
    }
});
