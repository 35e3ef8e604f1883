import { page } from '@/app/gated';
import { listSuppliers } from '@/server/suppliers/suppliers';
import { SupplierList } from '@/ui/suppliers/SupplierList';

export default page(async () => (
  <div className="page">
    <SupplierList ranges={await listSuppliers()} />
  </div>
));
