import { z } from 'zod';
import { axisCodes } from '../catalog/attributes';
import { ownCheckSchema } from '../checks/ownCheck';
import { checkSettingsSchema, noCheckSettings } from '../checks/severityOverrides';
import { compositionSchema, tablesIn } from '../compose/composition';
import { valueTableSchema } from '../compose/steps';
import { conditionSchema } from '../conditions/conditions';
import { type FamilyChoice, familyChoiceSchema, noFamilyChoice } from '../families/shape';
import { searchWordsSchema } from '../keywords/settings';
import { type Rule, ruleSchema } from '../rules/rule';
import { handTitleSchema, type TitlePattern, titlePatternSchema } from '../titles/pattern';
import {
  categoryMappingSchema,
  categoryVariantSchema,
  joinedSchema,
  type Plan,
  planSchema,
  proofSchema,
} from './plan';

const { parts, dropFirst, keep, letterCase, sayOnce, tellApart, nameOnPhone, abbreviations, worth } =
  titlePatternSchema.shape;
/** The options of a title pattern, none of them asked for: what is left out stays, instead of taking a default. */
const titleOptionsSchema = z.strictObject({
  parts: parts.optional(),
  dropFirst: dropFirst.unwrap().optional(),
  keep: keep.unwrap().optional(),
  letterCase: letterCase.unwrap().optional(),
  sayOnce: sayOnce.unwrap().optional(),
  tellApart: tellApart.unwrap().optional(),
  nameOnPhone: nameOnPhone.unwrap().optional(),
  abbreviations: z.record(z.string(), abbreviations.unwrap().valueType.nullable()).optional(),
  worth: worth.unwrap().optional(),
});
const judged = checkSettingsSchema.shape;
const chosen = familyChoiceSchema.shape;
const choices = z.record(z.string(), chosen.feed.unwrap().nullable()).optional();
/** Some of what is chosen of families; null resets a choice. */
const familyEditSchema = z.strictObject({
  feed: chosen.feed.unwrap().optional(),
  asOne: z.boolean().optional(),
  branches: choices,
  families: choices,
  apart: chosen.apart.unwrap().optional(),
});
const { name, on, group, when, then } = ruleSchema.shape;
const ruleChangesSchema = z.strictObject({
  name: name.optional(),
  on: on.unwrap().optional(),
  group: group.unwrap().nullable().optional(),
  when: when.optional(),
  then: then.optional(),
});

/** Beginnings of a title pattern by kind of goods, each with the parts an attribute stands in for. */
export const titleBeginnings: readonly {
  readonly name: string;
  readonly parts: readonly (readonly [attribute: string, glue: string])[];
}[] = [
  {
    name: 'Brand, product, variant',
    parts: [
      ['brand', ' '],
      ['name', ' '],
      ['color', ', '],
      ['glaze', ', '],
      ['size', ', '],
      ['diameter', ', '],
    ],
  },
  {
    name: 'Product first',
    parts: [
      ['name', ' '],
      ['material', ', '],
      ['color', ', '],
      ['size', ', '],
      ['brand', ' – '],
    ],
  },
  {
    name: 'What it is for',
    parts: [
      ['brand', ' '],
      ['name', ' '],
      ['use', ' '],
      ['volume', ', '],
      ['color', ', '],
      ['size', ', '],
    ],
  },
];

/** A title pattern from a beginning, of the attributes that the catalog has; what may tell variants apart is kept. */
export function beginTitle(
  parts: (typeof titleBeginnings)[number]['parts'],
  has: (attribute: string) => boolean,
): Partial<TitlePattern> {
  const there = parts.filter(([attribute]) => has(attribute));
  const codes = there.map(([attribute]) => attribute);
  return {
    parts: there.map(([attribute, glue]) => ({ attribute, glue, steps: [] })),
    keep: codes.filter((code) => axisCodes.includes(code)),
    dropFirst: ['use', 'material', 'brand'].filter((code) => codes.includes(code)),
  };
}

/** What a title is where nothing is set yet: the item's name. */
export const startingPattern: TitlePattern = titlePatternSchema.parse({ parts: [{ attribute: 'name' }] });

