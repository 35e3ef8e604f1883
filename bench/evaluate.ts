/**
 * Ratios one and two of docs/architecture.md: compiled evaluation against a function written by hand for the same feed,
 * and against general libraries (JSONata for the mapping, json-rules-engine for the checks), all on the same work in one run.
 */
import { readFileSync } from 'node:fs';
import { Engine, type TopLevelCondition } from 'json-rules-engine';
import jsonata from 'jsonata';
import type { Row } from '../src/core/catalog/value';
import { readChannel } from '../src/core/channels/bundle';
import { fixedText } from '../src/core/compose/composition';
import { compile } from '../src/core/listing/compile';
import { addCompared, evaluate } from '../src/core/listing/evaluate';
import { textOfMarkup } from '../src/core/markup/markup';
import { planSchema } from '../src/core/plans/plan';
import { memoizedByText } from '../src/core/text/remembering';
import { evaluateByHand, handWritten } from './byHand';
import { largeCatalog } from './catalog';

const [count = process.argv.includes('--quick') ? 10_000 : 100_000] = process.argv
  .slice(2)
  .map(Number)
  .filter(Number.isFinite);
const rounds = 5;
const catalog = largeCatalog(count);
const { sheet, tree } = readChannel(
  readFileSync('src/channels/lanternry/requirements.json', 'utf8'),
  readFileSync('src/channels/lanternry/taxonomy.csv', 'utf8'),
);
const plan = planSchema.parse(JSON.parse(readFileSync('demo/plans/lanternry-de.json', 'utf8')));
// Generated items name no family, so nothing fills that field on either side.
const compiled = compile(
  {
    ...plan,
    fields: Object.fromEntries(Object.entries(plan.fields).filter(([field]) => field !== 'family')),
  },
  sheet,
  tree,
  catalog.index,
);

/** Both must say the same before they may be compared. */
function compareResults(): void {
  for (let i = 0; i < catalog.rows.length; i += 7) {
    const ours = evaluate(compiled, catalog.skus[i] ?? '', catalog.rows[i] ?? []);
    const theirs = evaluateByHand(catalog.records[i] ?? {});
    const brief = (listing: {
      state: string;
      values: readonly unknown[];
      issues: readonly { check: string; field: string; severity: string }[];
    }) =>
      JSON.stringify([
        listing.state,
        listing.values.map((value) => value ?? null),
        listing.issues.map(({ check, field, severity }) => `${severity} ${check} ${field}`).sort(),
      ]);
    if (brief(ours) !== brief(theirs))
      throw new Error(`Item ${i} differs:\n${brief(ours)}\n${brief(theirs)}`);
  }
}

const median = (times: number[]): number =>
  [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)] ?? 0;

/** How fast one way is: in items a second, and against the first of those it was measured with, round by round. */
interface Speed {
  readonly perSecond: number;
  readonly ratio: number;
}

/** A way to say whether an item is blocked, by its position. */
type Way = (i: number) => boolean;
const portion = 1000;

/**
 * Several ways over the same items, a portion at a time by turns, so that a machine that slows down slows all of them: once without
 * being measured, in which they must say the same of each item, then round by round.
 */
function byTurns(...ways: readonly Way[]): { speeds: Speed[]; blocked: number } {
  let blocked = 0;
  for (let i = 0; i < count; i++) {
    const said = ways.map((way) => way(i));
    if (new Set(said).size > 1) throw new Error(`Not all say the same of item ${i}: ${said.join(', ')}`);
    if (said[0]) blocked++;
  }
  const times = ways.map((): number[] => new Array(rounds).fill(0));
  for (let round = 0; round < rounds; round++)
    for (let from = 0, turn = round; from < count; from += portion, turn++)
      for (let n = 0; n < ways.length; n++) {
        // Nobody always comes right after the same one, whose garbage is then cleared away in its time.
        const at = (turn % 2 === 0 ? turn + n : turn + ways.length - n) % ways.length;
        const way = ways[at] as Way;
        const begun = performance.now();
        for (let i = from; i < Math.min(from + portion, count); i++) way(i);
        const own = times[at] as number[];
        own[round] = (own[round] ?? 0) + performance.now() - begun;
      }
  return {
    blocked,
    speeds: times.map((own) => ({
      perSecond: (count / median(own)) * 1000,
      ratio: median(own.map((time, round) => (times[0]?.[round] ?? 0) / time)),
    })),
  };
}

