import { notFound } from 'next/navigation';
import { findAttribute } from '@/server/catalog/attributes';
import { AttributePage } from '@/ui/attributes/AttributePage';

export default async function Page({ params }: { params: Promise<{ code: string }> }) {
  const attribute = await findAttribute(decodeURIComponent((await params).code));
  if (!attribute) notFound();
  return (
    <div className="page">
      <AttributePage attribute={attribute} />
    </div>
  );
}
