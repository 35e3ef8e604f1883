import { z } from 'zod';
import { type AttributeKind, attributeKinds, kindLabels } from '../catalog/attributeKinds';
import { conditionSchema, fieldsIn } from '../conditions/conditions';
import { named } from '../forms/forms';
import { patternTrouble } from '../text/pattern';
import { answerCodeSchema, deliverySchema } from './delivery';

/**
 * A requirement sheet: everything Lively Cart knows about a channel, as data.
 * Needs use the words of RFC 2119; countries are ISO 3166-1 alpha-2, languages BCP 47, currencies ISO 4217.
 */
const needs = ['must', 'should', 'may'] as const;
export type Need = (typeof needs)[number];

/** Kinds of field: those of attributes, and the channel's category. */
const fieldKinds = [...attributeKinds, 'category'] as const;
export type FieldKind = AttributeKind | 'category';

/** Jobs a field can have that Lively Cart itself needs to know. */
const fieldRoles = [
  'id',
  'title',
  'description',
  'category',
  'gtin',
  'brand',
  'mpn',
  'price',
  'link',
  'image',
  'pictureText',
  'availability',
  'group',
  // The variant axes; empty for an item of no family.
  'axes',
] as const;
export type FieldRole = (typeof fieldRoles)[number];

const labels = z.record(z.string(), z.string()).meta({ description: 'by language' });

const positive = () => z.number().int().positive().optional();

const lengthSchema = z.strictObject({
  least: named(positive(), 'Least'),
  most: named(positive(), 'Most'),
  advised: named(positive().meta({ description: 'shorter than this is worth a tip' }), 'Advised'),
  phone: named(positive().meta({ description: 'where a phone cuts' }), 'Phone cut'),
  measure: named(z.enum(['characters', 'bytes', 'graphemes']).default('characters'), 'Measured in'),
});
export type Length = z.infer<typeof lengthSchema>;

const ownNames: ReadonlySet<string> = new Set(Object.getOwnPropertyNames(Object.prototype));

export const fieldSchema = z.strictObject({
  code: named(
    z
      .string()
      .regex(/^[a-z][a-z0-9_]*$/)
      .refine((code) => !ownNames.has(code), {
        message: 'is reserved; choose another code',
      }),
    'Code',
    { signs: 21 },
  ),
  label: named(z.string().min(1), 'Label', { signs: 25 }),
  labels: labels.optional(),
  meaning: named(z.string().min(1), 'Meaning', { signs: 54 }),
  example: named(z.string().optional(), 'Example', { signs: 22 }),
  group: named(z.string().default('Basics'), 'Group', { signs: 16 }),
  kind: named(z.enum(fieldKinds), 'Kind', { options: kindLabels }),
  role: named(z.enum(fieldRoles).optional(), 'Job', { none: 'no special role' }),
  synonyms: named(
    z
      .array(z.string())
      .default([])
      .meta({ description: 'other words for it, any language; used by suggestions' }),
    'Synonyms',
    { signs: 30 },
  ),
  need: named(z.enum(needs), 'Need'),
  mustWhen: conditionSchema
    .optional()
    .meta({ description: '`must` wherever this holds; otherwise `need` counts' }),
  because: named(z.string().optional(), 'Condition in words', { signs: 32 }),
  choices: z
    .array(z.strictObject({ code: z.string().min(1), labels, synonyms: z.array(z.string()).default([]) }))
    .optional(),
  units: named(z.array(z.string()).optional(), 'Allowed units', { signs: 14 }),
  number: z
    .strictObject({
      least: named(z.number().optional(), 'At least'),
      most: named(z.number().optional(), 'At most'),
      whole: named(z.boolean().default(false), 'whole numbers only'),
    })
    .optional()
    .meta({ description: 'bounds of a number, such as a quantity that is whole and never below zero' }),
  markup: z
    .array(z.string().regex(/^[a-z][a-z0-9]*$/))
    .optional()
    .meta({ description: 'tags a rich text may hold; the usual ones by default' }),
  length: lengthSchema.optional(),
  pattern: z
    .strictObject({
      expression: named(
        z.string().superRefine((text, context) => {
          const trouble = patternTrouble(text);
          if (trouble) context.addIssue({ code: 'custom', message: trouble });
        }),
        'Pattern',
        { signs: 27 },
      ),
      words: named(z.string(), 'Pattern in words', { signs: 27 }),
    })
    .optional(),
  values: z
    .strictObject({
      least: named(positive(), 'Values, minimum', { signs: 11 }),
      most: named(z.number().int().positive(), 'Values, maximum', { signs: 11 }),
      separator: z.string().optional().meta({ description: 'between the values of one cell' }),
    })
    .optional()
    .meta({ description: 'takes a list' }),
  unique: named(
    z.boolean().default(false).meta({ description: 'no two listings of a feed may share it' }),
    'on one listing only',
  ),
  stable: named(
    z.boolean().default(false).meta({ description: 'must not change once it was sent' }),
    'never changes',
  ),
  notForFamilies: named(
    z.boolean().default(false).meta({ description: 'only variants have it, never the parent' }),
    'not for families',
  ),
});
export type Field = z.infer<typeof fieldSchema>;

