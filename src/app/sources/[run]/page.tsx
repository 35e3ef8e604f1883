import { notFound } from 'next/navigation';
import { InputError } from '@/core/formats/inputError';
import { currentSnapshot } from '@/server/catalog/snapshot';
import { findRun, listRejections, previewRun, type RunPreview } from '@/server/sources/sources';
import { RunBench } from '@/ui/intake/RunBench';
import { runStateWords } from '@/ui/intake/runWords';

export default async function Page({ params }: { params: Promise<{ run: string }> }) {
  const id = Number((await params).run);
  const run = Number.isInteger(id) ? await findRun(id) : undefined;
  if (!run) notFound();
  let preview: RunPreview | undefined;
  let trouble: string | undefined;
  try {
    preview = await previewRun(run);
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    trouble = error.message;
  }
  const [{ attributes }, rejections] = await Promise.all([currentSnapshot(), listRejections(id)]);
  return (
    <div className="page">
      <header className="page-head">
        <h1 className="cut">{run.fileName}</h1>
        <span className="sub">{runStateWords[run.state]}</span>
      </header>
      <RunBench
        run={run}
        preview={preview}
        trouble={trouble}
        attributes={[...attributes]}
        rejections={rejections.slice(0, 50).map(({ row, reason }) => ({ row, reason }))}
      />
    </div>
  );
}
