import { page } from '@/app/gated';
import { listAttributes } from '@/server/catalog/attributes';
import { AttributeList } from '@/ui/attributes/AttributeList';

export default page(async () => {
  const { lines, items } = await listAttributes();
  return (
    <div className="page">
      <AttributeList lines={lines} items={items} />
    </div>
  );
});
