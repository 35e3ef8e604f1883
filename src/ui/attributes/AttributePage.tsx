'use client';
import { Button } from '@mantine/core';
import { useRouter } from 'next/navigation';
import { deleteAttribute } from '@/actions/catalog/attributes';
import { formatNumber } from '@/core/formatting/formatting';
import type { AttributeDetail } from '@/server/catalog/attributes';
import { useCatalog } from '../kit/hooks/useCatalog';
import { Link } from '../kit/Link';
import { AttributeForm } from './AttributeForm';
import { itemsHref, oddWords, valueHref } from './oddWords';
import { TermList } from './TermList';
import './attributes.css';
import { DataTable } from '../kit/display/DataTable';

/** One attribute: its definition, its terms, and how it stands. */
export function AttributePage({ attribute }: { attribute: AttributeDetail }) {
  const acts = useCatalog();
  const router = useRouter();
  const { code, label, kind, quality } = attribute;
  return (
    <>
      <header className="page-head">
        <h1>{label}</h1>
        <span className="mono muted">{code}</span>
        <div className="acts">
          {quality.filled === 0 && (
            <Button
              variant="default"
              disabled={acts.busy}
              onClick={() =>
                acts.run(
                  (press) => deleteAttribute(code, press),
                  () => router.push('/attributes'),
                )
              }
            >
              Delete
            </Button>
          )}
          <Link className="text" href="/attributes">
            All attributes
          </Link>
        </div>
      </header>
      <AttributeForm
        key={JSON.stringify(attribute)}
        attribute={attribute}
        families={attribute.families}
        filled={quality.filled}
      />
      <div className="attribute-grid">
        {kind === 'choice' ? (
          <TermList code={code} terms={attribute.termLines} acts={acts} />
        ) : (
          <section className="panel scrolling" aria-label="Most frequent values">
            <div className="bench-head">
              <h2>Most frequent values</h2>
            </div>
            <DataTable
              heads={false}
              rows={quality.top.map(([value, count]) => ({ value, count }))}
              keyOf={({ value }) => value}
              columns={[
                { head: 'Value', className: 'mono', cell: ({ value }) => value.slice(0, 120) },
                {
                  head: 'Items',
                  className: 'number',
                  cell: ({ value, count }) => (
                    <Link className="text" href={valueHref(code, value)}>
                      {count}
                    </Link>
                  ),
                },
              ]}
            />
          </section>
        )}
        <section className="panel scrolling" aria-label="Quality">
          <div className="bench-head">
            <h2>
              {formatNumber(quality.filled)} filled, {formatNumber(quality.distinct)} distinct
            </h2>
          </div>
          <div className="side-list">
            {quality.odd.length === 0 && <span className="tone-ready">Nothing looks wrong.</span>}
            {quality.odd.map((one) => (
              <Link key={one.kind + one.values.join()} className="tone-risk" href={itemsHref(one.skus, code)}>
                {oddWords(one)}
              </Link>
            ))}
          </div>
        </section>
      </div>
    </>
  );
}
