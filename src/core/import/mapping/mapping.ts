import type { Attribute } from '../../catalog/attributes';
import type { Values } from '../../catalog/item';
import { termFinder } from '../../catalog/terms';
import {
  asText,
  attributeIndex,
  codeInCurrency,
  currencyInCode,
  isCut,
  type Row,
  type Value,
} from '../../catalog/value';
import { type Composition, compileComposition } from '../../compose/composition';
import type { Step } from '../../compose/steps';
import { countryCode } from '../../locale/countries';
import { currencyOf } from '../../measures/currencies';
import { readAmount } from '../../measures/money';
import { importKinds } from './attributeKinds';
import {
  damageOf,
  decimalDamage,
  formulaDamage,
  isFormula,
  type Proposal,
  saysNothing,
  sheetErrorDamage,
} from './damage';
import type { ImportMapping, ItemKey } from './importMapping';

export interface ReadItem {
  readonly sku: string;
  /** What the item is found again by: its SKU, GTIN or part number, as the mapping says. */
  readonly key: string;
  readonly family: string | undefined;
  readonly values: Values;
  /** The column each value came from and what stood there. */
  readonly cells: Readonly<Record<string, { column: string; cell: string }>>;
  /** Damage that was found, repaired where its kind is accepted. */
  readonly proposals: readonly { attribute: string; proposal: Proposal }[];
}

export type Rejection =
  | { readonly reason: 'noSku' }
  | { readonly reason: 'noKey'; readonly key: ItemKey }
  | { readonly reason: 'noName' }
  | { readonly reason: 'price'; readonly found: string }
  | { readonly reason: 'number'; readonly attribute: string; readonly found: string }
  | { readonly reason: 'negative'; readonly attribute: string; readonly found: string }
  | { readonly reason: 'yesNo'; readonly attribute: string; readonly found: string }
  | { readonly reason: 'tooLong'; readonly attribute: string }
  | {
      readonly reason: 'currencies';
      readonly attribute: string;
      readonly found: string;
      readonly currency: string;
    }
  | {
      readonly reason: 'decimalSign';
      readonly attribute: string;
      readonly found: string;
      /** All damage of the row with its repairs: it comes in once they are accepted. */
      readonly damaged: Pick<ReadItem, 'sku' | 'proposals'>;
    }
  | { readonly reason: 'formula'; readonly column: string; readonly found: string }
  | { readonly reason: 'repeated'; readonly sku: string; readonly row: number };

export type RowReader = (cells: Readonly<Record<string, string>>) => ReadItem | Rejection;

/** The columns a composition reads. */
export const columnsOf = (composition: Composition): string[] => [
  ...new Set(
    composition.alternatives.flatMap(({ parts }) =>
      parts.flatMap((part) => ('attribute' in part ? [part.attribute] : [])),
    ),
  ),
];

interface AttributeReader {
  attribute: string;
  run(row: Row): Value | undefined;
  column: string;
  /** Where the column stands in a row. */
  slot: number;
  kind: Attribute['kind'] | undefined;
  /** The decimal sign the column is said to use. */
  sign: ',' | '.' | undefined;
  /** A code that is only trimmed: what cannot be seen in it is told, not trimmed away with the blanks. */
  bare: boolean;
  /** Finds the term of a choice that a word is a synonym of. */
  term: ((word: string) => string | undefined) | undefined;
}

/** A composition in which amounts keep the currency that stands beside them, also where it was saved before that was asked. */
function keepingCurrency(composition: Composition): Composition {
  const stored = (steps: readonly Step[]): Step[] =>
    steps.map((step) => (step.step === 'number' && !step.currency ? { ...step, currency: 'keep' } : step));
  return {
    steps: stored(composition.steps),
    alternatives: composition.alternatives.map((one) => ({
      steps: stored(one.steps),
      parts: one.parts.map((part) => ('attribute' in part ? { ...part, steps: stored(part.steps) } : part)),
    })),
  };
}

/**
 * Compiles a mapping. A record becomes an item or a rejection; it never throws.
 * @param attributes to know how each value is kept
 * @param currency the catalog's; amounts that name another are kept as amounts in that one
 */
