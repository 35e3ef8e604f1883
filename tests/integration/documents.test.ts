import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import Ajv2020 from 'ajv/dist/2020';
import { configurationText } from '../../scripts/configurationDoc';
import { documents, schemaText } from '../../scripts/schemas';

const json = (path: string) => JSON.parse(readFileSync(path, 'utf8'));

// Source: JSON Schema 2020-12, through Ajv, an independent validator.
describe('the published JSON Schemas', () => {
  const ajv = new Ajv2020({ strict: false, validateFormats: false });
  const validate = (file: string) => ajv.compile(json(`docs/${file}`));

  test.each(documents)('docs/%s is what the types say', (file, title, schema) => {
    expect(readFileSync(`docs/${file}`, 'utf8')).toBe(schemaText(title, schema));
  });

  test('take the demo plan and the bundled sheet', () => {
    const plan = validate('plan.schema.json');
    expect([plan(json('demo/plans/lanternry-de.json')), plan.errors]).toEqual([true, null]);
    const sheet = validate('requirement-sheet.schema.json');
    expect([sheet(json('src/channels/lanternry/requirements.json')), sheet.errors]).toEqual([true, null]);
  });

  test('refuse what the types refuse', () => {
    const plan = validate('plan.schema.json');
    expect(plan({ ...json('demo/plans/lanternry-de.json'), fields: { price: { alternatives: [] } } })).toBe(
      false,
    );
    expect(plan({ ...json('demo/plans/lanternry-de.json'), format: 'other' })).toBe(false);
    expect(
      plan({
        ...json('demo/plans/lanternry-de.json'),
        rules: [{ id: 'a', name: 'b', when: { attribute: 'x', is: 'resembles' }, then: [] }],
      }),
    ).toBe(false);
  });
});

test('docs/configuration.md is what the settings say; `npm run schemas` makes it', () => {
  expect(readFileSync('docs/configuration.md', 'utf8')).toBe(configurationText());
});

test('every link of a document leads somewhere', () => {
  const files = ['README.md', 'CONTRIBUTING.md', 'CHANGELOG.md', 'src/channels/README.md'].concat(
    readdirSync('docs').flatMap((name) => (name.endsWith('.md') ? [`docs/${name}`] : [])),
  );
  for (const file of files) {
    const links = [...readFileSync(file, 'utf8').matchAll(/\]\((?!https?:)([^)#\s]+)/g)].map(
      ([, path]) => path ?? '',
    );
    for (const path of links)
      expect([file, path, existsSync(join(dirname(file), path))]).toEqual([file, path, true]);
  }
});

test('every file and folder that a document names in code is there', () => {
  const files = readdirSync('docs').filter((name) => name.endsWith('.md') && name !== 'measurements.md');
  for (const name of files)
    for (const [, path = ''] of readFileSync(`docs/${name}`, 'utf8').matchAll(
      /`((?:src|tests|scripts|demo|docs|core|server|ui|files|app|actions)\/[\w./[\]-]+(?:\.\w+|\/))`/g,
    ))
      expect([name, path, existsSync(path) || existsSync(join('src', path))]).toEqual([name, path, true]);
});

test('every screenshot is linked from the README and every link of the README leads somewhere', () => {
  const readme = readFileSync('README.md', 'utf8');
  const links = [...readme.matchAll(/\]\((?!https?:)([^)#]+)\)/g)].map(([, path]) => path ?? '');
  expect(links.length).toBeGreaterThan(5);
  for (const path of links) expect([path, existsSync(path)]).toEqual([path, true]);
});

// Source: the texts of the licences as SPDX lists them, by a phrase that each has; https://spdx.org/licenses.
describe('the licences of what is used', () => {
  const phrases: Readonly<Record<string, RegExp>> = {
    MIT: /Permission is hereby granted, free of charge/i,
    'MIT/X11': /Permission is hereby granted, free of charge/i,
    'MIT-0': /Permission is hereby granted, free of charge/i,
    '(MIT OR GPL-3.0-or-later)': /Permission is hereby granted, free of charge/i,
    '(MIT AND Zlib)': /Permission is hereby granted, free of charge/i,
    '(MIT OR CC0-1.0)': /Permission is hereby granted, free of charge|CC0/i,
    'Apache-2.0': /Apache License/i,
    ISC: /Permission to use, copy, modify/i,
    '0BSD': /Permission to use, copy, modify/i,
    'BSD-2-Clause': /Redistribution and use in source and binary/i,
    'BSD-3-Clause': /Redistribution and use in source and binary/i,
    'BlueOak-1.0.0': /Blue Oak Model License/i,
    'OFL-1.1': /SIL Open Font License/i,
    'CC-BY-4.0': /Creative Commons Attribution|CC-BY|Attribution 4\.0/i,
    Unlicense: /free and unencumbered software/i,
  };
  const lock = json('package-lock.json') as {
    packages: Record<string, { license?: string; dev?: boolean; optional?: boolean }>;
  };
  const used = Object.entries(lock.packages).filter(
    ([path, { dev, optional }]) => path !== '' && !dev && !optional && existsSync(path),
  );

  test('is in each package what it says it is, and free for everybody without limits', () => {
    const wrong: string[] = [];
    let read = 0;
    for (const [path, { license }] of used) {
      const files = readdirSync(path).filter((name) => /^(licen[cs]e|copying)/i.test(name));
      const text = files
        .map((name) => readFileSync(join(path, name), 'utf8'))
        .join(' ')
        .replace(/\s+/g, ' ');
      // Some small ones ship without the text.
      if (text === '') continue;
      read++;
      if (!phrases[license ?? '']?.test(text)) wrong.push(`${path}: ${license}`);
      if (/turnover|annual (gross )?revenue|commercial licen[cs]e/i.test(text))
        wrong.push(`${path}: limited`);
    }
    expect(wrong).toEqual([]);
    expect(read).toBeGreaterThan(200);
  });

  test('stand in docs/licences.md as the lock file has them', () => {
    const told = readFileSync('docs/licences.md', 'utf8');
    const { dependencies } = json('package.json') as { dependencies: Record<string, string> };
    const missing = Object.keys(dependencies).filter(
      (name) => !told.includes(`| ${name} | ${json(`node_modules/${name}/package.json`).version} |`),
    );
    expect(missing).toEqual([]);
  });
});
