import { existsSync, readFileSync } from 'node:fs';
import Ajv2020 from 'ajv/dist/2020';
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

test('every screenshot is linked from the README and every link of the README leads somewhere', () => {
  const readme = readFileSync('README.md', 'utf8');
  const links = [...readme.matchAll(/\]\((?!https?:)([^)#]+)\)/g)].map(([, path]) => path ?? '');
  expect(links.length).toBeGreaterThan(5);
  for (const path of links) expect([path, existsSync(path)]).toEqual([path, true]);
});
