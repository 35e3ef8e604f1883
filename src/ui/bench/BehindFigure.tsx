'use client';
import Link from 'next/link';
import type { Behind, BehindKind } from '@/server/feeds/behind';
import { useAddress } from './useAddress';

const names: Readonly<Record<BehindKind, string>> = {
  filled: 'Filled',
  failing: 'Refused by a check',
  missing: 'Empty where they must not be',
  bad: 'With trouble',
  empty: 'Empty, not needed',
};

/** The items behind a figure of a field. */
export function BehindFigure({ behind, feed }: { behind: Behind; feed: string }) {
  const { withChange } = useAddress();
  return (
    <>
      <div className="bench-head">
        <h2>{behind.label}</h2>
        <div className="chipset grow">
          {(Object.keys(names) as BehindKind[])
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
        <table className="plain">
          <thead>
            <tr>
              <th>SKU</th>
              <th>Name</th>
              <th>Category</th>
              <th>{behind.label}</th>
            </tr>
          </thead>
          <tbody>
            {behind.lines.map(({ sku, name, category, value, words }) => (
              <tr key={sku}>
                <td>
                  <Link className="mono text" href={`/items/${encodeURIComponent(sku)}`}>
                    {sku}
                  </Link>
                </td>
                <td>{name}</td>
                <td className="muted">{category}</td>
                <td>
                  <span className="mono">{value}</span>
                  {words.map((one) => (
                    <div className="small tone-blocker" key={one}>
                      {one}
                    </div>
                  ))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {behind.lines.length === 0 && (
          <div className="empty">
            <b>No item stands behind this figure.</b>
          </div>
        )}
        {behind.lines.length < behind.total && (
          <p className="muted sheet-foot">
            The first {behind.lines.length} of {behind.total}.
          </p>
        )}
      </div>
    </>
  );
}
