import { page } from '@/app/gated';
import { listFamilies } from '@/server/catalog/families';
import { NewItem } from '@/ui/items/NewItem';

export default page(async () => {
  const families = await listFamilies();
  return (
    <div className="page scrolls">
      <header className="page-head">
        <h1>Add an item</h1>
        <span className="sub">add the other values on its page</span>
      </header>
      <NewItem families={families.map(({ code, name }) => ({ code, name }))} />
    </div>
  );
});
