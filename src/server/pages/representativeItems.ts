import { eq } from 'drizzle-orm';
import type { Attribute } from '../../core/catalog/attributes';
import { shownText } from '../../core/catalog/reading';
import { asText } from '../../core/catalog/value';
import { nameOf } from '../../core/categories/tree';
import { issueKey, type Severity } from '../../core/checks/issue';
import { gravity } from '../../core/checks/severity';
import { emptyEntry } from '../../core/ledger/ledger';
import { ledgerStateText } from '../../core/ledger/messages';
import type { ListingState } from '../../core/listing/evaluate';
import { explain } from '../../core/listing/explain';
import { type Piece, wordDifference } from '../../core/text/difference';
import { itemNameIn, type Snapshot } from '../catalog/snapshot';
import { db } from '../db/connection';
import { item, sample } from '../db/schema';
import { type FeedContext, roleField } from '../evaluation/feedContext';
import { ledgerEntry } from '../ledger/ledger';
import { pictureFile } from '../pictures/pictures';

export interface LineageEntry {
  readonly value: string;
  readonly words: string;
  /** The value with what this knot changed marked, where there is a knot before it. */
  readonly pieces: readonly Piece[] | undefined;
}

export interface SampleView {
  readonly sku: string;
  readonly name: string;
  readonly picture: string | undefined;
  readonly origin: string;
  readonly position: number;
  readonly count: number;
  readonly previous: string;
  readonly next: string;
  readonly pinned: boolean;
  readonly field: {
    code: string;
    label: string;
    before: string;
    after: string;
    pieces: Piece[];
    changed: boolean;
    published: boolean;
  };
  readonly state: ListingState;
  readonly reason: string | undefined;
  readonly issues: readonly {
    severity: Severity;
    words: string;
    field: string;
    mark: '' | 'clears with this draft' | 'appears';
  }[];
  /** How it stands with the channel, with the channel's own number and what it said of it. */
  readonly standing: {
    words: string;
    number: string | undefined;
    problems: readonly { words: string; field: string | undefined; refused: boolean }[];
  };
  readonly thread: readonly LineageEntry[];
}

export async function pinnedSkus(): Promise<string[]> {
  return (await db.select({ sku: sample.sku }).from(sample).orderBy(sample.position)).map(({ sku }) => sku);
}

export async function pinItem(sku: string, pin: boolean): Promise<void> {
  if (!pin) {
    await db.delete(sample).where(eq(sample.sku, sku));
    return;
  }
  const known = await pinnedSkus();
  await db.insert(sample).ignore().values({ sku, position: known.length });
}

/** Items that tell much: the longest title, the most issues, and the first of each category, twelve at most. */
export function representativeItems({ draft, snapshot }: FeedContext): string[] {
  const titleAt = draft.compiled.titleAt;
  const { listings } = draft;
  const by = (score: (i: number) => number): string | undefined => {
    let [best, most] = [-1, Number.NEGATIVE_INFINITY];
    for (let i = 0; i < listings.length; i++) {
      const found = listings.isLeftOut(i) ? most : score(i);
      if (found > most) [best, most] = [i, found];
    }
    return listings.at(best)?.sku;
  };
  const picks = [
    by((i) => asText(listings.valueAt(i, titleAt)).length),
    by((i) => listings.issuesAt(i).length),
  ];
  const slot = snapshot.index.slotOf('category') ?? -1;
  const seen = new Set<string>();
  snapshot.rows.forEach((row, i) => {
    const category = asText(row[slot]);
    if (seen.has(category)) return;
    seen.add(category);
    picks.push(snapshot.skus[i]);
  });
  return [...new Set(picks.filter((sku) => sku !== undefined))].slice(0, 12);
}

/** Pins some items in the place of those that were. */
export async function pinItems(skus: readonly string[]): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.delete(sample);
    if (skus.length > 0) await tx.insert(sample).values(skus.map((sku, position) => ({ sku, position })));
  });
}

