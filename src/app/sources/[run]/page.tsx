import { notFound } from 'next/navigation';
import { z } from 'zod';
import { number, page } from '@/app/gated';
import { InputError } from '@/core/errors/inputError';
import { importMappingSchema } from '@/core/import/mapping/importMapping';
import { targetsFrom } from '@/files/suggesting';
import { loadAttributes } from '@/server/catalog/snapshot';
import { previewRun, type RunPreview } from '@/server/import/preview';
import { findRun } from '@/server/import/runs';
import {
  countChosen,
  findSource,
  listKept,
  listRejections,
  listRunFamilies,
  listStaged,
} from '@/server/import/sources';
import { importEffects } from '@/server/pages/importEffect';
import { ImportRunPage } from '@/ui/import/ImportRunPage';
import { runStateLabels } from '@/ui/import/run/runStateLabels';

export default page(
  async ({ params: { run: id } }) => {
    const run = await findRun(id);
    if (!run) notFound();
    let preview: RunPreview | undefined;
    let trouble: string | undefined;
    try {
      preview = await previewRun(run);
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      trouble = error.message;
    }
    const [attributes, source, rejections, fresh, changed, missing, chosen, families, kept, effects] =
      await Promise.all([
        loadAttributes(),
        findSource(run.sourceId),
        listRejections(id, 50),
        listStaged(id, 'new', 20),
        listStaged(id, 'changed'),
        listStaged(id, 'missing', 20),
        countChosen(id),
        listRunFamilies(id),
        listKept(id),
        run.state === 'checked' ? importEffects(id) : undefined,
      ]);
    return (
      <div className="page">
        <header className="page-head">
          <h1 className="cut">{run.fileName}</h1>
          <span className="sub">
            {source && source.name !== run.fileName.replace(/\.[^.]+$/, '') ? `${source.name}, ` : ''}
            {runStateLabels[run.state]}
          </span>
        </header>
        <ImportRunPage
          run={{ ...run, mapping: importMappingSchema.parse(run.mapping) }}
          preview={preview}
          trouble={trouble}
          targets={targetsFrom(attributes)}
          findings={{
            rejections: rejections.map(({ row, reason }) => ({ row, reason })),
            staged: { new: fresh, changed, missing },
            chosen,
            families,
            kept,
            effects,
          }}
        />
      </div>
    );
  },
  { params: z.object({ run: number }) },
);
