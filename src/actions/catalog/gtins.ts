'use server';
import { z } from 'zod';
import * as register from '@/server/items/gtinRegister';
import { action } from '../action';
import { saying, stated } from '../edits';
import { code, id } from '../inputs';

export const addGtins = action(
  'change',
  'entered bought numbers',
  z.tuple([z.string().trim().min(1).max(30), z.number().int()]),
  (first, count) =>
    saying(register.addGtinBlock(first, count), `${count.toLocaleString('en')} numbers entered`),
);

export const removeGtins = action('change', 'took bought numbers out', z.tuple([id]), (block) =>
  saying(register.removeGtinBlock(block), 'Block taken out'),
);

export const assignGtinsTo = action(
  'change',
  'gave items numbers',
  z.tuple([z.array(code).min(1).max(5000)]),
  (skus) => stated(register.assignGtins(skus)),
);
