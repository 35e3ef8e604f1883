'use client';
import { Button } from '@mantine/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { addFamily } from '@/actions/catalog';
import type { FamilyLine } from '@/server/catalog/families';
import { useCatalog } from '../items/useCatalog';
import './families.css';
import { FindBox, Words } from '../kit/fields';

/** Every family with its axes and the number of its items. */
export function FamilyList({ families, loose }: { families: readonly FamilyLine[]; loose: number }) {
  const acts = useCatalog();
  const router = useRouter();
  const [find, setFind] = useState('');
  const [form, setForm] = useState<{ code: string; name: string }>();
  const scroller = useRef<HTMLDivElement>(null);
  const shown = families.filter(({ code, name, variesBy }) =>
    `${code} ${name} ${variesBy.join(' ')}`.toLowerCase().includes(find.toLowerCase()),
  );
  const lines = useVirtualizer({
    count: shown.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 34,
    overscan: 12,
  });
  return (
    <>
      <header className="page-head">
        <h1>Families</h1>
        <span className="sub">
          {families.length.toLocaleString()}, and{' '}
          <Link className="text" href="/items?f.family=-">
            {loose.toLocaleString()} items
          </Link>{' '}
          in none
        </span>
        <div className="acts">
          <FindBox name="Find a family" start={find} onFind={setFind} />
          <Button
            aria-expanded={form !== undefined}
            onClick={() => setForm(form ? undefined : { code: '', name: '' })}
          >
            Add a family
          </Button>
        </div>
      </header>
      {form && (
        <form
          className="panel family-form"
          onSubmit={(event) => {
            event.preventDefault();
            acts.run(
              () => addFamily(form.code, form.name, []),
              () => router.push(`/families/${encodeURIComponent(form.code.trim())}`),
            );
          }}
        >
          <Words
            name="Code of the family"
            shown="beside"
            value={form.code}
            onChange={(text) => setForm({ ...form, code: text })}
            mono
          />
          <Words
            name="Name of the family"
            shown="beside"
            value={form.name}
            onChange={(text) => setForm({ ...form, name: text })}
            width={280}
          />
          <Button type="submit" disabled={form.code.trim() === '' || form.name.trim() === '' || acts.busy}>
            Add family
          </Button>
        </form>
      )}
      <div className="panel scrolling" ref={scroller}>
        <div className="family-line head">
          <span>Code</span>
          <span>Name</span>
          <span>Varies by</span>
          <span className="number">Items</span>
        </div>
        {shown.length === 0 && (
          <div className="empty">
            <b>{families.length === 0 ? 'There are no families yet.' : 'No family is called that.'}</b>
            <span className="muted">
              Families come with sources, or are made of items that belong together.
            </span>
          </div>
        )}
        <div style={{ height: lines.getTotalSize(), position: 'relative' }}>
          {lines.getVirtualItems().map(({ index, start }) => {
            const one = shown[index];
            return (
              one && (
                <Link
                  key={one.code}
                  className="family-line"
                  style={{ position: 'absolute', top: start, left: 0, right: 0 }}
                  href={`/families/${encodeURIComponent(one.code)}`}
                >
                  <span className="mono cut">{one.code}</span>
                  <b className="cut">{one.name}</b>
                  <span className="muted cut">{one.variesBy.join(' × ') || '–'}</span>
                  <span className="number">{one.items}</span>
                </Link>
              )
            );
          })}
        </div>
      </div>
    </>
  );
}
