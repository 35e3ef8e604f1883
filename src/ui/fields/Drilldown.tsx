'use client';
import type { Drilldown, DrilldownKind } from '@/server/evaluation/drilldown';
import { DataTable } from '../kit/display/DataTable';
import { Empty } from '../kit/Empty';
import { useAddress } from '../kit/hooks/useAddress';
import { Link } from '../kit/Link';

const names: Readonly<Record<DrilldownKind, string>> = {
  filled: 'Filled',
  failing: 'With a blocker',
  missing: 'Empty but required',
  bad: 'With a warning',
  empty: 'Empty, optional',
};

/** The items behind a figure of a field. */
export function DrilldownTable({ behind, feed }: { behind: Drilldown; feed: string }) {
  const { withChange } = useAddress();
  return (
    <>
      <div className="bench-head">
        <h2>{behind.label}</h2>
        <div className="chipset grow">
          {(Object.keys(names) as DrilldownKind[])
            .filter((kind) => kind !== 'bad' || behind.is === 'bad')
            .map((kind) => (
              <Link
                key={kind}
                className="filter"
                href={withChange({ is: kind })}
                aria-current={behind.is === kind ? 'true' : undefined}
              >
                {names[kind]} {behind.counts[kind]}
              </Link>
            ))}
        </div>
        <Link className="text" href={`/feeds/${feed}/fields?field=${behind.field}`}>
          Back to the field
        </Link>
      </div>
      <div className="bench-body">
        <DataTable
          rows={behind.lines}
          keyOf={({ sku }) => sku}
          empty={<Empty title="No items." />}
          columns={[
            {
              head: 'SKU',
              by: ({ sku }) => sku,
              cell: ({ sku }) => (
                <Link className="mono text" href={`/items/${encodeURIComponent(sku)}`}>
                  {sku}
                </Link>
              ),
            },
            { head: 'Name', by: ({ name }) => name, cell: ({ name }) => name },
            {
              head: 'Category',
              by: ({ category }) => category,
              cell: ({ category }) => category,
              className: 'muted',
            },
            {
              head: behind.label,
              by: ({ value }) => value,
              cell: ({ value, words }) => (
                <>
                  <span className="mono">{value}</span>
                  {words.map((one) => (
                    <div className="small tone-blocker" key={one}>
                      {one}
                    </div>
                  ))}
                </>
              ),
            },
          ]}
        />
        {behind.lines.length < behind.total && (
          <p className="muted sheet-foot">
            The first {behind.lines.length} of {behind.total}.
          </p>
        )}
      </div>
    </>
  );
}
