import { asText, type Value } from '../../core/catalog/value';
import { nameOf } from '../../core/categories/tree';
import type { Need } from '../../core/channels/sheet';
import { takeAllFrom } from '../../core/channels/suggestions';
import type { Composition } from '../../core/compose/composition';
import type { ValueTable } from '../../core/compose/steps';
import type { Coverage } from '../../core/listing/coverage';
import type { CategoryVariant } from '../../core/plans/plan';
import { type FeedContext, fieldsToFill, merchantCategories, shownValue } from '../evaluation/feedContext';
import { mappedElsewhere, suggested } from '../fixes/fieldSuggestions';
import { openWords } from './steps';

export interface FieldRow {
  readonly code: string;
  readonly label: string;
  readonly meaning: string;
  readonly group: string;
  readonly need: Need;
  readonly here: boolean;
  readonly because: string | undefined;
  readonly kind: string;
  readonly composition: Composition | undefined;
  /** Other compositions in some merchant categories. */
  readonly perCategory: readonly CategoryVariant[];
  readonly choices: boolean;
  /** Fields that other stages fill. */
  readonly elsewhere: 'titles' | 'categories' | undefined;
  readonly coverage: Coverage;
  readonly publishedFilled: number;
  readonly toFill: boolean;
  readonly changed: boolean;
  readonly sample: string;
  readonly sampleFails: boolean;
  readonly suggestions: readonly {
    attribute: string;
    label: string;
    score: number;
    reasons: readonly string[];
    readonly fallback?: string;
    composition: Composition;
  }[];
}

export interface FieldsStage {
  readonly rows: readonly FieldRow[];
  readonly attributes: readonly { code: string; label: string }[];
  /** Attributes the sample at hand lacks. */
  readonly absent: readonly string[];
  readonly takeAllFrom: number;
  /** Words of choice fields that are left to do. */
  readonly openWords: number;
  /** The merchant's categories, for mappings that differ by category. */
  readonly categories: readonly string[];
  /** What steps need to show their result on the sample at hand. */
  readonly sample: {
    readonly values: Readonly<Record<string, Value>>;
    readonly language: string;
    readonly currency: string;
    readonly tables: Readonly<Record<string, ValueTable>>;
  };
}

/** Every field with what fills it, how far it is filled, and its value on the sample. */
export async function fieldsStage(work: FeedContext, sampleSku: string | undefined): Promise<FieldsStage> {
  const { sheet, plans, coverage, snapshot, draft, published } = work;
  const toFill = new Set(fieldsToFill(work).map(({ code }) => code));
  const before = published.coverage;
  const at = sampleSku === undefined ? 0 : (snapshot.positionOf(sampleSku) ?? 0);
  const sample = draft.listings.at(at);
  const row = snapshot.rows[at] ?? [];
  const elsewhere = await mappedElsewhere(work);
  const labels = new Map([
    ['sku', 'SKU'],
    ['family', 'Family'],
    ...snapshot.attributes.map(({ code, label }) => [code, label] as const),
  ]);
  const failing = new Set(
    sample?.issues.flatMap(({ field, severity }) => (severity === 'blocker' ? [field] : [])),
  );
  return {
    rows: sheet.fields.map((field, position): FieldRow => {
      const composition = plans.draft.fields[field.code];
      const goesElsewhere =
        (field.role === 'title' && plans.draft.title) || field.code === plans.draft.searchWords?.field
          ? 'titles'
          : field.kind === 'category'
            ? 'categories'
            : undefined;
      const value = sample?.values[position];
      const open = goesElsewhere === undefined && composition === undefined;
      return {
        code: field.code,
        label: field.label,
        meaning: field.meaning,
        group: field.group,
        need: field.need,
        here: field.mustWhen !== undefined,
        because: field.because,
        kind: field.kind,
        composition,
        perCategory: plans.draft.perCategory[field.code] ?? [],
        choices: field.choices !== undefined,
        elsewhere: goesElsewhere,
        coverage: coverage[position] ?? { filled: 0, failing: 0, missing: 0, empty: 0, total: 0 },
        publishedFilled: (before[position]?.filled ?? 0) + (before[position]?.failing ?? 0),
        toFill: toFill.has(field.code),
        // A value table or a rule changes a field's values as much as its composition does.
        changed:
          (work.changedFields[position] ?? 0) > 0 ||
          JSON.stringify([composition, plans.draft.perCategory[field.code]]) !==
            JSON.stringify([plans.published?.fields[field.code], plans.published?.perCategory[field.code]]),
        sample:
          field.kind === 'category' && value !== undefined
            ? nameOf(draft.compiled.tree, asText(value), plans.head.language)
            : shownValue(value),
        sampleFails: failing.has(field.code),
        suggestions: open
          ? suggested(work, field, elsewhere).map((one) => ({
              ...one,
              label: labels.get(one.attribute) ?? one.attribute,
            }))
          : [],
      };
    }),
    attributes: [...labels].map(([code, label]) => ({ code, label })),
    absent: snapshot.index.codes.filter((_, slot) => row[slot] === undefined),
    takeAllFrom,
    openWords: await openWords(work),
    categories: merchantCategories(work).flatMap(({ name }) => (name === '' ? [] : [name])),
    sample: {
      values: Object.fromEntries(
        snapshot.index.codes.flatMap((code, slot) => (row[slot] === undefined ? [] : [[code, row[slot]]])),
      ),
      language: plans.head.language,
      currency: plans.head.currency,
      tables: plans.draft.tables,
    },
  };
}
