import { page } from '@/app/gated';
import { listRanges } from '@/server/suppliers/suppliers';
import { RangeList } from '@/ui/partners/RangeList';

export default page(async () => (
  <div className="page">
    <RangeList ranges={await listRanges()} />
  </div>
));
