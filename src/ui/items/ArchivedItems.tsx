'use client';
import { Button } from '@mantine/core';
import { archive } from '@/actions/catalog/items';
import type { ArchivedLine } from '@/server/catalog/itemEdits';
import { DataTable } from '../kit/display/DataTable';
import { Empty } from '../kit/Empty';
import { useCatalog } from '../kit/hooks/useCatalog';
import { LinkButton } from '../kit/LinkButton';

/** Items that were put away, each with a way back. */
export function ArchivedItems({ items }: { items: readonly ArchivedLine[] }) {
  const acts = useCatalog();
  if (items.length === 0)
    return (
      <Empty title="No archived items.">
        <LinkButton href="/items">All items</LinkButton>
      </Empty>
    );
  return (
    <div className="panel">
      <DataTable
        rows={items}
        keyOf={({ sku }) => sku}
        columns={[
          { head: 'SKU', cell: ({ sku }) => sku, by: ({ sku }) => sku, className: 'mono' },
          { head: 'Name', cell: ({ name }) => name, by: ({ name }) => name },
          {
            head: 'Family',
            cell: ({ family }) => family,
            by: ({ family }) => family ?? '',
            className: 'muted',
          },
          {
            head: '',
            cell: ({ sku }) => (
              <Button
                variant="default"
                disabled={acts.busy}
                onClick={() => acts.run((press) => archive({ skus: [sku] }, false, press))}
              >
                Restore
              </Button>
            ),
          },
        ]}
      />
    </div>
  );
}