export function compileMapping(
  mapping: ImportMapping,
  attributes: readonly Attribute[],
  currency?: string,
): RowReader {
  const columns = [...new Set(Object.values(mapping.fields).flatMap(columnsOf))];
  const index = attributeIndex(columns);
  const context = { index, language: 'en', currency: 'EUR', tables: mapping.tables };
  const kinds = new Map(attributes.map(({ code, kind }) => [code, kind]));
  const terms = new Map(
    attributes.flatMap((one) =>
      one.kind === 'choice' && one.terms?.length ? [[one.code, termFinder(one.terms)] as const] : [],
    ),
  );
  const readers = Object.entries(mapping.fields).map(([attribute, given]): AttributeReader => {
    const kind = kinds.get(attribute);
    const composition = kind === 'money' ? keepingCurrency(given) : given;
    const [column = ''] = columnsOf(composition);
    const stepsOf = [
      ...composition.steps,
      ...composition.alternatives.flatMap(({ steps, parts }) => [
        ...steps,
        ...parts.flatMap((part) => ('attribute' in part ? part.steps : [])),
      ]),
    ];
    return {
      attribute,
      run: compileComposition(composition, context).run,
      column,
      slot: columns.indexOf(column),
      kind,
      sign: stepsOf.flatMap((step) =>
        step.step === 'number' || step.step === 'measure' ? (step.decimalSign ?? []) : [],
      )[0],
      term: terms.get(attribute),
      bare:
        kind === 'identifier' &&
        composition.alternatives.length === 1 &&
        composition.alternatives[0]?.parts.length === 1 &&
        stepsOf.every(({ step }) => step === 'trim'),
    };
  });
  const accepted = new Set<string>(mapping.repairs);
  const { key } = mapping;
  return (cells) => {
    const row: (Value | undefined)[] = new Array(columns.length);
    const wrapped: Proposal[] = [];
    for (let slot = 0; slot < columns.length; slot++) {
      const column = columns[slot] as string;
      const cell = cells[column];
      if (cell === undefined || cell.trim() === '') continue;
      if (saysNothing(cell)) {
        const proposal = sheetErrorDamage(cell);
        if (proposal) wrapped[slot] = proposal;
        continue;
      }
      if (isFormula(cell)) {
        const proposal = formulaDamage(cell);
        if (!proposal) return { reason: 'formula', column, found: cell };
        wrapped[slot] = proposal;
        row[slot] = accepted.has('formula') ? proposal.to : cell;
      } else row[slot] = cell;
    }
    const item = readRow(row, readers, { accepted, key, currency }, cells);
    if ('reason' in item) return item;
    const found = wrapped.flatMap((proposal, slot) =>
      readers.flatMap(({ attribute, column }) => (column === columns[slot] ? [{ attribute, proposal }] : [])),
    );
    return found.length === 0 ? item : { ...item, proposals: [...item.proposals, ...found] };
  };
}

const asTerm = (value: Value, term: (word: string) => string | undefined): Value =>
  typeof value === 'string' ? (term(value) ?? value) : value.map((word) => term(word) ?? word);

/** What a row is read under besides its readers. */
interface RowTerms {
  readonly accepted: ReadonlySet<string>;
  readonly key: ItemKey;
  readonly currency: string | undefined;
}

/** Why a value of some kind cannot be taken; undefined where it can. */
function refusalOf(
  kind: Attribute['kind'] | undefined,
  attribute: string,
  value: Value,
): Rejection | undefined {
  if (isCut(value)) return { reason: 'tooLong', attribute };
  const found = asText(value);
  const reason = kind && importKinds[kind].refusal?.(found);
  if (reason === 'number' && attribute === 'price') return { reason: 'price', found };
  return reason && { reason, attribute, found };
}

/**
 * Parts amounts from the currencies they name. The item's own currency is the one its row says, else the one its price
 * names, else the catalog's; amounts in another are kept beside, as amounts in that one.
 */
