import { inArray, sql } from 'drizzle-orm';
import type { Values } from '../../core/catalog/item';
import { countryCode, replacedCountryCode } from '../../core/locale/countries';
import { type EditDone, editCatalog } from '../catalog/editing';
import { db } from '../db/connection';
import { family, item } from '../db/schema';

const attribute = 'countryOfOrigin';
const letters = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'];

/** Every withdrawn code that an earlier reading of country names could store. */
const withdrawnCodes = (): string[] =>
  letters.flatMap((first) =>
    letters.flatMap((second) => (replacedCountryCode(first + second) ? [first + second] : [])),
  );

/**
 * The code in force for a stored one. The source's cell is the proof: where there is one, it alone decides, and a cell that
 * itself says the withdrawn code stays for a person to decide.
 */
function repairedCode(values: Values, cell: string | undefined): string | undefined {
  const stored = values[attribute];
  if (typeof stored !== 'string') return undefined;
  return cell ? countryCode(cell) : replacedCountryCode(stored);
}

/**
 * Gives items and families the ISO 3166-1 code in force where an earlier version stored a withdrawn one ("Germany" as DD).
 * One edit of the catalog, which can be undone. @returns the edit; undefined where nothing needs repair
 */
export async function repairCountries(): Promise<EditDone | undefined> {
  const codes = withdrawnCodes();
  const isWithdrawn = (values: typeof item.values | typeof family.values) =>
    inArray(sql`json_value(${values}, ${`$.${attribute}`})`, codes);
  const items = await db
    .select({ sku: item.sku, values: item.values, origins: item.origins })
    .from(item)
    .where(isWithdrawn(item.values));
  const families = await db
    .select({ code: family.code, values: family.values })
    .from(family)
    .where(isWithdrawn(family.values));
  const wanted = new Map(
    items.flatMap(({ sku, values, origins }) => {
      const code = repairedCode(values, origins[attribute]?.cell);
      return code ? [[sku, code] as const] : [];
    }),
  );
  const wantedFamilies = families.flatMap(({ code, values }) => {
    const country = repairedCode(values, undefined);
    return country ? [[code, country] as const] : [];
  });
  if (wanted.size === 0 && wantedFamilies.length === 0) return undefined;
  return editCatalog(async (desk) => {
    const changes = new Set<string>();
    const repaired = (values: Values, code: string): Values => {
      changes.add(`${values[attribute]} is ${code}`);
      return { ...values, [attribute]: code };
    };
    for (const [sku, state] of await desk.items([...wanted.keys()]))
      desk.putItem(sku, { ...state, values: repaired(state.values, wanted.get(sku) as string) });
    for (const [code, country] of wantedFamilies) {
      const state = await desk.family(code);
      if (state) desk.putFamily(code, { ...state, values: repaired(state.values, country) });
    }
    return `countries of origin repaired: ${[...changes].sort().join(', ')}`;
  });
}
