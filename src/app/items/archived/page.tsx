import { page } from '@/app/gated';
import { listArchived } from '@/server/catalog/itemEdits';
import { ArchivedItems } from '@/ui/items/ArchivedItems';
import { Link } from '@/ui/kit/Link';

export default page(async () => {
  const items = await listArchived();
  return (
    <div className="page scrolls">
      <header className="page-head">
        <h1>Archived items</h1>
        <span className="sub">in no feed; all their values are kept</span>
        <div className="acts">
          <Link className="text" href="/items">
            All items
          </Link>
        </div>
      </header>
      <ArchivedItems items={items} />
    </div>
  );
});
