import { listFamilies, looseCount } from '@/server/catalog/families';
import { FamilyList } from '@/ui/families/FamilyList';

export default async function Page() {
  const [families, loose] = await Promise.all([listFamilies(), looseCount()]);
  return (
    <div className="page">
      <FamilyList families={families} loose={loose} />
    </div>
  );
}
