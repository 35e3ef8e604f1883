import { notFound } from 'next/navigation';
import { z } from 'zod';
import { page, part } from '@/app/gated';
import { findChannel, openVersion } from '@/server/channels/channels';
import { OpenVersionButton } from '@/ui/channels/OpenVersionButton';
import { SheetEditor } from '@/ui/channels/SheetEditor';
import { Empty } from '@/ui/kit/Empty';

export default page(
  async ({ params: { code } }) => {
    const [open, current] = await Promise.all([openVersion(code), findChannel(code)]);
    if (!open && !current) notFound();
    return (
      <div className="page">
        {open ? (
          <SheetEditor
            key={open.version}
            code={code}
            sheet={open.channel.sheet}
            taxonomy={open.taxonomy}
            version={open.version}
            revision={open.revision}
            branches={open.channel.tree.byCode.size}
            first={current === undefined}
          />
        ) : (
          <>
            <header className="page-head">
              <h1>{current?.sheet.name}</h1>
            </header>
            <Empty title={<>Version {current?.sheet.version} is in use and stays as it is.</>}>
              <span className="muted">
                Changes go into a new version. You see its effect on your listings before you accept it.
              </span>
              <OpenVersionButton code={code} />
            </Empty>
          </>
        )}
      </div>
    );
  },
  { params: z.object({ code: part }) },
);
