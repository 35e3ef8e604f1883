'use client';
import { Button } from '@mantine/core';
import { useState } from 'react';
import { storeAttribute } from '@/actions/catalog/attributes';
import { attributeKinds, kindFacts, kindName } from '@/core/catalog/attributeKinds';
import type { Attribute } from '@/core/catalog/attributes';
import { useCatalog } from '../kit/hooks/useCatalog';
import { SelectField, TextField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';
import { codeOf } from './AttributeForm';

interface NewAttributeProps {
  /** What it is called and what kind it is, until somebody says otherwise. */
  label: string;
  kind: Attribute['kind'];
  /** What else is known of it: other names, the unit. */
  more?: Partial<Pick<Attribute, 'synonyms' | 'unit'>>;
  onMade(attribute: Attribute): void;
  onLeave(): void;
}

/** Makes an attribute the catalog lacks, on the spot; whoever asked fills from it, or fills it, at once. */
export function NewAttribute({ label: begun, kind: guessed, more, onMade, onLeave }: NewAttributeProps) {
  const acts = useCatalog(undefined, false);
  const [label, setLabel] = useState(begun);
  const [kind, setKind] = useState(guessed);
  const code = codeOf(label);
  return (
    <form
      className="row"
      onSubmit={(event) => {
        event.preventDefault();
        const attribute: Attribute = { synonyms: [], ...more, code, label: label.trim(), kind };
        if (!kindFacts[kind].unit) delete attribute.unit;
        acts.run(
          (press) => storeAttribute(attribute, true, press),
          () => onMade(attribute),
        );
      }}
    >
      <TextField name="Label of the new attribute" value={label} onChange={setLabel} />
      <SelectField
        name="Kind of the new attribute"
        value={kind}
        options={attributeKinds.map((one) => [one, kindName(one)] as const)}
        onChange={(next) => setKind(attributeKinds.find((one) => one === next) ?? 'text')}
      />
      <Button type="submit" variant="default" disabled={code === '' || acts.busy}>
        Create and map
      </Button>
      <TextButton onClick={onLeave}>Cancel</TextButton>
    </form>
  );
}
