'use client';
import { Button } from '@mantine/core';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { addFamily } from '@/actions/catalog/families';
import { formatNumber } from '@/core/formatting/formatting';
import type { FamilyLine } from '@/server/catalog/families';
import { useCatalog } from '../kit/hooks/useCatalog';
import { Link } from '../kit/Link';
import './families.css';
import { DataTable } from '../kit/display/DataTable';
import { Empty } from '../kit/Empty';
import { SearchField, TextField } from '../kit/inputs/inputs';

/** Every family with its axes and the number of its items. */
export function FamilyList({ families, loose }: { families: readonly FamilyLine[]; loose: number }) {
  const acts = useCatalog();
  const router = useRouter();
  const [find, setFind] = useState('');
  const [form, setForm] = useState<{ code: string; name: string }>();
  const shown = families.filter(({ code, name, variesBy }) =>
    `${code} ${name} ${variesBy.join(' ')}`.toLowerCase().includes(find.toLowerCase()),
  );
  return (
    <>
      <header className="page-head">
        <h1>Families</h1>
        <span className="sub">
          {formatNumber(families.length)}, and{' '}
          <Link className="text" href="/items?f.family=-">
            {formatNumber(loose)} items
          </Link>{' '}
          without a family
        </span>
        <div className="acts">
          <SearchField name="Find a family" start={find} onFind={setFind} />
          <Button
            aria-expanded={form !== undefined}
            onClick={() => setForm(form ? undefined : { code: '', name: '' })}
          >
            Add family
          </Button>
        </div>
      </header>
      {form && (
        <form
          className="panel family-form"
          onSubmit={(event) => {
            event.preventDefault();
            acts.run(
              (press) => addFamily(form.code, form.name, [], press),
              () => router.push(`/families/${encodeURIComponent(form.code.trim())}`),
            );
          }}
        >
          <TextField
            name="Code of the family"
            shown="beside"
            value={form.code}
            onChange={(text) => setForm({ ...form, code: text })}
            mono
          />
          <TextField
            name="Name of the family"
            shown="beside"
            value={form.name}
            onChange={(text) => setForm({ ...form, name: text })}
            width={280}
          />
          <Button type="submit" disabled={form.code.trim() === '' || form.name.trim() === '' || acts.busy}>
            Create family
          </Button>
        </form>
      )}
      <DataTable
        rows={shown}
        keyOf={({ code }) => code}
        rowHeight={34}
        empty={
          <div className="panel">
            <Empty title={families.length === 0 ? 'No families yet.' : 'No family matches.'}>
              <span className="muted">
                A family groups the variants of one product. Import them, or create one from items.
              </span>
            </Empty>
          </div>
        }
        columns={[
          {
            head: 'Code',
            by: ({ code }) => code,
            width: 190,
            cell: ({ code }) => (
              <Link className="mono text" href={`/families/${encodeURIComponent(code)}`}>
                {code}
              </Link>
            ),
          },
          { head: 'Name', by: ({ name }) => name, cell: ({ name }) => <b>{name}</b> },
          {
            head: 'Varies by',
            by: ({ variesBy }) => variesBy.join(' × '),
            className: 'muted',
            cell: ({ variesBy }) => variesBy.join(' × ') || '–',
          },
          {
            head: 'Items',
            by: ({ items }) => items,
            className: 'number',
            cell: ({ items }) => formatNumber(items),
          },
        ]}
      />
    </>
  );
}
