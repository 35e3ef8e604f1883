import { z } from 'zod';
import { conditionSchema } from '../channels/conditions';
import { compositionSchema, tablesIn } from '../compose/composition';
import { valueTableSchema } from '../compose/steps';
import { ruleSchema } from '../rules/rule';
import { titlePatternSchema } from '../titles/pattern';
import { categoryVariantSchema, type Plan, placementSchema, planSchema } from './plan';

/** One change to a plan. Small on purpose: two people's edits to different fields of a draft both fit. */
export const planEditSchema = z.discriminatedUnion('edit', [
  z.strictObject({ edit: z.literal('fields'), fields: z.record(z.string(), compositionSchema.nullable()) }),
  z.strictObject({ edit: z.literal('table'), name: z.string().min(1), table: valueTableSchema }),
  z.strictObject({ edit: z.literal('place'), placements: z.record(z.string(), placementSchema.nullable()) }),
  z.strictObject({ edit: z.literal('exception'), sku: z.string(), placement: placementSchema.nullable() }),
  z.strictObject({ edit: z.literal('title'), title: titlePatternSchema }),
  z.strictObject({ edit: z.literal('rules'), rules: z.array(ruleSchema) }),
  z
    .strictObject({
      edit: z.literal('words'),
      field: z.string(),
      table: z.string().min(1),
      words: valueTableSchema,
    })
    .meta({
      description: 'adds words to a value table, and the table to the field where nothing looks it up yet',
    }),
  z.strictObject({
    edit: z.literal('perCategory'),
    field: z.string(),
    variants: z.array(categoryVariantSchema),
  }),
  z.strictObject({ edit: z.literal('scope'), scope: conditionSchema.nullable() }),
  z.strictObject({ edit: z.literal('met'), what: z.string().min(1), on: z.boolean() }),
  z.strictObject({ edit: z.literal('plan'), plan: planSchema }),
]);
export type PlanEdit = z.infer<typeof planEditSchema>;

const patched = <T>(
  record: Readonly<Record<string, T>>,
  changes: Readonly<Record<string, T | null>>,
): Record<string, T> => {
  const result = { ...record };
  for (const [key, value] of Object.entries(changes)) {
    if (value === null) delete result[key];
    else result[key] = value;
  }
  return result;
};

/** The plan after an edit; the plan given is left as it is. */
export function applyEdit(plan: Plan, edit: PlanEdit): Plan {
  switch (edit.edit) {
    case 'fields':
      return { ...plan, fields: patched(plan.fields, edit.fields) };
    case 'table':
      return { ...plan, tables: { ...plan.tables, [edit.name]: edit.table } };
    case 'place':
      return { ...plan, placements: patched(plan.placements, edit.placements) };
    case 'exception':
      return { ...plan, exceptions: patched(plan.exceptions, { [edit.sku]: edit.placement }) };
    case 'title':
      return { ...plan, title: edit.title };
    case 'rules':
      return { ...plan, rules: edit.rules };
    case 'words': {
      const tables = { ...plan.tables, [edit.table]: { ...plan.tables[edit.table], ...edit.words } };
      const composition = plan.fields[edit.field];
      if (!composition || tablesIn(composition).includes(edit.table)) return { ...plan, tables };
      const steps = [
        ...composition.steps,
        { step: 'lookUp' as const, table: edit.table, otherwise: 'keep' as const },
      ];
      return { ...plan, tables, fields: { ...plan.fields, [edit.field]: { ...composition, steps } } };
    }
    case 'perCategory':
      return {
        ...plan,
        perCategory: patched(plan.perCategory, {
          [edit.field]: edit.variants.length > 0 ? edit.variants : null,
        }),
      };
    case 'scope': {
      const { scope: _old, ...rest } = plan;
      return edit.scope === null ? rest : { ...rest, scope: edit.scope };
    }
    case 'met': {
      const others = plan.met.filter((one) => one !== edit.what);
      return { ...plan, met: edit.on ? [...others, edit.what] : others };
    }
    case 'plan':
      return edit.plan;
  }
}

const listed = (names: readonly string[]): string =>
  names.length <= 2 ? names.join(' and ') : `${names.slice(0, 2).join(', ')} and ${names.length - 2} more`;

/** An edit in a few words, for undo and history. */
export function editWords(edit: PlanEdit, labelOf: (field: string) => string): string {
  switch (edit.edit) {
    case 'fields': {
      const names = Object.keys(edit.fields).map(labelOf);
      return `${Object.values(edit.fields).every((value) => value === null) ? 'emptied' : 'mapped'} ${listed(names)}`;
    }
    case 'table':
      return `changed the value table “${edit.name}”`;
    case 'place':
      return `placed ${listed(Object.keys(edit.placements))}`;
    case 'exception':
      return `placed item ${edit.sku}`;
    case 'title':
      return 'changed the title pattern';
    case 'rules':
      return 'changed the rules';
    case 'words':
      return `added ${listed(Object.keys(edit.words).map((word) => `“${word}”`))} to the value table “${edit.table}”`;
    case 'perCategory':
      return `mapped ${labelOf(edit.field)} by category`;
    case 'scope':
      return 'changed which items the feed takes';
    case 'met':
      return `${edit.on ? 'met' : 'no longer meets'} “${edit.what}”`;
    case 'plan':
      return 'loaded a plan';
  }
}

/** How many settings differ between two plans: fields, tables, placements, title, rules. */
export function countChanges(a: Plan, b: Plan): number {
  const records: [Record<string, unknown>, Record<string, unknown>][] = [
    [a.fields, b.fields],
    [a.tables, b.tables],
    [a.placements, b.placements],
    [a.exceptions, b.exceptions],
    [a.perCategory, b.perCategory],
    [byId(a), byId(b)],
    [
      { title: a.title, scope: a.scope, met: [...a.met].sort() },
      { title: b.title, scope: b.scope, met: [...b.met].sort() },
    ],
  ];
  return records.reduce(
    (sum, [left, right]) =>
      sum +
      [...new Set([...Object.keys(left), ...Object.keys(right)])].filter(
        (key) => JSON.stringify(left[key]) !== JSON.stringify(right[key]),
      ).length,
    0,
  );
}

const byId = ({ rules }: Plan): Record<string, unknown> =>
  Object.fromEntries(rules.map((rule, at) => [rule.id, { rule, at }]));
