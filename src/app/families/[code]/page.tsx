import { notFound } from 'next/navigation';
import { z } from 'zod';
import { page, part } from '@/app/gated';
import { axisCodes } from '@/core/catalog/attributes';
import { termsWith } from '@/core/catalog/terms';
import { asList, asText } from '@/core/catalog/value';
import { findFamily } from '@/server/catalog/families';
import { picturesOf } from '@/server/catalog/pictures';
import { currentSnapshot } from '@/server/catalog/snapshot';
import { valueGroups } from '@/server/catalog/valueViews';
import { FamilyPage } from '@/ui/families/FamilyPage';
import '@/ui/items/item.css';

export default page(
  async ({ params: { code } }) => {
    const [family, snapshot] = await Promise.all([findFamily(code), currentSnapshot()]);
    if (!family) notFound();
    const labelOf = (one: string) =>
      snapshot.attributes.find((attribute) => attribute.code === one)?.label ?? one;
    const choices = snapshot.attributes.filter(
      ({ kind }) => kind === 'choice' || kind === 'measure' || kind === 'text',
    );
    const words = (one: string): string[] => {
      const slot = snapshot.index.slotOf(one) ?? -1;
      const found = new Set(snapshot.rows.flatMap((row) => asList(row[slot])));
      const attribute = snapshot.attributes.find((known) => known.code === one);
      return termsWith(attribute ?? {}, found)
        .map(({ term }) => term)
        .slice(0, 80);
    };
    const possible = [
      ...new Set([
        ...family.variesBy,
        ...axisCodes,
        ...choices.filter(({ kind }) => kind === 'choice').map((one) => one.code),
      ]),
    ].filter((one) => snapshot.attributes.some((attribute) => attribute.code === one));
    return (
      <div className="page">
        <FamilyPage
          code={code}
          name={asText(family.values.name) || code}
          variesBy={family.variesBy}
          sections={valueGroups(snapshot, {
            own: family.values,
            shared: {},
            origins: {},
            family: code,
            members: family.members.map(({ values }) => values),
          })}
          pictures={await picturesOf(asList(family.values.image))}
          members={family.members.map(({ sku, values }) => ({
            sku,
            axes: Object.fromEntries(
              family.variesBy.map((axis) => [axis, asText(values[axis] ?? family.values[axis])]),
            ),
            price: asText(values.price ?? family.values.price),
            stock: asText(values.inventoryLevel ?? family.values.inventoryLevel),
            // What it says of its own although the family says something else.
            overrides: Object.keys(values)
              .filter((one) => family.values[one] !== undefined && !family.variesBy.includes(one))
              .map(labelOf),
          }))}
          axes={possible.map((one) => ({ code: one, label: labelOf(one), words: words(one) }))}
          attributes={snapshot.attributes.map(({ code: one, label }) => ({ code: one, label }))}
        />
      </div>
    );
  },
  { params: z.object({ code: part }) },
);
