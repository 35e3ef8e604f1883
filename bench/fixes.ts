/**
 * What clears causes, over 200,000 items: finding the sets that are worth taking, and learning of an attribute what items lack,
 * against reading every row of the catalog once. The longest that others wait while it is learned is told as well.
 */
import { asText } from '../src/core/catalog/value';
import { fixPlan } from '../src/core/fixes/fixPlan';
import { inferring } from '../src/core/fixes/valueInference';
import { largeCatalog } from './catalog';

const count = process.argv.includes('--quick') ? 20_000 : 200_000;
const rounds = 5;
const catalog = largeCatalog(count);
const median = (times: readonly number[]): number =>
  [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)] ?? 0;
const timed = (work: () => void): number =>
  median(
    Array.from({ length: rounds }, () => {
      const begun = performance.now();
      work();
      return performance.now() - begun;
    }),
  );

let signs = 0;
const reading = timed(() => {
  for (const row of catalog.rows) for (const value of row) signs += asText(value).length;
});

/** One item in ten lacks the value, as after a supplier's careless file. */
function lacking(attribute: string) {
  const slot = catalog.index.slotOf(attribute) ?? -1;
  const rows = catalog.rows.map((row, at) =>
    at % 10 === 0 ? row.map((value, n) => (n === slot ? undefined : value)) : row,
  );
  return { ...catalog, rows, slot };
}

for (const attribute of ['color', 'material', 'countryOfOrigin', 'category']) {
  const known = lacking(attribute);
  if (known.slot < 0) continue;
  let longest = 0;
  let [said, right, sure] = [0, 0, 0];
  const whole = timed(() => {
    [said, right, sure] = [0, 0, 0];
    const steps = inferring(attribute, known);
    for (;;) {
      const begun = performance.now();
      const { done, value } = steps.next();
      longest = Math.max(longest, performance.now() - begun);
      if (!done) continue;
      for (let at = 0; at < count; at += 10) {
        const was = asText(catalog.rows[at]?.[known.slot]);
        const found = was === '' ? undefined : value(at);
        if (!found) continue;
        said++;
        if (!found.sure) continue;
        sure++;
        if (found.value === was) right++;
      }
      return;
    }
  });
  console.log(
    `${attribute}: learned and said of ${count / 10} items in ${Math.round(whole)} ms, ${(whole / reading).toFixed(1)} times reading all rows once; longest step ${Math.round(longest)} ms; said of ${said}, sure of ${sure}, right in ${sure === 0 ? '–' : `${((right / sure) * 100).toFixed(1)} %`} of those`,
  );
}

/** Causes as a feed has them: most listings lack one thing, some several, over sixty causes. */
const causes = Array.from({ length: 3000 }, (_, n): [string, number] => [
  [...new Set([n % 61, (n * 7) % 61, (n * 13) % 61].slice(0, 1 + (n % 3)))]
    .map((one) => `missing:field${one}`)
    .sort()
    .join('\n'),
  1 + ((n * 37) % 90),
]);
const path = timed(() => {
  fixPlan({ causes: [...new Map(causes)] }, () => 1, 6);
});
console.log(
  `six sets among ${new Map(causes).size} combinations of causes in ${path.toFixed(1)} ms, ${(path / reading).toFixed(2)} times reading all rows once (${Math.round(reading)} ms, ${signs} signs)`,
);
