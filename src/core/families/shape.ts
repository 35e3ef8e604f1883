import { z } from 'zod';
import type { Value } from '../catalog/value';

/** How a family stands on a channel: as the channel shows families, or each member by itself. */
const shownSchema = z.enum(['together', 'singly']);
export type Shown = z.infer<typeof shownSchema>;

/** What a merchant has chosen of families in one feed; the nearest choice counts: the family's, its branch's, the feed's. */
export const familyChoiceSchema = z
  .strictObject({
    feed: shownSchema.default('together'),
    asOne: z.boolean().optional().meta({
      description:
        'where the channel shows single listings: those of a family that stand together are one entry',
    }),
    branches: z
      .record(z.string(), shownSchema)
      .default({})
      .meta({ description: "by branch of the channel's tree" }),
    families: z.record(z.string(), shownSchema).default({}).meta({ description: 'by family code' }),
    apart: z
      .array(z.string())
      .default([])
      .meta({ description: 'attributes whose values each make a family of their own there' }),
  })
  .meta({ id: 'FamilyChoice' });
export type FamilyChoice = z.infer<typeof familyChoiceSchema>;

export const noFamilyChoice: FamilyChoice = familyChoiceSchema.parse({});

/**
 * How a family is shown, and where that was chosen.
 * @param branches the place of its members and the branches above it, nearest first
 */
export function shownOf(
  choice: FamilyChoice,
  family: string,
  branches: readonly string[],
): { readonly shown: Shown; readonly by: 'family' | 'branch' | 'feed' } {
  const own = Object.hasOwn(choice.families, family) ? choice.families[family] : undefined;
  if (own) return { shown: own, by: 'family' };
  for (const branch of branches) {
    const found = Object.hasOwn(choice.branches, branch) ? choice.branches[branch] : undefined;
    if (found) return { shown: found, by: 'branch' };
  }
  return { shown: choice.feed, by: 'feed' };
}

/** A word as it may stand in a group's code: its letters and digits. */
const codeWord = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '')
    .toUpperCase();

/**
 * The code under which a listing is grouped on a channel; undefined where it stands alone.
 * @param group as it is mapped @param apart the values of the axes that part the family there
 */
export function groupCode(
  group: Value | undefined,
  shown: Shown,
  apart: readonly string[],
): Value | undefined {
  if (shown === 'singly' || typeof group !== 'string') return shown === 'singly' ? undefined : group;
  return [group, ...apart.map(codeWord).filter((word) => word !== '')].join('-');
}
