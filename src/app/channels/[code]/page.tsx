import { notFound } from 'next/navigation';
import { findChannel } from '@/server/channels/channels';
import { needsOfItem } from '@/server/channels/sheets';
import { SheetPage } from '@/ui/channels/SheetPage';

interface PageProps {
  params: Promise<{ code: string }>;
  searchParams: Promise<Record<string, string | undefined>>;
}

export default async function Page({ params, searchParams }: PageProps) {
  const { code } = await params;
  const channel = await findChannel(code);
  if (!channel) notFound();
  const { sheet, tree } = channel;
  const { item, country } = await searchParams;
  const needs = item ? await needsOfItem(code, country ?? sheet.markets[0]?.country ?? '', item) : undefined;
  return (
    <div className="page">
      <SheetPage
        sheet={sheet}
        categories={tree.byCode.size}
        needs={needs}
        unknown={item !== undefined && !needs}
      />
    </div>
  );
}