const severity = z.enum(['blocker', 'risk', 'tip']);

/** Demands that no single field can state. */
const demandSchema = z.discriminatedUnion('demand', [
  z.strictObject({
    demand: z.literal('oneOfSets'),
    sets: z.array(z.array(z.string()).min(1)).min(2),
    when: conditionSchema.optional(),
    severity: severity.default('blocker'),
    words: z.string(),
  }),
  z
    .strictObject({
      demand: z.literal('ratio'),
      field: z.string(),
      to: z.string(),
      most: z.number().positive().optional(),
      least: z.number().positive().optional(),
      when: conditionSchema.optional(),
      severity: severity.default('risk'),
      words: z.string(),
    })
    .meta({ description: 'one number divided by another lies between least and most, where both are there' }),
]);
export type Demand = z.infer<typeof demandSchema>;

/** What a branch of the tree brings with it. */
const branchSchema = z.strictObject({
  under: z.string().min(1),
  variesBy: z
    .array(z.string())
    .optional()
    .meta({ description: 'fields that may tell the variants of a family apart there; any by default' }),
  restricted: z
    .strictObject({ document: z.string(), words: z.string() })
    .optional()
    .meta({ description: 'listings are only taken there from merchants who handed in a document' }),
});
export type Branch = z.infer<typeof branchSchema>;

const pictureDemandsSchema = z.strictObject({
  least: z.number().int().min(0).default(1),
  advised: z.number().int().positive().optional(),
  most: z.number().int().positive(),
  longestSide: z
    .strictObject({
      least: z.number().int().positive().optional(),
      advised: z.number().int().positive().optional(),
      most: z.number().int().positive().optional(),
    })
    .optional()
    .meta({ description: 'in pixels' }),
  formats: z.array(z.enum(['jpeg', 'png', 'gif', 'webp', 'tiff'])).min(1),
  white: z
    .number()
    .min(0)
    .max(1)
    .optional()
    .meta({ description: "share of the main picture's border that must be white" }),
  plain: z
    .boolean()
    .optional()
    .meta({ description: 'the main picture shows the thing alone: no words beside it and no frame' }),
  words: z.string().optional(),
});

/** Something the merchant must have or do before the channel takes anything. */
const merchantNeedSchema = z.strictObject({
  code: z.string().regex(/^[a-z][a-z0-9_]*$/),
  label: z.string().min(1),
  words: z.string().min(1),
  countries: z.array(z.string().length(2)).optional().meta({ description: 'everywhere by default' }),
});
export type MerchantNeed = z.infer<typeof merchantNeedSchema>;

const marketSchema = z.strictObject({
  country: z.string().length(2),
  languages: z.array(z.string()).min(1),
  currency: z.string().length(3),
});