function tellCurrencies(
  values: Record<string, Value>,
  cells: Record<string, { column: string; cell: string }>,
  readers: readonly AttributeReader[],
  catalog: string | undefined,
): Rejection | undefined {
  const stated = values.priceCurrency === undefined ? undefined : asText(values.priceCurrency);
  let own = stated === undefined ? undefined : (currencyOf(stated, catalog) ?? stated);
  if (own !== undefined) values.priceCurrency = own;
  const money = readers.filter(({ kind, attribute }) => kind === 'money' && values[attribute] !== undefined);
  // The price says it first; other amounts only where there is no price and no currency of the catalog.
  money.sort((a, b) => Number(b.attribute === 'price') - Number(a.attribute === 'price'));
  for (const { attribute } of money) {
    const amount = readAmount(asText(values[attribute]), own ?? catalog);
    if (!amount) continue;
    const fixed = currencyInCode(attribute)?.currency;
    const named = amount.currency;
    if (fixed !== undefined) {
      if (named !== undefined && named !== fixed)
        return { reason: 'currencies', attribute, found: asText(values[attribute]), currency: fixed };
    } else if (named !== undefined && own === undefined && (attribute === 'price' || catalog === undefined)) {
      own = named;
      const cell = cells[attribute];
      if (named !== catalog) {
        values.priceCurrency = named;
        if (cell) cells.priceCurrency = cell;
      }
    } else if (named !== undefined && named !== (own ?? catalog)) {
      if (stated !== undefined && attribute === 'price')
        return { reason: 'currencies', attribute, found: asText(values[attribute]), currency: own ?? stated };
      const beside = codeInCurrency(attribute, named);
      values[beside] = amount.amount;
      const cell = cells[attribute];
      if (cell) cells[beside] = cell;
      delete values[attribute];
      delete cells[attribute];
      continue;
    }
    values[attribute] = amount.amount;
  }
  return undefined;
}

function readRow(
  row: Row,
  readers: readonly AttributeReader[],
  { accepted, key, currency }: RowTerms,
  source: Readonly<Record<string, string>>,
): ReadItem | Rejection {
  const values: Record<string, Value> = {};
  const cells: ReadItem['cells'] & Record<string, { column: string; cell: string }> = {};
  const proposals: { attribute: string; proposal: Proposal }[] = [];
  let sku = '';
  let family: string | undefined;
  let swappedSign: { readonly attribute: string; readonly found: string } | undefined;
  for (const { attribute, run, column, slot, kind, sign, bare, term } of readers) {
    const created = run(row);
    if (created === undefined) continue;
    const taken = bare ? row[slot] : created;
    const found = bare && typeof taken === 'string' ? taken.replace(/^[ \t\r\n]+|[ \t\r\n]+$/g, '') : created;
    const cell = source[column] ?? '';
    const swapped = sign === undefined ? undefined : decimalDamage(cell, sign);
    if (swapped) {
      proposals.push({ attribute, proposal: swapped });
      if (!accepted.has('decimalSign')) {
        // The rest of the row is looked at all the same: what else is damaged in it is named with it.
        swappedSign ??= { attribute, found: cell };
        continue;
      }
    }
    const proposal = typeof found === 'string' ? damageOf(attribute, found) : undefined;
    if (proposal) proposals.push({ attribute, proposal });
    // What is no number says nothing until its repair is accepted: the rest of the row is none the worse.
    if (proposal?.damage === 'stockWord' && (proposal.to === undefined || !accepted.has('stockWord')))
      continue;
    const value = proposal?.to !== undefined && accepted.has(proposal.damage) ? proposal.to : found;
    if (attribute === 'sku') sku = asText(value);
    else if (attribute === 'family') family = asText(value);
    else {
      const refused = refusalOf(kind, attribute, value);
      if (refused) return refused;
      values[attribute] =
        attribute === 'countryOfOrigin'
          ? (countryCode(asText(value)) ?? value)
          : term
            ? asTerm(value, term)
            : value;
    }
    cells[attribute] = { column, cell: cell.slice(0, 200) };
  }
  if (swappedSign) return { reason: 'decimalSign', ...swappedSign, damaged: { sku, proposals } };
  const refused = tellCurrencies(values, cells, readers, currency);
  if (refused) return refused;
  if (key === 'sku')
    return sku === '' ? { reason: 'noSku' } : { sku, key: sku, family, values, cells, proposals };
  const found = asText(values[key]);
  if (found === '') return { reason: 'noKey', key };
  return { sku: sku || found, key: found, family, values, cells, proposals };
}
