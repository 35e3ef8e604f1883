'use server';
import { z } from 'zod';
import { itemQuerySchema } from '@/app/itemQuery';
import { type Attribute, attributeSchema, type Term, termSchema } from '@/core/catalog/attributes';
import type { PlannedVariant } from '@/core/catalog/variants';
import { type Composition, compositionSchema } from '@/core/compose/composition';
import {
  previewRename,
  removeAttribute,
  renameTerm,
  saveAttribute,
  setTerms,
  type TermTouch,
} from '@/server/catalog/attributes';
import { type EditDone, undoEdit } from '@/server/catalog/editing';
import * as families from '@/server/catalog/families';
import {
  applyBulk,
  archiveItems,
  type BulkPreview,
  type CellEdit,
  copyItem,
  createItem,
  editCells,
  previewBulk,
} from '@/server/catalog/itemEdits';
import { matchingSkus } from '@/server/catalog/items';
import { addPicture, orderPictures, setAlternativeText } from '@/server/catalog/pictures';
import { removeView, saveView } from '@/server/catalog/views';
import { type Told, told } from './told';

/** Thin on purpose: parse what came from outside, call the server, give back words. */
const code = z.string().trim().min(1).max(190);
const text = z.string().max(50_000);
const done = async (work: Promise<EditDone>): Promise<{ words: string; edit: number }> => {
  const { id, words } = await work;
  return { words: `${words.charAt(0).toUpperCase()}${words.slice(1)}`, edit: id };
};
type Done = Promise<Told<{ words: string; edit: number }>>;

/** Some items, or all that a query of the grid matches. */
const selectionSchema = z.union([
  z.strictObject({ skus: z.array(code).max(20_000) }),
  z.strictObject({ query: z.record(z.string(), z.string()) }),
]);
export type ItemSelection = z.infer<typeof selectionSchema>;

async function skusOf(selection: ItemSelection): Promise<string[]> {
  const parsed = selectionSchema.parse(selection);
  return 'skus' in parsed ? parsed.skus : matchingSkus(itemQuerySchema.parse(parsed.query));
}

export async function undoCatalogEdit(edit?: number): Promise<Told> {
  return told(async () => ({
    words: `Undone: ${(await undoEdit(z.number().int().optional().parse(edit))).words}`,
  }));
}

const cellsSchema = z
  .array(z.strictObject({ sku: code, attribute: code, text }))
  .min(1)
  .max(50_000);

export async function setCells(cells: CellEdit[]): Done {
  return told(() => done(editCells(cellsSchema.parse(cells))));
}

export async function lookAtBulk(
  attribute: string,
  composition: Composition | null,
  selection: ItemSelection,
): Promise<Told<BulkPreview>> {
  return told(async () =>
    previewBulk(
      code.parse(attribute),
      compositionSchema.nullable().parse(composition),
      await skusOf(selection),
    ),
  );
}

export async function changeInBulk(
  attribute: string,
  composition: Composition | null,
  selection: ItemSelection,
): Done {
  return told(async () =>
    done(
      applyBulk(
        code.parse(attribute),
        compositionSchema.nullable().parse(composition),
        await skusOf(selection),
      ),
    ),
  );
}

export async function archive(selection: ItemSelection, archived: boolean): Done {
  return told(async () => done(archiveItems(await skusOf(selection), z.boolean().parse(archived))));
}

export async function addItem(sku: string, values: Record<string, string>, family: string | null): Done {
  return told(() =>
    done(createItem(code.parse(sku), z.record(code, text).parse(values), code.nullable().parse(family))),
  );
}

export async function duplicateItem(sku: string, to: string): Done {
  return told(() => done(copyItem(code.parse(sku), code.parse(to))));
}

export async function addFamily(family: string, name: string, axes: string[]): Done {
  return told(() =>
    done(families.createFamily(code.parse(family), text.parse(name), z.array(code).parse(axes))),
  );
}

