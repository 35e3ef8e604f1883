import { page } from '@/app/gated';
import { listFamilies, looseCount } from '@/server/catalog/families';
import { FamilyList } from '@/ui/families/FamilyList';

export default page(async () => {
  const [families, loose] = await Promise.all([listFamilies(), looseCount()]);
  return (
    <div className="page">
      <FamilyList families={families} loose={loose} />
    </div>
  );
});
