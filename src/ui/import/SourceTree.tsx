'use client';
import { Fragment } from 'react';
import type { ColumnView } from '@/server/import/preview';

interface SourceTreeProps {
  columns: readonly ColumnView[];
  sampled: number;
  /** Columns that the open attribute reads already. */
  taken: ReadonlySet<string>;
  onTake(column: string): void;
  tree: boolean;
}

/** What a file holds, with counts and samples: columns, or the branches of a tree. A click takes a value. */
export function SourceTree({ columns, sampled, taken, onTake, tree }: SourceTreeProps) {
  let open: string[] = [];
  return (
    <ul className="source-tree" aria-label={tree ? 'Values of a record' : 'Columns'}>
      {columns.map(({ name, filled, samples, repeated }) => {
        const names = tree ? name.split('/') : [name];
        const above = names.slice(0, -1);
        const same = above.findIndex((one, i) => open[i] !== one);
        const from = same < 0 ? above.length : same;
        open = above;
        return (
          <Fragment key={name}>
            {above.slice(from).map((branch, i) => (
              <li className="branch" key={branch} style={{ paddingLeft: 10 + (from + i) * 14 }}>
                {branch}
              </li>
            ))}
            <li>
              <button
                type="button"
                className="plain leaf"
                style={{ paddingLeft: 10 + above.length * 14 }}
                aria-pressed={taken.has(name)}
                aria-label={`Take ${name}`}
                onClick={() => onTake(name)}
              >
                <b className="cut">{names.at(-1)}</b>
                <span className="number muted">
                  {filled}/{sampled}
                </span>
                <span className="samples cut">
                  {repeated && <span className="muted">several, </span>}
                  {samples.join(' · ') || 'always empty'}
                </span>
              </button>
            </li>
          </Fragment>
        );
      })}
    </ul>
  );
}
