import { page } from '@/app/gated';
import { listRanges } from '@/server/suppliers/suppliers';
import { RangeList } from '@/ui/suppliers/SupplierList';

export default page(async () => (
  <div className="page">
    <RangeList ranges={await listRanges()} />
  </div>
));
