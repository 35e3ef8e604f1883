'use client';
import type { Attribute } from '@/core/catalog/attributes';
import type { RunPreview } from '@/server/import/preview';
import type { RunRow } from '@/server/import/runs';
import { FormatLine } from './FormatLine';
import { MappingRows } from './MappingRows';
import { ImportRunBar } from './run/ImportRunBar';
import { ImportRunPanel } from './run/ImportRunPanel';
import type { RunFindings } from './run/runFindings';
import { useImportRun } from './run/useImportRun';
import './import.css';

interface RunBenchProps {
  run: RunRow;
  preview: RunPreview | undefined;
  trouble: string | undefined;
  targets: readonly Attribute[];
  findings: RunFindings;
}

/** Bringing in: what fills each attribute on the left, what that makes of the file on the right, the next step below. */
export function ImportRunPage({ run, preview, trouble, targets, findings }: RunBenchProps) {
  const acts = useImportRun(run);
  return (
    <>
      <FormatLine run={run} preview={preview} acts={acts} />
      <div className="intake-grid" aria-busy={acts.busy}>
        <section aria-label="Mapping">
          {preview?.notes.map((note) => (
            <p key={note} className="small muted read-note">
              {note}
            </p>
          ))}
          <MappingRows run={run} preview={preview} targets={targets} acts={acts} />
        </section>
        <section aria-label="Preview">
          {trouble && (
            <div className="empty" role="alert">
              <b className="tone-blocker">{trouble}</b>
            </div>
          )}
          <ImportRunPanel run={run} preview={preview} findings={findings} targets={targets} acts={acts} />
        </section>
      </div>
      <ImportRunBar run={run} trouble={trouble} findings={findings} acts={acts} />
    </>
  );
}