const attributeOf = (snapshot: Snapshot, code: string): Pick<Attribute, 'code' | 'kind' | 'terms' | 'list'> =>
  snapshot.attributes.find((one) => one.code === code) ?? { code, kind: 'text' };

const attributeLabel = (snapshot: Snapshot, code: string): string =>
  snapshot.attributes.find((one) => one.code === code)?.label ?? (code === 'sku' ? 'SKU' : code);

/** The sample tray's contents: one pinned (or asked for) item as this feed shows it. */
export async function sampleView(
  work: FeedContext,
  askedSku: string | undefined,
  askedField: string | undefined,
): Promise<SampleView | undefined> {
  const { snapshot, draft, published, sheet, plans } = work;
  const pinned = (await pinnedSkus()).filter((sku) => snapshot.positionOf(sku) !== undefined);
  const sku =
    askedSku !== undefined && snapshot.positionOf(askedSku) !== undefined
      ? askedSku
      : (pinned[0] ?? snapshot.skus[0]);
  if (sku === undefined) return undefined;
  const at = snapshot.positionOf(sku) ?? 0;
  const row = snapshot.rows[at] ?? [];
  const before = published.listings.at(at);
  const after = draft.listings.at(at);
  if (!before || !after) return undefined;
  const field =
    sheet.fields.find(({ code }) => code === askedField) ?? roleField(sheet, 'title') ?? sheet.fields[0];
  if (!field) return undefined;
  const fieldAt = sheet.fields.indexOf(field);
  const written = (value: (typeof after.values)[number]): string => {
    const text = asText(value);
    return field.kind === 'category' && text
      ? `${nameOf(draft.compiled.tree, text, plans.head.language)} ${text}`
      : text;
  };
  const [beforeText, afterText] = [written(before.values[fieldAt]), written(after.values[fieldAt])];
  const entry = await ledgerEntry(plans.head.code, sku);
  const keysBefore = new Set(before.issues.map(issueKey));
  const keysAfter = new Set(after.issues.map(issueKey));
  const [stored] = await db.select({ origins: item.origins }).from(item).where(eq(item.sku, sku));
  const origins = stored?.origins ?? {};
  const position = Math.max(0, pinned.indexOf(sku));
  const image = snapshot.index.slotOf('image');
  const link =
    image === undefined ? undefined : asText(Array.isArray(row[image]) ? row[image][0] : row[image]);
  const firstOrigin = origins.sku ?? Object.values(origins).find(({ file }) => file !== '');
  return {
    sku,
    name: itemNameIn(snapshot)(snapshot.positionOf(sku) ?? -1) || sku,
    picture: link ? pictureFile(link) : undefined,
    origin: firstOrigin ? `${firstOrigin.file}, row ${firstOrigin.row}` : 'entered by hand',
    position: pinned.includes(sku) ? position + 1 : 0,
    count: pinned.length,
    previous: pinned[(position - 1 + pinned.length) % Math.max(1, pinned.length)] ?? sku,
    next: pinned[(position + 1) % Math.max(1, pinned.length)] ?? sku,
    pinned: pinned.includes(sku),
    field: {
      code: field.code,
      label: field.label,
      before: beforeText,
      after: afterText,
      pieces: wordDifference(beforeText, afterText),
      changed: beforeText !== afterText,
      published: plans.published !== undefined,
    },
    state: after.state,
    reason: after.reason,
    issues: [
      ...after.issues.map((issue) => ({
        severity: issue.severity,
        words: work.wordsOf(issue),
        field: issue.field,
        mark:
          keysBefore.has(issueKey(issue)) || before.state === 'leftOut'
            ? ('' as const)
            : ('appears' as const),
      })),
      ...before.issues
        .filter((issue) => !keysAfter.has(issueKey(issue)))
        .map((issue) => ({
          severity: issue.severity,
          words: work.wordsOf(issue),
          field: issue.field,
          mark: 'clears with this draft' as const,
        })),
    ].sort((a, b) => gravity[a.severity] - gravity[b.severity]),
    standing: {
      words: ledgerStateText(entry ?? emptyEntry),
      number: entry?.number,
      problems: (entry?.problems ?? []).map((problem) => ({
        words: problem.field ? `${work.labelOf(problem.field)}: ${problem.text}` : problem.text,
        field: problem.field ?? undefined,
        refused: entry?.refused !== undefined,
      })),
    },
    thread: lineageOf(work, row, field.code, origins, asText(after.values[fieldAt])),
  };
}