/** One change to a plan. Small on purpose: two people's edits to different fields of a draft both fit. */
export const planEditSchema = z.discriminatedUnion('edit', [
  z.strictObject({ edit: z.literal('fields'), fields: z.record(z.string(), compositionSchema.nullable()) }),
  z.strictObject({ edit: z.literal('table'), name: z.string().min(1), table: valueTableSchema }),
  z.strictObject({
    edit: z.literal('place'),
    placements: z.record(z.string(), categoryMappingSchema.nullable()),
  }),
  z
    .strictObject({
      edit: z.literal('exceptions'),
      exceptions: z.record(z.string(), categoryMappingSchema.nullable()),
    })
    .meta({ description: 'places single items, by SKU, elsewhere than their category' }),
  z
    .strictObject({
      edit: z.literal('title'),
      set: titleOptionsSchema,
      branch: z.string().min(1).optional(),
    })
    .meta({
      description: 'sets some options of the title pattern, of the feed or of a branch; the others stay',
    }),
  z
    .strictObject({ edit: z.literal('titleIn'), branch: z.string().min(1), own: z.boolean() })
    .meta({ description: 'gives a branch of the tree its own title pattern, or removes it' }),
  z.strictObject({ edit: z.literal('families'), set: familyEditSchema }).meta({
    description: 'how families are shown: in the feed, in branches, single ones; null resets a choice',
  }),
  z
    .strictObject({
      edit: z.literal('checks'),
      severity: z.record(z.string(), judged.severity.unwrap().valueType.nullable()).optional(),
      waived: z.record(z.string(), judged.waived.unwrap().valueType.nullable()).optional(),
      own: z.record(z.string(), ownCheckSchema.nullable()).optional(),
    })
    .meta({
      description: 'the severity of checks, and the items they are waived for; null resets it',
    }),
  z.strictObject({
    edit: z.literal('titleByHand'),
    titles: z.record(z.string().min(1), handTitleSchema.nullable()),
  }),
  z
    .strictObject({
      edit: z.literal('joined'),
      joined: z.record(z.string().min(1), joinedSchema.nullable()),
    })
    .meta({ description: 'items join entries that the channel has already; null parts one again' }),
  z
    .strictObject({ edit: z.literal('searchWords'), set: searchWordsSchema.nullable() })
    .meta({ description: 'lets keywords fill a field, or stops it' }),
  z.strictObject({ edit: z.literal('addRule'), rule: ruleSchema }),
  z
    .strictObject({ edit: z.literal('rule'), id: z.string().min(1), set: ruleChangesSchema })
    .meta({ description: 'sets some of a rule; the rest of it, and all others, stay' }),
  z
    .strictObject({
      edit: z.literal('ruleGroup'),
      group: group.unwrap(),
      set: z.union([
        z.strictObject({ on: z.boolean() }),
        z.strictObject({ name: group.unwrap().nullable() }),
      ]),
    })
    .meta({ description: 'switches all rules of a group, or calls it otherwise; null dissolves it' }),
  z.strictObject({ edit: z.literal('removeRule'), id: z.string().min(1) }),
  z
    .strictObject({
      edit: z.literal('moveRule'),
      id: z.string().min(1),
      before: z.string().min(1).nullable(),
    })
    .meta({ description: 'puts a rule before another, or last' }),
  z
    .strictObject({
      edit: z.literal('words'),
      field: z.string(),
      table: z.string().min(1),
      words: valueTableSchema,
    })
    .meta({
      description: 'adds words to a value mapping, and a lookup step to the field where there is none',
    }),
  z.strictObject({
    edit: z.literal('perCategory'),
    field: z.string(),
    variants: z.array(categoryVariantSchema),
  }),
  z.strictObject({ edit: z.literal('scope'), scope: conditionSchema.nullable() }),
  z
    .strictObject({
      edit: z.literal('met'),
      what: z.string().min(1),
      on: z.boolean(),
      proof: proofSchema.optional(),
    })
    .meta({ description: 'whether something the channel wants is there, and what shows it' }),
  z.strictObject({ edit: z.literal('untranslated'), to: z.enum(['main', 'nothing']) }),
  z.strictObject({ edit: z.literal('plan'), plan: planSchema }),
]);
export type PlanEdit = z.infer<typeof planEditSchema>;

/** What is chosen of families with some of it set. */
function withFamilies(known: FamilyChoice | undefined, set: z.infer<typeof familyEditSchema>): FamilyChoice {
  const choice = known ?? noFamilyChoice;
  return {
    feed: set.feed ?? choice.feed,
    ...((set.asOne ?? choice.asOne) ? { asOne: true } : {}),
    branches: patched(choice.branches, set.branches ?? {}),
    families: patched(choice.families, set.families ?? {}),
    apart: set.apart ?? choice.apart,
  };
}

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

/** A title pattern with some options set; a new one begins with what the item is called. */
export const withOptions = (
  pattern: TitlePattern | undefined,
  set: z.infer<typeof titleOptionsSchema>,
): TitlePattern => {
  const known = pattern ?? startingPattern;
  return titlePatternSchema.parse({
    ...known,
    ...set,
    abbreviations: patched(known.abbreviations, set.abbreviations ?? {}),
  });
};

/** A rule with some of it set; a group that is null is none. */
const withSet = (
  { group: was, ...rule }: Rule,
  { group = was, ...set }: z.infer<typeof ruleChangesSchema>,
): Rule => ruleSchema.parse({ ...rule, ...set, ...(group ? { group } : {}) });

