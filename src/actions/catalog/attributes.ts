'use server';
import { z } from 'zod';
import { attributeSchema } from '@/core/catalog/attributes';
import { termSchema } from '@/core/catalog/terms';
import {
  previewRename,
  removeAttribute,
  renameTerm,
  saveAttribute,
  setTerms,
} from '@/server/catalog/attributes';
import { action } from '../action';
import { saying, stated } from '../edits';
import { code, text } from '../inputs';

export const storeAttribute = action(
  'change',
  'changed an attribute',
  z.tuple([attributeSchema, z.boolean()]),
  (attribute, fresh) => saying(saveAttribute(attribute, fresh)),
);

export const deleteAttribute = action('change', 'deleted an attribute', z.tuple([code]), (attribute) =>
  saying(removeAttribute(attribute), 'Deleted'),
);

export const orderTerms = action(
  'change',
  'ordered terms',
  z.tuple([code, z.array(termSchema).max(5000)]),
  (attribute, terms) => saying(setTerms(attribute, terms)),
);

const renaming = z.tuple([code, text, text]);

export const previewTermRename = action(
  'look',
  'previewed a rename',
  renaming,
  async (attribute, from, to) => ({
    ok: true as const,
    ...(await previewRename(attribute, from, to)),
  }),
);

export const rename = action('change', 'renamed a term', renaming, (attribute, from, to) =>
  stated(renameTerm(attribute, from, to)),
);
