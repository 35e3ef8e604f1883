import { notFound } from 'next/navigation';
import { z } from 'zod';
import { page, part } from '@/app/gated';
import { findChannel } from '@/server/channels/channels';
import { needsOfItem } from '@/server/channels/sheets';
import { SheetPage } from '@/ui/channels/SheetPage';

export default page(
  async ({ params: { code }, query: { item, country } }) => {
    const channel = await findChannel(code);
    if (!channel) notFound();
    const { sheet, tree } = channel;
    const needs = item
      ? await needsOfItem(code, country ?? sheet.markets[0]?.country ?? '', item)
      : undefined;
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
  },
  { params: z.object({ code: part }) },
);
