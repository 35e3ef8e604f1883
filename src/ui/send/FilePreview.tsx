'use client';
import { useState } from 'react';
import { counted } from '@/core/formatting/formatting';
import type { FileView } from '@/server/submissions/feedFile';
import { useDraft } from '../draft/useDraft';
import { FilterChips } from '../kit/display/FilterChips';
import { useAddress } from '../kit/hooks/useAddress';
import { Link } from '../kit/Link';

const ways = [
  ['table', 'Table'],
  ['text', 'Raw'],
] as const;

/** The file as it would leave: its first rows, each with its item, or the text itself; and the whole of it to save. */
export function FilePreview({ file }: { file: FileView }) {
  const { withChange } = useAddress();
  const draft = useDraft();
  const [way, setWay] = useState<(typeof ways)[number][0]>('table');
  return (
    <section className="file-look" aria-label="The file">
      <div className="said">
        <b>{file.label} file</b>
        <span className="muted small">
          {file.name}, {counted(file.count, 'listing')}
          {file.ofDraft && ', from the draft: nothing is published yet'}
        </span>
        {file.begins !== undefined && <FilterChips options={ways} current={way} onPick={setWay} />}
        <a
          className="text small"
          style={{ marginLeft: 'auto' }}
          href={`/api/feeds/${draft.feed}/file`}
          download
        >
          Download file
        </a>
      </div>
      {way === 'text' && file.begins !== undefined ? (
        // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is reached by keyboard
        <section className="file-text" tabIndex={0} aria-label="First lines of the file">
          <pre className="mono small">{file.begins}</pre>
        </section>
      ) : (
        // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is reached by keyboard
        <section className="file-table" tabIndex={0} aria-label="First rows of the file">
          <table className="plain">
            <thead>
              <tr>
                <th scope="col">Item</th>
                {file.columns.map(({ code, name, label }) => (
                  <th key={code} scope="col" title={label} className="mono">
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {file.rows.map(({ sku, cells }) => (
                <tr key={sku}>
                  <th scope="row">
                    <Link className="text mono" href={withChange({ sample: sku })} scroll={false}>
                      {sku}
                    </Link>
                  </th>
                  {cells.map((cell, at) => (
                    <td key={file.columns[at]?.code} className="cut" title={cell}>
                      {cell}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
    </section>
  );
}
