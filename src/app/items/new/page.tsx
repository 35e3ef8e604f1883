import { page } from '@/app/gated';
import { listFamilies } from '@/server/catalog/families';
import { valueGroups } from '@/server/items/valueViews';
import { NewItem } from '@/ui/items/NewItem';

export default page(async () => {
  const [families, groups] = await Promise.all([
    listFamilies(),
    valueGroups({ own: {}, shared: {}, origins: {}, family: undefined }),
  ]);
  return (
    <div className="page scrolls">
      <header className="page-head">
        <h1>Add an item</h1>
        <span className="sub">a SKU and a name are enough; a variant takes empty values from its family</span>
      </header>
      <NewItem
        families={families.map(({ code, name }) => ({ code, name }))}
        groups={groups.map(({ name, values }) => ({
          name,
          fields: values.map(({ attribute, words }) => ({ attribute, words })),
        }))}
      />
    </div>
  );
});
