import { notFound } from 'next/navigation';
import { z } from 'zod';
import { page, part } from '@/app/gated';
import { asList, asText } from '@/core/catalog/value';
import { findFamily } from '@/server/catalog/families';
import { loadAttributes } from '@/server/catalog/snapshot';
import { possibleAxes, valueGroups } from '@/server/items/valueViews';
import { picturesOf } from '@/server/pictures/pictures';
import { FamilyPage } from '@/ui/families/FamilyPage';
import '@/ui/items/item.css';

export default page(
  async ({ params: { code } }) => {
    const family = await findFamily(code);
    if (!family) notFound();
    const [attributes, axes, sections] = await Promise.all([
      loadAttributes(),
      possibleAxes(family.variesBy),
      valueGroups({
        own: family.values,
        shared: {},
        origins: {},
        family: code,
        members: family.members.map(({ values }) => values),
      }),
    ]);
    const labelOf = (one: string) => attributes.find((attribute) => attribute.code === one)?.label ?? one;
    return (
      <div className="page">
        <FamilyPage
          code={code}
          name={asText(family.values.name) || code}
          variesBy={family.variesBy}
          sections={sections}
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
          axes={axes}
          attributes={attributes.map(({ code: one, label }) => ({ code: one, label }))}
        />
      </div>
    );
  },
  { params: z.object({ code: part }) },
);
