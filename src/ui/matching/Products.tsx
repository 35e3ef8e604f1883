import type { ProductView } from '@/server/items/products';
import { DataTable } from '../kit/display/DataTable';
import { Empty } from '../kit/Empty';
import { Link } from '../kit/Link';

/** An item's name, which leads to it, and what tells it from its siblings. */
export function ItemName({ item }: { item: ProductView }) {
  return (
    <>
      <Link className="text" href={`/items/${encodeURIComponent(item.code)}`}>
        {item.name}
      </Link>{' '}
      <span className="muted">{item.axes.join(', ')}</span>
    </>
  );
}

interface WaresProps {
  rows: readonly ProductView[];
  /** What its code is called. */
  code: string;
  /** What its amount is called. */
  money: string;
  /** What is said where there is none. */
  empty: string;
}

/** Items or variants that nothing stands beside. */
export const Products = ({ rows, code: codeHead, money, empty }: WaresProps) => (
  <DataTable
    rows={rows}
    keyOf={({ code }) => code}
    rowHeight={37}
    columns={[
      {
        head: codeHead,
        width: 200,
        by: ({ code }) => code,
        className: 'mono small',
        cell: ({ code }) => code,
      },
      { head: 'Name', by: ({ name }) => name, cell: ({ name }) => name },
      {
        head: 'Variant',
        by: ({ axes }) => axes.join(),
        className: 'muted',
        cell: ({ axes }) => axes.join(', '),
      },
      {
        head: money,
        width: 100,
        className: 'number',
        by: ({ price }) => Number(price),
        cell: ({ price }) => price,
      },
    ]}
    empty={<Empty title={empty} />}
  />
);
