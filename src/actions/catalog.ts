'use server';
import { z } from 'zod';
import { attributeSchema } from '@/core/catalog/attributes';
import { termSchema } from '@/core/catalog/terms';
import { compositionSchema } from '@/core/compose/composition';
import { rangeMappingSchema } from '@/core/matching/supplierRange';
import {
  previewRename,
  removeAttribute,
  renameTerm,
  saveAttribute,
  setTerms,
} from '@/server/catalog/attributes';
import type { EditDone } from '@/server/catalog/editing';
import * as families from '@/server/catalog/families';
import {
  applyBulk,
  archiveItems,
  copyItem,
  createItem,
  editCells,
  previewBulk,
} from '@/server/catalog/itemEdits';
import { importKeywords, removeKeywords } from '@/server/catalog/keywords';
import { letJoin } from '@/server/catalog/waiting';
import * as register from '@/server/items/gtinRegister';
import { matchingSkus } from '@/server/items/items';
import { removeView, saveView } from '@/server/items/savedViews';
import { addPicture, orderPictures, setAlternativeText } from '@/server/pictures/editing';
import { undoJointEdit } from '@/server/plans/drafts';
import * as partners from '@/server/suppliers/suppliers';
import { action } from './action';
import { code, type ItemSelection, id, parseItemQuery, selection, text } from './inputs';

const stated = async (work: Promise<EditDone>): Promise<{ ok: true; words: string; edit: number }> => {
  const { id: edit, words } = await work;
  return { ok: true, words: `${words.charAt(0).toUpperCase()}${words.slice(1)}`, edit };
};
const saying = async (
  work: Promise<unknown>,
  words = 'Saved',
): Promise<{ ok: true; words: string; edit?: number }> => {
  await work;
  return { ok: true, words };
};
const skusOf = async (given: ItemSelection): Promise<string[]> =>
  'skus' in given ? given.skus : matchingSkus(parseItemQuery(given.query));

export const undoCatalogEdit = action(
  'change',
  'took a catalog edit back',
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
  'looked at a bulk edit',
  bulk,
  async (attribute, composition, items) => ({
    ok: true as const,
    ...(await previewBulk(attribute, composition, await skusOf(items))),
  }),
);

export const bulkEdit = action(
  'change',
  'changed items in bulk',
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
  'let items join a feed',
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
  'looked at variants',
  variants,
  async (family, { name, ...request }) => ({
    ok: true as const,
    planned: await families.previewVariants(family, { ...request, name }),
  }),
);

export const makeVariants = action('change', 'made variants', variants, (family, { name, ...request }) =>
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

export const deleteFamily = action('change', 'took a family away', z.tuple([code]), (family) =>
  stated(families.removeFamily(family)),
);

export const duplicateFamily = action('change', 'copied a family', z.tuple([code, code]), (family, to) =>
  stated(families.copyFamily(family, to)),
);

export const storeAttribute = action(
  'change',
  'changed an attribute',
  z.tuple([attributeSchema, z.boolean()]),
  (attribute, fresh) => saying(saveAttribute(attribute, fresh)),
);

export const deleteAttribute = action('change', 'took an attribute away', z.tuple([code]), (attribute) =>
  saying(removeAttribute(attribute), 'Taken away'),
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
  'looked at a rename',
  renaming,
  async (attribute, from, to) => ({
    ok: true as const,
    ...(await previewRename(attribute, from, to)),
  }),
);

export const rename = action('change', 'renamed a term', renaming, (attribute, from, to) =>
  stated(renameTerm(attribute, from, to)),
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
  z.tuple([holder, z.url('That is not a whole address; write it with https://.').max(700)]),
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
  'kept a view',
  z.tuple([z.string().max(100), z.string().max(3000)]),
  (name, query) => saying(saveView(name, query), 'View saved'),
);

export const deleteView = action('change', 'took a view away', z.tuple([id]), (view) =>
  saying(removeView(view), 'View taken away'),
);

const language = z.string().regex(/^[a-z]{2,3}$/);

/** Takes a list of keywords in, as the text of a delimited file. */
export const importKeywordList = action(
  'change',
  'brought keywords in',
  z.tuple([z.string().max(5_000_000), language]),
  async (list, inLanguage) => ({ ok: true as const, ...(await importKeywords(list, inLanguage)) }),
);

export const deleteKeywords = action(
  'change',
  'took keywords away',
  z.tuple([language, z.strictObject({ term: z.string(), category: z.string() }).optional()]),
  async (inLanguage, one) => {
    const count = await removeKeywords(inLanguage, one);
    return { ok: true as const, words: count === 1 ? 'One term taken away' : `${count} terms taken away` };
  },
);

const rangeText = z.string().max(5_000_000);

export const previewSupplierRange = action(
  'look',
  'looked at a partner’s range',
  z.tuple([rangeText]),
  async (list) => ({ ok: true as const, look: await partners.previewRange(list) }),
);

export const importSupplierRange = action(
  'change',
  'brought a partner’s range in',
  z.tuple([z.string().trim().min(1).max(200), rangeText, rangeMappingSchema]),
  async (name, list, mapping) => ({
    ok: true as const,
    ...(await partners.importRange(name, list, mapping)),
  }),
);

export const decideSupplierMatch = action(
  'change',
  'settled a pair',
  z.tuple([code, code, code, z.boolean().nullable()]),
  (range, sku, variant, same) =>
    saying(
      partners.decideMatch(range, sku, variant, same ?? undefined),
      same === null ? 'Open again' : same ? `${sku} is ${variant}` : `${sku} is not ${variant}`,
    ),
);

export const applySupplierMatches = action(
  'change',
  'gave items what their partner says',
  z.tuple([code, z.strictObject({ stock: z.boolean(), profit: z.number().min(0).max(95).optional() })]),
  (range, given) => stated(partners.applyToItems(range, given)),
);

export const deleteSupplier = action('change', 'took a partner’s range away', z.tuple([code]), (range) =>
  saying(partners.removeSupplier(range), 'Range taken away'),
);

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