/** Rules after an edit of one of them, or of a group; an edit of a rule that is not there changes nothing. */
export function editRules(rules: readonly Rule[], edit: PlanEdit): Rule[] {
  switch (edit.edit) {
    case 'addRule':
      return [...rules.filter(({ id }) => id !== edit.rule.id), edit.rule];
    case 'rule':
      return rules.map((rule) => (rule.id === edit.id ? withSet(rule, edit.set) : rule));
    case 'ruleGroup': {
      const set = 'on' in edit.set ? edit.set : { group: edit.set.name };
      return rules.map((rule) => (rule.group === edit.group ? withSet(rule, set) : rule));
    }
    case 'removeRule':
      return rules.filter(({ id }) => id !== edit.id);
    case 'moveRule': {
      const moved = rules.find(({ id }) => id === edit.id);
      const others = rules.filter(({ id }) => id !== edit.id);
      const at = edit.before === null ? others.length : others.findIndex(({ id }) => id === edit.before);
      if (!moved || at < 0) return [...rules];
      return [...others.slice(0, at), moved, ...others.slice(at)];
    }
    default:
      return [...rules];
  }
}

/** The options of a title pattern in words, for undo and history. */
export const titleWords = {
  parts: 'the parts',
  dropFirst: 'the order of dropping',
  keep: 'what is kept',
  letterCase: 'the capitals',
  sayOnce: 'duplicates',
  tellApart: 'variant axes',
  nameOnPhone: 'the phone cut',
  abbreviations: 'the abbreviations',
  worth: 'the weights of parts',
} as const;

/** A plan with a part of it set; without it where it says nothing any more. */
function withOrWithout<K extends 'checks' | 'families' | 'joined' | 'titlesByHand' | 'titlesIn' | 'proofs'>(
  plan: Plan,
  part: K,
  set: Plan[K],
  none: Plan[K],
): Plan {
  const { [part]: _old, ...rest } = plan;
  return JSON.stringify(set) === JSON.stringify(none) ? (rest as Plan) : { ...plan, [part]: set };
}

/** The plan after an edit; the plan given is left as it is. */
export function applyEdit(plan: Plan, edit: PlanEdit): Plan {
  switch (edit.edit) {
    case 'fields':
      return { ...plan, fields: patched(plan.fields, edit.fields) };
    case 'table':
      return { ...plan, tables: { ...plan.tables, [edit.name]: edit.table } };
    case 'place':
      return { ...plan, placements: patched(plan.placements, edit.placements) };
    case 'exceptions':
      return { ...plan, exceptions: patched(plan.exceptions, edit.exceptions) };
    case 'title': {
      const { branch } = edit;
      if (branch === undefined) return { ...plan, title: withOptions(plan.title, edit.set) };
      const before = plan.titlesIn?.[branch] ?? plan.title;
      return { ...plan, titlesIn: { ...plan.titlesIn, [branch]: withOptions(before, edit.set) } };
    }
    case 'titleIn':
      return withOrWithout(
        plan,
        'titlesIn',
        patched(plan.titlesIn ?? {}, { [edit.branch]: edit.own ? (plan.title ?? startingPattern) : null }),
        {},
      );
    case 'searchWords': {
      const { searchWords: _old, ...rest } = plan;
      return edit.set === null ? rest : { ...rest, searchWords: edit.set };
    }
    case 'joined':
      return withOrWithout(plan, 'joined', patched(plan.joined ?? {}, edit.joined), {});
    case 'titleByHand':
      return withOrWithout(plan, 'titlesByHand', patched(plan.titlesByHand ?? {}, edit.titles), {});
    case 'checks': {
      const { severity, waived, own } = plan.checks ?? noCheckSettings;
      const checks = {
        severity: patched(severity, edit.severity ?? {}),
        waived: patched(waived, edit.waived ?? {}),
        own: patched(own, edit.own ?? {}),
      };
      return withOrWithout(plan, 'checks', checks, noCheckSettings);
    }
    case 'families':
      return withOrWithout(plan, 'families', withFamilies(plan.families, edit.set), noFamilyChoice);
    case 'addRule':
    case 'rule':
    case 'ruleGroup':
    case 'removeRule':
    case 'moveRule':
      return { ...plan, rules: editRules(plan.rules, edit) };
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
      const proofs = patched(plan.proofs ?? {}, {
        [edit.what]: edit.on ? (edit.proof ?? plan.proofs?.[edit.what] ?? null) : null,
      });
      return withOrWithout({ ...plan, met: edit.on ? [...others, edit.what] : others }, 'proofs', proofs, {});
    }
    case 'untranslated':
      return { ...plan, untranslated: edit.to };
    case 'plan':
      return edit.plan;
  }
}
