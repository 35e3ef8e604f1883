'use client';
import { counted } from '@/core/formatting/formatting';
import type { ListingLine } from '@/server/pages/listingList';
import { DataTable } from '../kit/display/DataTable';
import { Empty } from '../kit/Empty';
import { useAddress } from '../kit/hooks/useAddress';
import { SearchField } from '../kit/inputs/inputs';
import { Link } from '../kit/Link';

interface ListingListProps {
  lines: readonly ListingLine[];
  /** How many match, of which the first are shown. */
  total: number;
  /** An SKU that was asked for and that the feed does not have. */
  unknown?: string | undefined;
}

/** The listings of a feed, where the address names none. */
export function ListingList({ lines, total, unknown }: ListingListProps) {
  const { query, go, withChange } = useAddress();
  return (
    <>
      <div className="bench-head">
        <h2 className="grow">Listings</h2>
        <SearchField
          name="Find a listing"
          start={query.get('find') ?? ''}
          onFind={(find) => go({ find: find || undefined, item: undefined })}
          width={200}
        />
      </div>
      <div className="bench-body">
        {unknown !== undefined && (
          <p className="tone-blocker" role="alert" style={{ padding: '8px 14px' }}>
            This feed has no item {unknown}.
          </p>
        )}
        <DataTable
          rows={lines}
          keyOf={({ sku }) => sku}
          empty={<Empty title="No listing matches." />}
          columns={[
            {
              head: 'Item',
              by: ({ name }) => name,
              cell: ({ sku, name }) => <Link href={withChange({ item: sku, find: undefined })}>{name}</Link>,
            },
            { head: 'SKU', className: 'mono muted', by: ({ sku }) => sku, cell: ({ sku }) => sku },
            { head: 'State', by: ({ state }) => state, cell: ({ state }) => state },
          ]}
        />
        {total > lines.length && (
          <p className="muted" style={{ padding: '8px 14px' }}>
            The first {lines.length} of {counted(total, 'listing')}. Search to see others.
          </p>
        )}
      </div>
    </>
  );
}
