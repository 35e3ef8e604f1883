import { applyEdit } from './edit';
import { emptyPlan, type PlanUpgrade, planOfFeed, planOn, readPlan, storedPlan } from './plan';

const plan = emptyPlan('lanternry', { country: 'DE', language: 'de', currency: 'EUR' });

test('what a document showed is missing again from the day after it holds', () => {
  const met = {
    ...plan,
    met: ['safety data sheet', 'address'],
    proofs: { 'safety data sheet': { says: 'SDS-12', until: '2027-03-31' } },
  };
  expect(planOn(met, '2027-03-31').met).toEqual(['safety data sheet', 'address']);
  expect(planOn(met, '2027-04-01').met).toEqual(['address']);
  const edit = { edit: 'met', what: 'address', on: true } as const;
  const shown = applyEdit(plan, { ...edit, proof: { says: 'form.pdf' } });
  expect([shown.met, shown.proofs]).toEqual([['address'], { address: { says: 'form.pdf' } }]);
  expect(applyEdit(shown, edit).proofs).toEqual({ address: { says: 'form.pdf' } });
  const gone = applyEdit(shown, { ...edit, on: false });
  expect(gone).toEqual(plan);
});

describe('a stored plan', () => {
  test('of today is read as it is, with what it did not name yet', () => {
    const { rules: _rules, met: _met, ...old } = plan;
    expect(readPlan(JSON.parse(JSON.stringify(plan)))).toEqual(plan);
    expect(readPlan(old)).toEqual(plan);
  });

  test('of an earlier format goes through every upgrade in between, in their order', () => {
    const upgrades: PlanUpgrade[] = [
      ({ mappings, ...rest }) => ({ ...rest, fields: mappings }),
      ({ shop, ...rest }) => ({ ...rest, channel: shop }),
    ];
    const { fields: _fields, channel: _channel, ...rest } = plan;
    const first = { ...rest, format: 'lively-cart/plan@1', mappings: {}, shop: 'lanternry' };
    const second = { ...rest, format: 'lively-cart/plan@2', fields: {}, shop: 'lanternry' };
    expect(readPlan(first, upgrades)).toEqual(plan);
    expect(readPlan(second, upgrades)).toEqual(plan);
  });

  test('of format 1 says of all parts what it said of the brand', () => {
    const title = { parts: [{ attribute: 'name' }], brandOnce: false };
    expect(readPlan({ ...plan, format: 'lively-cart/plan@1', title }).title?.sayOnce).toBe(false);
    expect(readPlan({ ...plan, format: 'lively-cart/plan@1' })).toEqual(plan);
  });

  test('of a later format is refused with the remedy, and is not guessed at', () => {
    expect(() => readPlan({ ...plan, format: 'lively-cart/plan@7' })).toThrow(
      'The plan is of format 7; this version knows formats up to 2. Update the application.',
    );
  });

  test.each([
    ['nothing', null, 'its root|format'],
    ['no plan', { format: 'somebody-else/plan@1' }, 'format'],
    ['a market that is none', { ...plan, market: { country: 'Germany' } }, 'market.country'],
    ['a rule that is none', { ...plan, rules: [{ id: 'r' }] }, 'rules.0'],
  ])('%s names the place', (_name, stored, place) => {
    expect(() => readPlan(stored)).toThrow(new RegExp(`^The plan is not valid at (${place})`));
  });

  test('that is kept and no longer valid is given as it is, so that its feed can say so and be undone', () => {
    const bad = { ...plan, rules: [{ id: 'r' }], tables: undefined };
    expect(storedPlan(bad)).toMatchObject({ channel: 'lanternry', rules: [{ id: 'r' }], fields: {} });
    expect(storedPlan(plan)).toEqual(plan);
    expect(() => storedPlan({ ...plan, format: 'lively-cart/plan@7' })).toThrow('Update the application');
  });
});

test('a plan is that of its feed, and a copy that of its own', () => {
  const mine = planOfFeed(plan, 'lanternry-de');
  expect(mine.feed).toBe('lanternry-de');
  expect(planOfFeed(mine, 'lanternry-de')).toBe(mine);
  expect(readPlan(mine)).toEqual(mine);
  expect(planOfFeed(mine, 'lanternry-at').feed).toBe('lanternry-at');
});
