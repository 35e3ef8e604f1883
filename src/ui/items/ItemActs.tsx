'use client';
import { Button } from '@mantine/core';
import { useRouter } from 'next/navigation';
import { moveToFamily } from '@/actions/catalog/families';
import { archive, duplicateItem } from '@/actions/catalog/items';
import { inDialog, useCatalog } from '../kit/hooks/useCatalog';
import { PromptButton } from '../kit/inputs/PromptButton';

/** What can be done with a whole item. */
export function ItemActs({
  sku,
  archived,
  family,
}: {
  sku: string;
  archived: boolean;
  family: string | undefined;
}) {
  const acts = useCatalog();
  const router = useRouter();
  return (
    <>
      <PromptButton
        label="Copy"
        ask="SKU of the copy"
        start={`${sku}-COPY`}
        disabled={acts.busy}
        onAnswer={(to) =>
          inDialog(
            acts,
            () => duplicateItem(sku, to),
            () => router.push(`/items/${encodeURIComponent(to)}`),
          )
        }
      />
      <PromptButton
        label={family ? 'Move' : 'Move to a family'}
        ask="Code of the family; empty for none"
        start={family ?? ''}
        optional
        disabled={acts.busy}
        onAnswer={(code) => inDialog(acts, () => moveToFamily({ skus: [sku] }, code || null))}
      />
      <Button
        variant="default"
        disabled={acts.busy}
        onClick={() => acts.run((press) => archive({ skus: [sku] }, !archived, press))}
      >
        {archived ? 'Restore' : 'Archive'}
      </Button>
    </>
  );
}