/** The same mapping as JSONata, the same needs, forms and choices as rules of json-rules-engine. */
async function offTheShelf(limit: number): Promise<number> {
  const lookUp = (table: string, value: string) =>
    `($f := ${value}; $exists($f) ? ($t := $lookup($tables.${table}, $f); $exists($t) ? $t : $f) : $f)`;
  const mapping = jsonata(`{
    "ref": sku, "about": $markup(description), "page": url, "picture": image[0], "more_pictures": image[[1..9]],
    "price": price & " " & priceCurrency, "stock": ${lookUp('stock', 'availability')}, "own_category": category,
    "barcode": $replace(gtin, /\\D+/, ""), "brand": brand ? brand : "Quillmoss", "part_number": mpn,
    "condition": itemCondition ? ${lookUp('condition', 'itemCondition')} : "new",
    "colour": glaze ? ${lookUp('colours', 'glaze')} : ${lookUp('colours', 'color')},
    "size": size ? size : diameter ? diameter : volume ? volume : height ? height : width,
    "gender": ${lookUp('gender', 'gender')}, "material": material, "pattern": pattern, "width": width, "height": height, "weight": weight,
    "contents": volume, "safety_note": warning, "age_range": ageRange, "author": author, "binding": $lowercase(bookFormat),
    "place": $lookup($places, category),
    "headline": $replace($join([brand & " " & name, glaze, color, diameter, size, volume, plug, bookFormat], ", ") & (material ? " · " & material : "") & (use ? " · " & use : ""), ", BEST PRICE", "")
  }`);
  mapping.registerFunction(
    'markup',
    (markup?: string) => (markup === undefined ? undefined : textOfMarkup(markup)),
    '<s?:s>',
  );
  const places = Object.fromEntries(
    Object.entries(plan.placements).flatMap(([name, one]) =>
      'category' in one ? [[name, one.category]] : [],
    ),
  );
  const engine = new Engine([], { allowUndefinedFacts: true });
  engine.addOperator(
    'matches',
    (value: string | undefined, expression: string) =>
      value === undefined || new RegExp(expression, 'u').test(value),
  );
  engine.addOperator(
    'longer',
    (value: string | undefined, most: number) => value !== undefined && value.length > most,
  );
  engine.addOperator('missing', (value: unknown) => value === undefined || value === '');
  engine.addOperator(
    'notOneOf',
    (value: string | undefined, list: string[]) => value !== undefined && !list.includes(value),
  );
  const rule = (name: string, conditions: TopLevelCondition) =>
    engine.addRule({ conditions, event: { type: name } });
  for (const field of sheet.fields) {
    if (field.need === 'must')
      rule(`missing ${field.code}`, { all: [{ fact: field.code, operator: 'missing', value: true }] });
    if (field.length?.most)
      rule(`long ${field.code}`, {
        all: [{ fact: field.code, operator: 'longer', value: field.length.most }],
      });
    if (field.choices)
      rule(`choice ${field.code}`, {
        all: [{ fact: field.code, operator: 'notOneOf', value: field.choices.map(({ code }) => code) }],
      });
    if (field.pattern)
      rule(`form ${field.code}`, {
        not: { fact: field.code, operator: 'matches', value: field.pattern.expression },
      });
    if (field.kind === 'link')
      rule(`link ${field.code}`, {
        not: { fact: field.code, operator: 'matches', value: '^https?://\\S+$' },
      });
  }
  let blocked = 0;
  for (let i = 0; i < limit; i++) {
    const facts = await mapping.evaluate(catalog.records[i], { tables: plan.tables, places });
    const { events } = await engine.run(facts);
    if (events.length > 0) blocked++;
  }
  return blocked;
}

compareResults();
const compiledOver =
  (rows: readonly Row[]): Way =>
  (i) =>
    evaluate(compiled, catalog.skus[i] ?? '', rows[i] ?? []).state === 'blocked';
