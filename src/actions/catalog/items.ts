'use server';
import { z } from 'zod';
import { compositionSchema } from '@/core/compose/composition';
import {
  applyBulk,
  archiveItems,
  copyItem,
  createItem,
  editCells,
  previewBulk,
} from '@/server/catalog/itemEdits';
import { letJoin } from '@/server/catalog/waiting';
import { removeView, saveView } from '@/server/items/savedViews';
import { addPicture, orderPictures, setAlternativeText } from '@/server/pictures/editing';
import { undoJointEdit } from '@/server/plans/drafts';
import { action } from '../action';
import { saying, skusOf, stated } from '../edits';
import { code, id, selection, text } from '../inputs';

export const undoCatalogEdit = action(
  'change',
  'undid a catalog edit',
  z.tuple([id.optional()]),
  async (edit) => ({ ok: true as const, words: `Undone: ${(await undoJointEdit(edit)).words}` }),
);

export const setCells = action(
  'change',
  'changed cells',
  z.tuple([
    z
      .array(z.strictObject({ sku: code, attribute: code, text }))
      .min(1)
      .max(50_000),
  ]),
  (cells) => stated(editCells(cells)),
);

const bulk = z.tuple([code, compositionSchema.nullable(), selection]);

export const previewBulkEdit = action(
  'look',
  'previewed a bulk edit',
  bulk,
  async (attribute, composition, items) => ({
    ok: true as const,
    ...(await previewBulk(attribute, composition, await skusOf(items))),
  }),
);

export const bulkEdit = action(
  'change',
  'edited items in bulk',
  bulk,
  async (attribute, composition, items) => stated(applyBulk(attribute, composition, await skusOf(items))),
);

export const archive = action(
  'change',
  'archived items',
  z.tuple([selection, z.boolean()]),
  async (items, on) => stated(archiveItems(await skusOf(items), on)),
);

export const letItemsJoin = action(
  'change',
  'added new items to a feed',
  z.tuple([code, text.optional()]),
  (feed, source) => stated(letJoin(feed, source)),
);

export const addItem = action(
  'change',
  'added an item',
  z.tuple([code, z.record(code, text), code.nullable()]),
  (sku, values, family) => stated(createItem(sku, values, family)),
);

export const duplicateItem = action('change', 'copied an item', z.tuple([code, code]), (sku, to) =>
  stated(copyItem(sku, to)),
);

const holder = z.union([z.strictObject({ sku: code }), z.strictObject({ family: code })]);

export type PictureHolder = z.infer<typeof holder>;

export const setPictureOrder = action(
  'change',
  'ordered pictures',
  z.tuple([holder, z.array(z.string().max(700)).max(100)]),
  (of, links) => stated(orderPictures(of, links)),
);

export const addPictureAddress = action(
  'change',
  'added a picture',
  z.tuple([holder, z.url('This address is not complete. Write it with https://.').max(700)]),
  (of, address) => stated(addPicture(of, address)),
);

export const describePicture = action(
  'change',
  'described a picture',
  z.tuple([z.string().max(700), z.string().max(500)]),
  (link, words) => saying(setAlternativeText(link, words)),
);

export const storeView = action(
  'change',
  'saved a view',
  z.tuple([z.string().max(100), z.string().max(3000)]),
  (name, query) => saying(saveView(name, query), 'View saved'),
);

export const deleteView = action('change', 'deleted a view', z.tuple([id]), (view) =>
  saying(removeView(view), 'View deleted'),
);
