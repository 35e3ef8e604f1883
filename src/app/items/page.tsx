import { page } from '@/app/gated';
import { countArchived } from '@/server/catalog/itemEdits';
import { loadAttributes } from '@/server/catalog/snapshot';
import { listViews } from '@/server/items/savedViews';
import { ItemsGrid } from '@/ui/grid/ItemsGrid';

export default page(async () => {
  const [attributes, views, archived] = await Promise.all([loadAttributes(), listViews(), countArchived()]);
  return (
    <div className="page">
      <ItemsGrid attributes={attributes} views={views} archived={archived} />
    </div>
  );
});