export async function setFamilyValue(family: string, attribute: string, value: string): Done {
  return told(() =>
    done(families.editFamilyValue(code.parse(family), code.parse(attribute), text.parse(value))),
  );
}

export async function setFamilyAxes(family: string, axes: string[]): Done {
  return told(() => done(families.setAxes(code.parse(family), z.array(code).parse(axes))));
}

const variantsSchema = z.strictObject({
  axes: z.array(z.strictObject({ axis: code, terms: z.array(code).max(500) })).max(6),
  sku: compositionSchema,
  name: compositionSchema.optional(),
});

export async function lookAtVariants(
  family: string,
  request: families.VariantRequest,
): Promise<Told<{ planned: PlannedVariant[] }>> {
  return told(async () => {
    const { name, ...parsed } = variantsSchema.parse(request);
    return { planned: await families.previewVariants(code.parse(family), { ...parsed, name }) };
  });
}

export async function makeVariants(family: string, request: families.VariantRequest): Done {
  return told(() => {
    const { name, ...parsed } = variantsSchema.parse(request);
    return done(families.makeVariants(code.parse(family), { ...parsed, name }));
  });
}

export async function moveToFamily(selection: ItemSelection, family: string | null): Done {
  return told(async () => done(families.moveItems(await skusOf(selection), code.nullable().parse(family))));
}

export async function mergeIntoFamily(selection: ItemSelection, family: string): Done {
  return told(async () => done(families.mergeItems(await skusOf(selection), code.parse(family))));
}

export async function splitByAxis(family: string, axis: string): Done {
  return told(() => done(families.splitFamily(code.parse(family), code.parse(axis))));
}

export async function takeFamilyAway(family: string): Done {
  return told(() => done(families.removeFamily(code.parse(family))));
}

export async function duplicateFamily(family: string, to: string): Done {
  return told(() => done(families.copyFamily(code.parse(family), code.parse(to))));
}

export async function storeAttribute(attribute: Attribute, fresh: boolean): Promise<Told> {
  return told(async () => {
    await saveAttribute(attributeSchema.parse(attribute), z.boolean().parse(fresh));
    return { words: 'Saved' };
  });
}

export async function dropAttribute(attribute: string): Promise<Told> {
  return told(async () => {
    await removeAttribute(code.parse(attribute));
    return { words: 'Taken away' };
  });
}

export async function orderTerms(attribute: string, terms: Term[]): Promise<Told> {
  return told(async () => {
    await setTerms(code.parse(attribute), z.array(termSchema).max(5000).parse(terms));
    return { words: 'Saved' };
  });
}

export async function lookAtRename(attribute: string, from: string, to: string): Promise<Told<TermTouch>> {
  return told(() => previewRename(code.parse(attribute), text.parse(from), text.parse(to)));
}

export async function rename(attribute: string, from: string, to: string): Done {
  return told(() => done(renameTerm(code.parse(attribute), text.parse(from), text.parse(to))));
}

const holderSchema = z.union([z.strictObject({ sku: code }), z.strictObject({ family: code })]);
export type PictureHolder = z.infer<typeof holderSchema>;

export async function setPictureOrder(holder: PictureHolder, links: string[]): Done {
  return told(() =>
    done(orderPictures(holderSchema.parse(holder), z.array(z.string().max(700)).max(100).parse(links))),
  );
}

export async function addPictureAddress(holder: PictureHolder, address: string): Done {
  return told(() => done(addPicture(holderSchema.parse(holder), z.url().max(700).parse(address))));
}

export async function describePicture(link: string, words: string): Promise<Told> {
  return told(async () => {
    await setAlternativeText(z.string().max(700).parse(link), z.string().max(500).parse(words));
    return { words: 'Saved' };
  });
}

export async function keepView(name: string, query: string): Promise<Told> {
  return told(async () => {
    await saveView(z.string().parse(name), z.string().parse(query));
    return { words: 'View saved' };
  });
}

export async function dropView(id: number): Promise<Told> {
  return told(async () => {
    await removeView(z.number().int().parse(id));
    return { words: 'View taken away' };
  });
}
