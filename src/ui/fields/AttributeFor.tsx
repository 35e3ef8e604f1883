'use client';
import { useState } from 'react';
import { attributeKinds } from '@/core/catalog/attributeKinds';
import type { Attribute } from '@/core/catalog/attributes';
import { fromAttribute } from '@/core/compose/composition';
import type { FieldRow } from '@/server/stages/fields';
import { NewAttribute } from '../attributes/NewAttribute';
import { useDraft } from '../draft/useDraft';
import { TextButton } from '../kit/inputs/TextButton';

const usualKinds: Readonly<Record<string, Attribute['kind']>> = { choice: 'choice', category: 'text' };

/** Makes an attribute for a field that nothing in the catalog is for, and fills the field from it at once. */
export function AttributeFor({ row }: { row: FieldRow }) {
  const draft = useDraft();
  const [open, setOpen] = useState(false);
  if (!open) return <TextButton onClick={() => setOpen(true)}>Create an attribute for it</TextButton>;
  return (
    <NewAttribute
      label={row.label}
      kind={attributeKinds.find((one) => one === (usualKinds[row.kind] ?? row.kind)) ?? 'text'}
      onLeave={() => setOpen(false)}
      onMade={({ code }) => {
        setOpen(false);
        void draft.save({ edit: 'fields', fields: { [row.code]: fromAttribute(code) } });
      }}
    />
  );
}
