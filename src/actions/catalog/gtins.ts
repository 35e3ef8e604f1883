'use server';
import { z } from 'zod';
import { formatNumber } from '@/core/formatting/formatting';
import * as register from '@/server/items/gtinRegister';
import { action } from '../action';
import { saying, stated } from '../edits';
import { code, id } from '../inputs';

export const addGtins = action(
  'change',
  'added a block of GTINs',
  z.tuple([z.string().trim().min(1).max(30), z.number().int()]),
  (first, count) => saying(register.addGtinBlock(first, count), `${formatNumber(count)} GTINs added`),
);

export const removeGtins = action('change', 'deleted a block of GTINs', z.tuple([id]), (block) =>
  saying(register.removeGtinBlock(block), 'Block deleted'),
);

export const assignGtinsTo = action(
  'change',
  'assigned GTINs',
  z.tuple([z.array(code).min(1).max(5000)]),
  (skus) => stated(register.assignGtins(skus)),
);
