'use client';
import { Button } from '@mantine/core';
import { useState } from 'react';
import { storeAttribute } from '@/actions/catalog';
import { type Attribute, attributeKinds } from '@/core/catalog/attributes';
import { fromAttribute } from '@/core/compose/composition';
import type { FieldRow } from '@/server/feeds/fieldsStage';
import { codeOf, kindNames } from '../attributes/AttributeForm';
import { useDraft } from '../draft/useDraft';
import { Choice, Words } from '../kit/inputs';
import { TextButton } from '../kit/TextButton';
import { useCatalog } from '../kit/useCatalog';

const usualKinds: Readonly<Record<string, Attribute['kind']>> = { choice: 'choice', category: 'text' };

/** Makes an attribute the catalog lacks, and fills the field from it at once. */
export function NewAttribute({ row }: { row: FieldRow }) {
  const acts = useCatalog(undefined, false);
  const draft = useDraft();
  const [label, setLabel] = useState<string>();
  const [kind, setKind] = useState<Attribute['kind']>(
    attributeKinds.find((one) => one === (usualKinds[row.kind] ?? row.kind)) ?? 'text',
  );
  if (label === undefined)
    return <TextButton onClick={() => setLabel(row.label)}>Make an attribute for it</TextButton>;
  const code = codeOf(label);
  return (
    <form
      className="row"
      onSubmit={(event) => {
        event.preventDefault();
        acts.run(
          () => storeAttribute({ code, label: label.trim(), kind, synonyms: [] }, true),
          () => {
            setLabel(undefined);
            void draft.save({ edit: 'fields', fields: { [row.code]: fromAttribute(code) } });
          },
        );
      }}
    >
      <Words name="Label of the new attribute" value={label} onChange={setLabel} />
      <Choice
        name="Kind of the new attribute"
        value={kind}
        options={attributeKinds.map((one) => [one, kindNames[one]] as const)}
        onChange={(next) => setKind(attributeKinds.find((one) => one === next) ?? 'text')}
      />
      <Button type="submit" variant="default" disabled={code === '' || acts.busy}>
        Make it and fill from it
      </Button>
      <TextButton onClick={() => setLabel(undefined)}>Not now</TextButton>
    </form>
  );
}
