import { notFound } from 'next/navigation';
import { z } from 'zod';
import { page, part } from '@/app/gated';
import { findAttribute } from '@/server/catalog/attributes';
import { AttributePage } from '@/ui/attributes/AttributePage';

export default page(
  async ({ params: { code } }) => {
    const attribute = await findAttribute(code);
    if (!attribute) notFound();
    return (
      <div className="page">
        <AttributePage attribute={attribute} />
      </div>
    );
  },
  { params: z.object({ code: part }) },
);
