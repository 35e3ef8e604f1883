import { createWriteStream, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { DateTime } from 'luxon';
import { axisCodes } from '../core/catalog/attributes';
import { codesIn, gatherFamilies, type Item, rowCodes, rowOf } from '../core/catalog/item';
import { attributeIndex, type Value } from '../core/catalog/value';
import { InputError } from '../core/errors/inputError';
import { readCatalogCsv, readCatalogNdjson } from '../core/formats/catalogCsv';
import { compile } from '../core/listing/compile';
import type { CompiledPlan } from '../core/listing/compiling/compiledPlan';
import { evaluateAll, type Listing } from '../core/listing/evaluate';
import { explain } from '../core/listing/explain';
import { minorUnits } from '../core/measures/currencies';
import { type Plan, planOn, readPlan } from '../core/plans/plan';
import { feedPieces, formats } from '../files/formats';
import { languageDetector } from '../files/languageDetector';
import { bundledChannel } from '../server/channels/bundled';
import { fileText, pathOption, readArguments } from './arguments';

/** The values of a listing by field code, empty ones left out. */
function valuesByField(compiled: CompiledPlan, listing: Listing): Record<string, Value> {
  const values: Record<string, Value> = {};
  compiled.sheet.fields.forEach((field, at) => {
    const value = listing.values[at];
    if (value !== undefined) values[field.code] = value;
  });
  return values;
}

function planIn(path: string): Plan {
  let json: unknown;
  try {
    json = JSON.parse(fileText(path, 'plan'));
  } catch (error) {
    if (error instanceof InputError) throw error;
    throw new InputError('planNoJson', { path, why: error instanceof Error ? error.message : error });
  }
  try {
    return readPlan(json);
  } catch (error) {
    if (!(error instanceof InputError) || error.code !== 'planUnreadable') throw error;
    const { place, why } = error.facts;
    throw new InputError('planInvalid', { path, place, why });
  }
}

/**
 * `cart evaluate`: a plan and a catalog into listings, a summary and the channel's file; without a database. `--currency` says which currency amounts are in that name none.
 * @returns 0 when every listing in scope can be sent, 1 when some are blocked
 */
export async function evaluateCommand(words: readonly string[], now: Date): Promise<number> {
  const { values: options, flags } = readArguments(words, {
    values: ['plan', 'catalog', 'out', 'currency'],
    flags: ['lineage'],
  });
  const usage = 'cart evaluate --plan plan.json --catalog items.csv --out DIR [--currency EUR] [--lineage]';
  const [planPath, catalogPath, out] = [
    pathOption(options, 'plan', usage),
    pathOption(options, 'catalog', usage),
    pathOption(options, 'out', usage),
  ];
  const plan = planIn(planPath);
  const { sheet, tree } = bundledChannel(plan.channel);
  const text = fileText(catalogPath, 'catalog');
  const items: Item[] = /\.(ndjson|jsonl)$/.test(catalogPath)
    ? readCatalogNdjson(text)
    : readCatalogCsv(text);
  const currency = options.get('currency');
  if (currency !== undefined && minorUnits(currency) === undefined)
    throw new InputError('noCurrencyOption', { currency });
  const index = attributeIndex([...rowCodes, ...codesIn(items, [])], currency);
  // The day where the terminal is; TZ sets another zone.
  const day = DateTime.fromJSDate(now).toISODate() ?? now.toISOString().slice(0, 10);
  const compiled = compile(planOn(plan, day), sheet, tree, index, {
    day,
    languageOf: await languageDetector(),
  });
  const gathered = gatherFamilies(items, axisCodes);
  const families = new Map(gathered.families.map((one) => [one.code, one]));
  const rows = gathered.items.map((item) => rowOf(item, families.get(item.family ?? ''), index));
  const listings = evaluateAll(compiled, { skus: items.map(({ sku }) => sku), rows });

  mkdirSync(out, { recursive: true });
  const lines = createWriteStream(join(out, 'listings.ndjson'));
  listings.forEach((listing, i) => {
    const lineage = flags.has('lineage')
      ? {
          lineage: Object.fromEntries(
            sheet.fields
              .map(({ code }) => [code, explain(compiled, rows[i] ?? [], code)])
              .filter(([, knots]) => knots?.length),
          ),
        }
      : {};
    const { sku, state, reason, issues } = listing;
    lines.write(
      `${JSON.stringify({ sku, state, ...(reason ? { reason } : {}), values: valuesByField(compiled, listing), issues, ...lineage })}\n`,
    );
  });
  await new Promise((resolve, reject) => lines.end(resolve).on('error', reject));
  const ready = listings.filter(({ state }) => state === 'ready');
  const head = {
    id: `urn:lively-cart:feed:${plan.channel}:${plan.market.country.toLowerCase()}`,
    title: `${sheet.name} ${plan.market.country}`,
    author: 'Lively Cart',
    updated: now.toISOString(),
  };
  await pipeline(
    Readable.from(feedPieces(sheet, head, ready)),
    createWriteStream(join(out, `feed.${formats[sheet.delivery.format].ending}`)),
  );
  const issuesByCheck: Record<string, number> = {};
  for (const { issues } of listings)
    for (const { check, field } of issues)
      issuesByCheck[`${check}:${field}`] = (issuesByCheck[`${check}:${field}`] ?? 0) + 1;
  const count = (state: Listing['state']) => listings.filter((listing) => listing.state === state).length;
  const summary = {
    channel: plan.channel,
    market: plan.market,
    items: items.length,
    ready: count('ready'),
    blocked: count('blocked'),
    leftOut: count('leftOut'),
    issues: issuesByCheck,
  };
  writeFileSync(join(out, 'summary.json'), `${JSON.stringify(summary, null, 2)}\n`);
  return summary.blocked > 0 ? 1 : 0;
}
