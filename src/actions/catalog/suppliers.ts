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
  'looked at a partner’s range',
  z.tuple([rangeText]),
  async (list) => ({ ok: true as const, look: await suppliers.previewRange(list) }),
);

export const importSupplierRange = action(
  'change',
  'brought a partner’s range in',
  z.tuple([z.string().trim().min(1).max(200), rangeText, rangeMappingSchema]),
  async (name, list, mapping) => ({
    ok: true as const,
    ...(await suppliers.importRange(name, list, mapping)),
  }),
);

export const decideSupplierMatch = action(
  'change',
  'settled a pair',
  z.tuple([code, code, code, z.boolean().nullable()]),
  (range, sku, variant, same) =>
    saying(
      suppliers.decideMatch(range, sku, variant, same ?? undefined),
      same === null ? 'Open again' : same ? `${sku} is ${variant}` : `${sku} is not ${variant}`,
    ),
);

export const applySupplierMatches = action(
  'change',
  'gave items what their partner says',
  z.tuple([code, z.strictObject({ stock: z.boolean(), profit: z.number().min(0).max(95).optional() })]),
  (range, given) => stated(suppliers.applyToItems(range, given)),
);

export const deleteSupplier = action('change', 'took a partner’s range away', z.tuple([code]), (range) =>
  saying(suppliers.removeSupplier(range), 'Range taken away'),
);
