'use server';
import { z } from 'zod';
import { compositionSchema } from '@/core/compose/composition';
import * as families from '@/server/catalog/families';
import { action } from '../action';
import { skusOf, stated } from '../edits';
import { code, selection, text } from '../inputs';

const axes = z.array(code).max(6);

export const addFamily = action(
  'change',
  'added a family',
  z.tuple([code, text, axes]),
  (family, name, given) => stated(families.createFamily(family, name, given)),
);

export const setFamilyValue = action(
  'change',
  'changed a family',
  z.tuple([code, code, text]),
  (family, attribute, value) => stated(families.editFamilyValue(family, attribute, value)),
);

export const setFamilyAxes = action('change', 'changed axes', z.tuple([code, axes]), (family, given) =>
  stated(families.setAxes(family, given)),
);

const variants = z.tuple([
  code,
  z.strictObject({
    axes: z.array(z.strictObject({ axis: code, terms: z.array(code).max(500) })).max(6),
    sku: compositionSchema,
    name: compositionSchema.optional(),
  }),
]);

export const previewNewVariants = action(
  'look',
  'previewed variants',
  variants,
  async (family, { name, ...request }) => ({
    ok: true as const,
    planned: await families.previewVariants(family, { ...request, name }),
  }),
);

export const makeVariants = action('change', 'created variants', variants, (family, { name, ...request }) =>
  stated(families.makeVariants(family, { ...request, name })),
);

export const moveToFamily = action(
  'change',
  'moved items',
  z.tuple([selection, code.nullable()]),
  async (items, family) => stated(families.moveItems(await skusOf(items), family)),
);

export const mergeIntoFamily = action(
  'change',
  'merged items',
  z.tuple([selection, code]),
  async (items, family) => stated(families.mergeItems(await skusOf(items), family)),
);

export const splitByAxis = action('change', 'split a family', z.tuple([code, code]), (family, axis) =>
  stated(families.splitFamily(family, axis)),
);

export const deleteFamily = action('change', 'deleted a family', z.tuple([code]), (family) =>
  stated(families.removeFamily(family)),
);

export const duplicateFamily = action('change', 'copied a family', z.tuple([code, code]), (family, to) =>
  stated(families.copyFamily(family, to)),
);
