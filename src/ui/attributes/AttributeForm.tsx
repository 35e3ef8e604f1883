'use client';
import { Button } from '@mantine/core';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { storeAttribute } from '@/actions/catalog';
import { type Attribute, attributeKinds } from '@/core/catalog/attributes';
import { unitNames } from '@/core/measures/units';
import { useCatalog } from '../items/useCatalog';

export const kindNames: Record<Attribute['kind'], string> = {
  text: 'text',
  richText: 'rich text',
  number: 'number',
  measure: 'measure',
  money: 'money',
  yesNo: 'yes or no',
  choice: 'choice',
  date: 'date',
  link: 'link',
  pictures: 'pictures',
  identifier: 'identifier',
};

interface AttributeFormProps {
  attribute?: Attribute;
  families: readonly string[];
  /** How many items have a value, which keeps the kind as it is. */
  filled?: number;
  onDone?(): void;
}

/** A code from a label: "Sow-by date" → "sowByDate". */
export const codeOf = (label: string): string =>
  label
    .normalize('NFKD')
    .replace(/[^\p{L}\p{N} ]/gu, ' ')
    .replace(/[^\x20-\x7e]/g, '')
    .trim()
    .split(/\s+/)
    .map((word, i) =>
      i === 0 ? word.toLowerCase() : word.charAt(0).toUpperCase() + word.slice(1).toLowerCase(),
    )
    .join('')
    .replace(/^\d+/, '');

/** The definition of an attribute, new or known. */
export function AttributeForm({ attribute, families, filled = 0, onDone }: AttributeFormProps) {
  const acts = useCatalog();
  const router = useRouter();
  const [form, setForm] = useState({
    code: attribute?.code ?? '',
    label: attribute?.label ?? '',
    kind: attribute?.kind ?? ('text' as Attribute['kind']),
    unit: attribute?.unit ?? '',
    synonyms: attribute?.synonyms.join(', ') ?? '',
    family: attribute?.family ?? '',
  });
  const code = attribute ? form.code : form.code || codeOf(form.label);
  const save = () =>
    acts.run(
      () =>
        storeAttribute(
          {
            code,
            label: form.label.trim(),
            kind: form.kind,
            ...(form.kind === 'measure' && form.unit ? { unit: form.unit } : {}),
            synonyms: form.synonyms
              .split(',')
              .map((word) => word.trim())
              .filter((word) => word !== ''),
            ...(form.family ? { family: form.family } : {}),
            ...(attribute?.terms ? { terms: attribute.terms } : {}),
          },
          attribute === undefined,
        ),
      () => {
        onDone?.();
        if (!attribute) router.push(`/attributes/${code}`);
      },
    );
  return (
    <form
      className="panel attribute-form"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <label>
        Label
        <input
          className="cell"
          value={form.label}
          onChange={(event) => setForm({ ...form, label: event.target.value })}
        />
      </label>
      <label>
        Code
        <input
          className="cell mono"
          value={code}
          disabled={attribute !== undefined}
          pattern="[A-Za-z][A-Za-z0-9]*"
          title="Letters and digits, beginning with a letter"
          onChange={(event) => setForm({ ...form, code: event.target.value })}
        />
      </label>
      <label>
        Kind
        <select
          className="cell"
          value={form.kind}
          disabled={filled > 0}
          title={filled > 0 ? `${filled} items have a value, so the kind stays` : undefined}
          onChange={(event) => setForm({ ...form, kind: event.target.value as Attribute['kind'] })}
        >
          {attributeKinds.map((kind) => (
            <option key={kind} value={kind}>
              {kindNames[kind]}
            </option>
          ))}
        </select>
      </label>
      {form.kind === 'measure' && (
        <label>
          Unit where none is written
          <select
            className="cell"
            value={form.unit}
            onChange={(event) => setForm({ ...form, unit: event.target.value })}
          >
            <option value="">none</option>
            {unitNames.map((unit) => (
              <option key={unit} value={unit}>
                {unit}
              </option>
            ))}
          </select>
        </label>
      )}
      <label>
        For
        <input
          className="cell mono"
          list="attribute-families"
          placeholder="all items"
          value={form.family}
          onChange={(event) => setForm({ ...form, family: event.target.value })}
        />
      </label>
      <datalist id="attribute-families">
        {families.map((family) => (
          <option key={family} value={family} />
        ))}
      </datalist>
      <label className="wide">
        Other names that sources use, with commas between
        <input
          className="cell"
          value={form.synonyms}
          onChange={(event) => setForm({ ...form, synonyms: event.target.value })}
        />
      </label>
      <Button type="submit" disabled={form.label.trim() === '' || code === '' || acts.busy}>
        {attribute ? 'Save' : 'Add attribute'}
      </Button>
    </form>
  );
}
