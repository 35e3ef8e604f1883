import { currentSnapshot } from '@/server/catalog/snapshot';
import { ItemsGrid } from '@/ui/grid/ItemsGrid';

export default async function Page() {
  const { attributes } = await currentSnapshot();
  return (
    <div className="page">
      <ItemsGrid attributes={[...attributes]} />
    </div>
  );
}
