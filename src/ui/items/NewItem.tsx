'use client';
import { Button } from '@mantine/core';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { addItem } from '@/actions/catalog';
import { useCatalog } from './useCatalog';
import './item.css';

/** The few things an item cannot be without. */
export function NewItem({ families }: { families: readonly { code: string; name: string }[] }) {
  const acts = useCatalog();
  const router = useRouter();
  const [form, setForm] = useState({ sku: '', name: '', price: '', family: '' });
  const field = (name: keyof typeof form, label: string, hint = '') => (
    <label className="form-row">
      <span>{label}</span>
      <input
        className="cell"
        aria-label={label}
        value={form[name]}
        list={name === 'family' ? 'families' : undefined}
        onChange={(event) => setForm({ ...form, [name]: event.target.value })}
      />
      <span className="small muted">{hint}</span>
    </label>
  );
  return (
    <form
      className="panel new-form"
      onSubmit={(event) => {
        event.preventDefault();
        acts.run(
          () => addItem(form.sku, { name: form.name, price: form.price }, form.family.trim() || null),
          () => router.push(`/items/${encodeURIComponent(form.sku.trim())}`),
        );
      }}
    >
      {field('sku', 'SKU', 'names this item and no other')}
      {field('name', 'Name', form.family ? 'left empty, the family’s counts' : '')}
      {field('price', 'Price', 'in the catalog’s currency')}
      {field('family', 'Family', 'only where it is a variant')}
      <datalist id="families">
        {families.map(({ code, name }) => (
          <option key={code} value={code}>
            {name}
          </option>
        ))}
      </datalist>
      <span>
        <Button
          type="submit"
          disabled={form.sku.trim() === '' || (form.name.trim() === '' && form.family === '') || acts.busy}
        >
          Add item
        </Button>
      </span>
    </form>
  );
}
