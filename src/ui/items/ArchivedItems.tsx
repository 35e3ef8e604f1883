'use client';
import { Button } from '@mantine/core';
import { archive } from '@/actions/catalog';
import type { ArchivedLine } from '@/server/catalog/itemEdits';
import { LinkButton } from '../bench/LinkButton';
import { useCatalog } from './useCatalog';

/** Items that were put away, each with a way back. */
export function ArchivedItems({ items }: { items: readonly ArchivedLine[] }) {
  const acts = useCatalog();
  if (items.length === 0)
    return (
      <div className="empty">
        <b>Nothing is archived.</b>
        <LinkButton href="/items">All items</LinkButton>
      </div>
    );
  return (
    <div className="panel">
      <table className="plain">
        <tbody>
          {items.map(({ sku, name, family }) => (
            <tr key={sku}>
              <td className="mono">{sku}</td>
              <td>{name}</td>
              <td className="muted">{family}</td>
              <td style={{ textAlign: 'right' }}>
                <Button
                  variant="default"
                  disabled={acts.busy}
                  onClick={() => acts.run(() => archive({ skus: [sku] }, false))}
                >
                  Bring back
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
