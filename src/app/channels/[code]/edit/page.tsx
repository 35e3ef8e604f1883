import { notFound } from 'next/navigation';
import { findChannel, openVersion } from '@/server/channels/channels';
import { OpenVersionButton } from '@/ui/channels/OpenVersionButton';
import { SheetEditor } from '@/ui/channels/SheetEditor';

export default async function Page({ params }: { params: Promise<{ code: string }> }) {
  const { code } = await params;
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
          <div className="empty">
            <b>Version {current?.sheet.version} is in use and stays as it is.</b>
            <span className="muted">
              Changes go into a further version; what it does to your listings is shown before it counts.
            </span>
            <OpenVersionButton code={code} />
          </div>
        </>
      )}
    </div>
  );
}