export const sheetSchema = z
  .strictObject({
    format: z.literal('lively-cart/sheet@1'),
    code: z.string().regex(/^[a-z][a-z0-9-]*$/),
    name: z.string().min(1),
    about: z.string(),
    version: z.number().int().positive(),
    effective: z.iso.date(),
    markets: z.array(marketSchema).min(1),
    fields: z.array(fieldSchema).min(1),
    demands: z.array(demandSchema).default([]),
    branches: z.array(branchSchema).default([]),
    pictures: pictureDemandsSchema.optional(),
    merchant: z.array(merchantNeedSchema).default([]),
    makesPages: z
      .boolean()
      .default(false)
      .meta({ description: 'it is the shop itself: the pages that others lead to are made of its listings' }),
    delivery: deliverySchema,
    answers: z
      .array(answerCodeSchema)
      .default([])
      .meta({ description: "the codes of the channel's answers, in plain words" }),
  })
  .superRefine((sheet, context) => {
    const codes = new Set<string>();
    sheet.fields.forEach((field, i) => {
      if (codes.has(field.code))
        context.addIssue({
          code: 'custom',
          path: ['fields', i, 'code'],
          message: `field "${field.code}" is defined twice`,
        });
      codes.add(field.code);
      if (field.kind === 'choice' && !field.choices?.length)
        context.addIssue({
          code: 'custom',
          path: ['fields', i, 'choices'],
          message: `choice field "${field.code}" has no choices`,
        });
    });
    for (const code of sheet.delivery.quick?.fields ?? [])
      if (!codes.has(code))
        context.addIssue({
          code: 'custom',
          path: ['delivery', 'quick', 'fields'],
          message: `names field "${code}", which is not defined`,
        });
    const { joins } = sheet.delivery;
    for (const code of joins ? [joins.field, ...joins.asked] : [])
      if (!codes.has(code))
        context.addIssue({
          code: 'custom',
          path: ['delivery', 'joins'],
          message: `names field "${code}", which is not defined`,
        });
    if (!sheet.fields.some((field) => field.role === 'id'))
      context.addIssue({ code: 'custom', path: ['fields'], message: 'one field must have the role "id"' });
    sheet.fields.forEach((field, i) => {
      if (field.length?.least && field.length.most && field.length.least > field.length.most)
        context.addIssue({
          code: 'custom',
          path: ['fields', i, 'length'],
          message: `"${field.code}" has a minimum above its maximum`,
        });
      for (const code of field.mustWhen ? fieldsIn(field.mustWhen) : [])
        if (!codes.has(code))
          context.addIssue({
            code: 'custom',
            path: ['fields', i, 'mustWhen'],
            message: `names field "${code}", which is not defined`,
          });
    });
    sheet.branches.forEach((branch, i) => {
      for (const code of branch.variesBy ?? [])
        if (!codes.has(code))
          context.addIssue({
            code: 'custom',
            path: ['branches', i, 'variesBy'],
            message: `names field "${code}", which is not defined`,
          });
    });
    sheet.demands.forEach((demand, i) => {
      for (const code of demand.demand === 'ratio' ? [demand.field, demand.to] : demand.sets.flat())
        if (!codes.has(code))
          context.addIssue({
            code: 'custom',
            path: ['demands', i],
            message: `names field "${code}", which is not defined`,
          });
    });
  });
export type Sheet = z.infer<typeof sheetSchema>;

/** The field of a sheet that has a role. */
export function fieldWithRole(sheet: Sheet, role: FieldRole): Field | undefined {
  return sheet.fields.find((field) => field.role === role);
}

/** A field's label by its code; the code itself where the sheet has no such field. */
export function fieldLabels(sheet: Sheet): (code: string) => string {
  const labels = new Map(sheet.fields.map((field) => [field.code, field.label]));
  return (code) => labels.get(code) ?? code;
}

/** What a channel wants of the merchant in a country. */
export const merchantNeedsIn = ({ merchant }: Sheet, country: string): MerchantNeed[] =>
  merchant.filter(({ countries }) => !countries || countries.includes(country));
