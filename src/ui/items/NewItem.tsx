'use client';
import { Button } from '@mantine/core';
import { useForm } from '@mantine/form';
import { useRouter } from 'next/navigation';
import { addItem } from '@/actions/catalog/items';
import { useCatalog } from '../kit/hooks/useCatalog';
import { bound, TextField } from '../kit/inputs/inputs';
import './item.css';

/** The few things an item cannot be without. */
export function NewItem({ families }: { families: readonly { code: string; name: string }[] }) {
  const acts = useCatalog();
  const router = useRouter();
  const form = useForm({ initialValues: { sku: '', name: '', price: '', family: '' } });
  const { sku, name, price, family } = form.values;
  const field = (code: keyof typeof form.values, label: string, hint = '') => (
    <div className="form-row">
      <span aria-hidden>{label}</span>
      <TextField
        name={label}
        {...(code === 'family' && { among: families.map((one) => one.code) })}
        {...bound(form, code)}
      />
      <span className="small muted">{hint}</span>
    </div>
  );
  return (
    <form
      className="panel new-form"
      onSubmit={form.onSubmit(() =>
        acts.run(
          (press) => addItem(sku, { name, price }, family.trim() || null, press),
          () => router.push(`/items/${encodeURIComponent(sku.trim())}`),
        ),
      )}
    >
      {field('sku', 'SKU', 'unique to this item')}
      {field('name', 'Name', family ? 'empty: the family’s name' : '')}
      {field('price', 'Price', 'in the catalog’s currency')}
      {field('family', 'Family', 'only for a variant')}
      <span>
        <Button
          type="submit"
          disabled={sku.trim() === '' || (name.trim() === '' && family === '') || acts.busy}
        >
          Add item
        </Button>
      </span>
    </form>
  );
}
