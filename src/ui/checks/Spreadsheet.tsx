'use client';
import { Button, FileButton, Menu } from '@mantine/core';
import { useRef } from 'react';
import { counted } from '@/core/formatting/formatting';
import type { WorkbookReport } from '@/server/pages/workbook';
import { useAddress } from '../kit/hooks/useAddress';
import { useCatalog } from '../kit/hooks/useCatalog';
import { TextButton } from '../kit/inputs/TextButton';

/** What the page's address says of the listings that it shows. */
const shownBy = ['fix', 'category', 'find', 'show'] as const;

/** The listings that are shown, out to a spreadsheet and back. */
export function Spreadsheet({ feed, onReport }: { feed: string; onReport(report: WorkbookReport): void }) {
  const { query } = useAddress();
  const catalog = useCatalog(undefined, false);
  const reset = useRef<() => void>(null);
  const requested = new URLSearchParams(
    shownBy.flatMap((name) => {
      const value = query.get(name);
      return value === null ? [] : [[name, value]];
    }),
  );
  const href = (format: string) => `/api/feeds/${feed}/workbook?format=${format}&${requested}`;
  const bring = (file: File | null) => {
    if (!file) return;
    catalog.run(async () => {
      const response = await fetch(`/api/feeds/${feed}/workbook`, { method: 'POST', body: file });
      const answer = await response.json();
      reset.current?.();
      if (!response.ok) return { ok: false, reason: 'refused', words: answer.error };
      onReport(answer);
      return { ok: true, words: answer.words, ...(answer.edit !== undefined && { edit: answer.edit }) };
    });
  };
  return (
    <FileButton resetRef={reset} accept=".xlsx,.xls,.ods,.csv,.tsv,.txt" onChange={bring}>
      {(file) => (
        <Menu position="bottom-end">
          <Menu.Target>
            <Button variant="default" size="compact-md" loading={catalog.busy}>
              Spreadsheet
            </Button>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item component="a" href={href('xlsx')} download>
              Export as a workbook
            </Menu.Item>
            <Menu.Item component="a" href={href('csv')} download>
              Export as CSV
            </Menu.Item>
            <Menu.Item component="a" href={`/api/feeds/${feed}/workbook?translations=1`} download>
              Export texts to translate
            </Menu.Item>
            <Menu.Item onClick={file.onClick}>Import a workbook …</Menu.Item>
          </Menu.Dropdown>
        </Menu>
      )}
    </FileButton>
  );
}

/** What became of a table that was brought back. */
export function ImportedWorkbook({ report, onClose }: { report: WorkbookReport; onClose(): void }) {
  const { words, refused, refusedCount, ignored, emptied, file } = report;
  return (
    <section className="fix brought-back" aria-label="Result of the import">
      <div className="row">
        <h2 className="grow">{words.charAt(0).toUpperCase() + words.slice(1)}</h2>
        <TextButton onClick={onClose}>Close</TextButton>
      </div>
      {refusedCount > 0 && (
        <>
          <p className="small">
            <span className="tone-blocker">{counted(refusedCount, 'cell')} rejected.</span>{' '}
            {file && (
              <a
                className="text"
                download="rejected.xlsx"
                href={`data:application/vnd.openxmlformats-officedocument.spreadsheetml.sheet;base64,${file}`}
              >
                Export them with reasons
              </a>
            )}
          </p>
          <ul className="small">
            {refused.slice(0, 12).map(({ row, sku, label, text, why }) => (
              <li key={`${row} ${label}`}>
                Row {row}, {sku && <span className="mono">{sku}</span>} {label}
                {text !== '' && <> “{text.slice(0, 60)}”</>}: {why}
              </li>
            ))}
          </ul>
        </>
      )}
      {emptied > 0 && (
        <p className="small muted">{counted(emptied, 'cell')} left empty: the catalog’s values stay.</p>
      )}
      {ignored.length > 0 && (
        <p className="small muted">Not imported, no such attribute: {ignored.join(', ')}.</p>
      )}
    </section>
  );
}
