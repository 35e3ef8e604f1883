import { notFound } from 'next/navigation';
import { z } from 'zod';
import { page, part } from '@/app/gated';
import { findChannel, listSheetVersions, openVersion } from '@/server/channels/channels';
import { reviewVersion } from '@/server/evaluation/sheetReview';
import { VersionsPage } from '@/ui/channels/VersionsPage';

export default page(
  async ({ params: { code } }) => {
    const [versions, current, open] = await Promise.all([
      listSheetVersions(code),
      findChannel(code),
      openVersion(code),
    ]);
    const sheet = current?.sheet ?? open?.channel.sheet;
    if (!sheet) notFound();
    return (
      <div className="page">
        <VersionsPage
          code={code}
          name={sheet.name}
          versions={versions}
          current={current?.sheet.version}
          revision={open?.revision}
          review={open && (await reviewVersion(code, open.version))}
        />
      </div>
    );
  },
  { params: z.object({ code: part }) },
);