function lineageOf(
  work: FeedContext,
  row: Snapshot['rows'][number],
  field: string,
  origins: Record<string, { file: string; row: number; column: string; cell: string }>,
  final: string,
): LineageEntry[] {
  const { snapshot } = work;
  let last = '';
  const tied = explain(work.draft.compiled, row, field);
  const empty = tied.filter(({ kind, value }) => kind === 'attribute' && value === undefined);
  const reported = tied.filter((step) => empty.length < 3 || !empty.includes(step));
  const knots = reported.map((step): LineageEntry => {
    // What the catalog keeps as a code of a standard is read as a word.
    const value =
      step.kind === 'attribute'
        ? shownText(attributeOf(snapshot, step.what), step.value)
        : asText(step.value);
    const pieces =
      last !== '' && value !== '' && step.kind !== 'attribute' && step.kind !== 'place' && last !== value
        ? wordDifference(last, value)
        : undefined;
    const words = ((): string => {
      switch (step.kind) {
        case 'attribute': {
          const origin = origins[step.what];
          const label = attributeLabel(snapshot, step.what);
          if (value === '') return `${label} is empty`;
          return origin?.file
            ? `${label}: ${origin.file}, row ${origin.row}, column “${origin.column}”${origin.cell !== value && origin.cell !== '' && origin.cell.length < 60 ? `, there “${origin.cell}”` : ''}`
            : `${label}, entered here`;
        }
        case 'text':
          return 'fixed text';
        case 'joined':
          return 'parts joined';
        case 'step':
          return value === last ? `${step.what}: no change` : step.what;
        case 'fallback':
          return 'empty so far: the fallback is used';
        case 'place':
          return value === '' ? `excluded: ${step.what}` : `“${step.what}” is mapped here`;
        case 'byHand':
          return 'written by hand for this item';
        case 'family':
          return step.what === 'singly'
            ? 'variants are listed one by one here'
            : step.what === 'alone'
              ? 'empty: the item has no family'
              : 'split by an axis, see the Families stage';
        case 'dropped':
          return `${attributeLabel(snapshot, step.what)} removed to fit`;
        case 'shortened':
          return step.what
            ? `${attributeLabel(snapshot, step.what)} shortened between words to fit`
            : 'shortened between words to fit';
        case 'searchWords':
          return 'the most searched words that the title lacks';
        case 'abbreviated':
          return `abbreviated to fit: ${step.what}`;
        case 'cleaned':
          return 'scripts and markup that the field does not allow were removed';
        case 'rule':
          return `rule “${step.what}”`;
      }
    })();
    if (value !== '') last = value;
    return { value, words, pieces };
  });
  if (reported.length < tied.length) {
    const names = empty.map(({ what }) => attributeLabel(snapshot, what)).join(', ');
    const joined = reported.findIndex(({ kind }) => kind === 'joined');
    knots.splice(joined < 0 ? knots.length : joined, 0, {
      value: '',
      words: `${names} are empty and removed with their separators`,
      pieces: undefined,
    });
  }
  if (knots.length === 0)
    return [
      { value: final, words: final === '' ? 'this field has no source yet' : 'as it is', pieces: undefined },
    ];
  return knots;
}

/** The first item of a merchant category, to show where no other item was asked for. */
export function firstItemOf({ snapshot }: FeedContext, category: string | undefined): string | undefined {
  const slot = snapshot.index.slotOf('category') ?? -1;
  const at = category === undefined ? -1 : snapshot.rows.findIndex((row) => asText(row[slot]) === category);
  return snapshot.skus[at];
}