const byHandOver =
  (records: typeof catalog.records, byHand: typeof evaluateByHand): Way =>
  (i) =>
    byHand(records[i] ?? {}).state === 'blocked';
// The hand-written function with the same memory for texts that come again: what the rest of the gain is.
const waysOver = (rows: readonly Row[], records: typeof catalog.records) =>
  byTurns(
    byHandOver(records, evaluateByHand),
    compiledOver(rows),
    byHandOver(records, handWritten(memoizedByText)),
  );
const whole = waysOver(catalog.rows, catalog.records);
// Most of the time above goes into reading markup, which both sides leave to the same parser; without it the pipeline itself shows.
const slot = catalog.index.slotOf('description') ?? -1;
const plain = waysOver(
  catalog.rows.map((row) =>
    row.map((value, at) => (at === slot && typeof value === 'string' ? textOfMarkup(value) : value)),
  ),
  catalog.records.map((record) => ({
    ...record,
    description: textOfMarkup(String(record.description ?? '')),
  })),
);
const few = Math.min(count, 3000);
await offTheShelf(300);
const perSecondOfFew = async (work: () => unknown): Promise<number> => {
  const begun = performance.now();
  await work();
  return (few / (performance.now() - begun)) * 1000;
};
const libraries = await perSecondOfFew(() => offTheShelf(few));
const ours = compiledOver(catalog.rows);
const oursAmongFew = await perSecondOfFew(() => {
  for (let i = 0; i < few; i++) ours(i);
});
console.log(
  `evaluation of ${count.toLocaleString('en')} items, ${rounds} rounds by turns; ${whole.blocked.toLocaleString('en')} blocked on all sides`,
);
const rate = (perSecond: number) => `${Math.round(perSecond).toLocaleString('en')} items/s`;
for (const [name, { speeds }, wanted] of [
  ['', whole, 1.5],
  ['without markup in descriptions, ', plain, 0.8],
] as const) {
  const [hand, ours, remembered] = speeds as [Speed, Speed, Speed];
  console.log(
    `  ${name}compiled plan ${rate(ours.perSecond)}, written by hand ${rate(hand.perSecond)}: ratio ${ours.ratio.toFixed(2)} (${wanted} or more wanted)`,
  );
  console.log(
    `    by hand, with the same memory ${rate(remembered.perSecond)}: ratio ${(ours.ratio / remembered.ratio).toFixed(2)}`,
  );
}
console.log(
  `  general libraries ${rate(libraries)}: ratio ${(oursAmongFew / libraries).toFixed(1)} (5 or more wanted; measured on ${few.toLocaleString('en')} items, with fewer checks than the compiled plan makes)`,
);

// One unique field that holds the same value on all items: every listing names the others.
const partNumber = sheet.fields.find(({ unique, code }) => unique && code !== 'ref')?.code ?? 'ref';
const shared = compile(
  { ...plan, fields: { ...compiled.plan.fields, [partNumber]: fixedText('THE-SAME') } },
  sheet,
  tree,
  catalog.index,
);
/** Time of the check alone, over the first items: what evaluation itself takes is measured above. */
function uniqueTime(items: number): number {
  const listings = catalog.rows.slice(0, items).map((row, i) => evaluate(shared, catalog.skus[i] ?? '', row));
  const times: number[] = [];
  for (let round = 0; round < rounds; round++) {
    const started = performance.now();
    addCompared(shared, [...listings], []);
    times.push(performance.now() - started);
  }
  return median(times);
}
const [smaller, larger] = [Math.round(count / 10), count];
uniqueTime(smaller);
const [smallerTime, largerTime] = [uniqueTime(smaller), uniqueTime(larger)];
console.log(
  `  a unique field with one value on all of ${smaller.toLocaleString('en')} and ${larger.toLocaleString('en')} items: ${smallerTime.toFixed(1)} and ${largerTime.toFixed(1)} ms; ${(largerTime / smallerTime).toFixed(1)} times the time for ${(larger / smaller).toFixed(0)} times the items`,
);
