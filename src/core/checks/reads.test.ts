import { morePlans } from '../../../demo/plans';
import { demoCatalog, demoIndex, demoPlan } from '../../../tests/support/demo';
import { bundled } from '../../../tests/support/sheets';
import type { Value } from '../catalog/value';
import { compile } from '../listing/compile';
import { evaluateAll } from '../listing/evaluate';

/** An own check that asks for several fields and the place, beside those of the sheet. */
const own = {
  dear: {
    words: 'Dear goods of a branch want a brand',
    field: 'brand',
    severity: 'risk' as const,
    when: { all: [{ field: 'price', is: 'filled' as const }, { under: ['3000'] }] },
  },
};

test.each([demoPlan, ...morePlans(demoPlan)].map((plan) => [`${plan.channel} ${plan.market.country}`, plan]))(
  'of the values of a listing a check reads none but those it names, and tells of its own: %s',
  (_name, plan) => {
    const { sheet, tree } = bundled(plan.channel);
    const checks = { severity: {}, waived: {}, own };
    const compiled = compile({ ...plan, checks }, sheet, tree, demoIndex);
    const unnamed = new Set<string>();
    let named: ReadonlySet<number> = new Set();
    const reported = new Set<string>();
    let read = 0;
    const watched = (values: readonly (Value | undefined)[]) =>
      new Proxy(values, {
        get: (all, key) => {
          const at = typeof key === 'string' && /^\d+$/.test(key) ? Number(key) : undefined;
          if (at !== undefined) {
            read++;
            if (!named.has(at)) unnamed.add(`${sheet.fields[at]?.code}`);
          }
          return Reflect.get(all, key);
        },
      });
    const listings = evaluateAll(compiled, demoCatalog);
    for (const [i, { values }] of listings.entries()) {
      const row = demoCatalog.rows[i] ?? [];
      // As it is, and with nothing in it: then conditions are asked for that are not reached else.
      for (const some of [values, values.map((value, at) => (at % 3 === i % 3 ? undefined : value))])
        for (const check of compiled.checks) {
          named = check.reads;
          check.run(row, watched(some), (...[, , field]) => void reported.add(field));
          if (reported.size > 0) expect([...reported]).toEqual([sheet.fields[check.at]?.code]);
          reported.clear();
          for (const one of check.onListing) {
            named = one.reads;
            one.run(row, watched(some), () => undefined);
          }
        }
    }
    expect([...unnamed]).toEqual([]);
    expect(read).toBeGreaterThan(listings.length);
  },
);
