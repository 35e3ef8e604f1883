'use client';
import type { Attribute } from '@/core/catalog/attributes';
import type { RunPreview } from '@/server/import/preview';
import type { RunRow } from '@/server/import/runs';
import type { listRunFamilies, StagedLine } from '@/server/import/sources';
import type { ImportEffects } from '@/server/pages/importEffect';
import type { RunActs } from './useImportRun';

export interface RunFindings {
  readonly rejections: readonly { row: number; reason: string }[];
  readonly staged: Readonly<Record<'new' | 'changed' | 'missing', readonly StagedLine[]>>;
  readonly chosen: Readonly<Record<'new' | 'changed' | 'missing', number>>;
  readonly families: Awaited<ReturnType<typeof listRunFamilies>>;
  readonly kept: readonly { sku: string; kept: readonly string[] }[];
  /** Effect on each feed; undefined once the import is applied. */
  readonly effects: ImportEffects | undefined;
}

export interface RunSideProps {
  run: RunRow;
  preview: RunPreview | undefined;
  findings: RunFindings;
  targets: readonly Attribute[];
  acts: RunActs;
}
