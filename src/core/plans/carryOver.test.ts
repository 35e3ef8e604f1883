import { readFileSync } from 'node:fs';
import { compileDemo, demoCatalog, demoPlan, lanternry } from '../../../tests/support/demo';
import { readChannel } from '../channels/bundle';
import { fixedText } from '../compose/composition';
import { evaluateAll } from '../listing/evaluate';
import { carryOver } from './carryOver';
import { planSchema } from './plan';

const file = (code: string, name: string) => readFileSync(`src/channels/${code}/${name}`, 'utf8');
const ownShop = readChannel(file('own-shop', 'requirements.json'), file('own-shop', 'taxonomy.csv'));
const gb = { country: 'GB', language: 'en', currency: 'GBP' };

describe('to another market of the same channel', () => {
  const { plan, carried, left } = carryOver(demoPlan, lanternry, lanternry, gb);
  test('everything goes along but the market', () => {
    expect(planSchema.parse(plan)).toEqual({ ...demoPlan, market: gb });
    expect(carried).toEqual([
      `${Object.keys(demoPlan.fields).length} field mappings`,
      `${Object.keys(demoPlan.placements).length} category mappings`,
      `${Object.keys(demoPlan.tables).length} value mappings`,
      'the title pattern',
      `${demoPlan.rules.length} rules`,
    ]);
    expect(left).toEqual([]);
  });
  test('what it asks for there is asked, and nothing else differs', () => {
    const [here, there] = [
      evaluateAll(compileDemo(), demoCatalog),
      evaluateAll(compileDemo(plan), demoCatalog),
    ];
    expect(there.map(({ state }) => state === 'leftOut')).toEqual(
      here.map(({ state }) => state === 'leftOut'),
    );
  });
  test('fixed words in another language are named, and papers of another country are not assumed', () => {
    const more = {
      ...demoPlan,
      fields: { ...demoPlan.fields, material: fixedText('Steinzeug') },
      met: ['letter'],
    };
    expect(carryOver(more, lanternry, lanternry, gb).left).toEqual([
      'check the fixed texts in Material: they are in de',
      'prerequisites met for the other market',
    ]);
    const austria = { country: 'AT', language: 'de', currency: 'EUR' };
    expect(carryOver(more, lanternry, lanternry, austria).left).toHaveLength(1);
  });
});

describe('to another channel', () => {
  const scope = { attribute: 'brand', is: 'filled' as const };
  const { plan, left } = carryOver({ ...demoPlan, scope }, lanternry, ownShop, gb);
  test('fields that are alike are filled alike, without the words of the other channel', () => {
    expect(planSchema.parse(plan)).toEqual(plan);
    expect(plan.fields.price).toEqual(demoPlan.fields.price);
    expect(plan.fields.gtin).toEqual(demoPlan.fields.barcode);
    expect(JSON.stringify(plan.fields)).not.toContain('lookUp');
    const known = new Set(ownShop.sheet.fields.map(({ code }) => code));
    for (const field of Object.keys(plan.fields)) expect(known.has(field)).toBe(true);
  });
  test('what is left out stays out; places, tables and rules on its fields stay behind', () => {
    expect(plan.placements).toEqual({ 'Gift wrap': { leaveOut: 'not sold here' } });
    expect(plan.tables).toEqual({});
    expect(plan.scope).toEqual(scope);
    expect(plan.title).toEqual(demoPlan.title);
    expect(left[0]).toMatch(/^\d+ category mappings: this tree is different/);
  });
});
