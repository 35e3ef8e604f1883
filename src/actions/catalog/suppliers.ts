'use server';
import { z } from 'zod';
import { rangeMappingSchema } from '@/core/matching/supplierRange';
import * as suppliers from '@/server/suppliers/suppliers';
import { action } from '../action';
import { saying, stated } from '../edits';
import { code } from '../inputs';

const rangeText = z.string().max(5_000_000);

export const previewSupplierRange = action(
  'look',
  'previewed a supplier’s range',
  z.tuple([rangeText]),
  async (list) => ({ ok: true as const, look: await suppliers.previewRange(list) }),
);

export const importSupplierRange = action(
  'change',
  'imported a supplier’s range',
  z.tuple([z.string().trim().min(1).max(200), rangeText, rangeMappingSchema]),
  async (name, list, mapping) => ({
    ok: true as const,
    ...(await suppliers.importRange(name, list, mapping)),
  }),
);

export const decideSupplierMatch = action(
  'change',
  'decided a supplier match',
  z.tuple([code, code, code, z.boolean().nullable()]),
  (range, sku, variant, same) =>
    saying(
      suppliers.decideMatch(range, sku, variant, same ?? undefined),
      same === null ? 'Match reopened' : same ? `${sku} is ${variant}` : `${sku} is not ${variant}`,
    ),
);

export const applySupplierMatches = action(
  'change',
  'took cost and stock from a supplier',
  z.tuple([code, z.strictObject({ stock: z.boolean(), profit: z.number().min(0).max(95).optional() })]),
  (range, given) => stated(suppliers.applyToItems(range, given)),
);

export const deleteSupplier = action('change', 'deleted a supplier’s range', z.tuple([code]), (range) =>
  saying(suppliers.removeSupplier(range), 'Range deleted'),
);
