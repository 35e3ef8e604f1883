'use client';
import { Button, Kbd } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import { useEffect, useRef, useState } from 'react';
import { setCells } from '@/actions/catalog/items';
import { severityWords } from '@/core/checks/severity';
import type { ListingPage, ListingRow } from '@/server/pages/listing';
import { useDraft } from '../draft/useDraft';
import { useValueEdit, ValueEditing } from '../items/useValueEdit';
import { Bar } from '../kit/display/Bar';
import { FilterChips } from '../kit/display/FilterChips';
import { Gauge } from '../kit/display/Gauge';
import { Empty } from '../kit/Empty';
import { useAddress } from '../kit/hooks/useAddress';
import { type CatalogActs, useCatalog } from '../kit/hooks/useCatalog';
import { SelectField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';
import { Link } from '../kit/Link';
import { LinkButton } from '../kit/LinkButton';
import { useValueMapping } from '../values/useValueMapping';
import { Shopper } from './Shopper';
import '../fields/fields.css';
import '../titles/titles.css';
import './listing.css';

type Shown = 'wanting' | 'filled' | 'all';
const isWanting = ({ issues }: ListingRow) => issues.length > 0;
const tests: Readonly<Record<Shown, (row: ListingRow) => boolean>> = {
  wanting: isWanting,
  filled: ({ value }) => value !== '',
  all: () => true,
};

/** A complete listing: each field with its need and issues, corrected in place, and the next with one key. */
export function ListingEditor({ listing }: { listing: ListingPage }) {
  return <ListingBody key={listing.sku} listing={listing} />;
}

function ListingBody({ listing }: { listing: ListingPage }) {
  const { feed } = useDraft();
  const { go, query, withChange } = useAddress();
  const acts = useCatalog(undefined, false);
  const show = (query.get('fields') ?? 'wanting') as Shown;
  const { rows, previous, next } = listing;
  const at = (sku: string | undefined) => sku !== undefined && go({ item: sku, fields: undefined });
  useHotkeys([
    ['j', () => at(next)],
    ['k', () => at(previous)],
  ]);
  const counts = (one: Shown) => rows.filter(tests[one]).length;
  const shown = rows.filter(tests[show] ?? isWanting);
  return (
    <div className="listing">
      <div className="listing-main">
        <div className="bench-head">
          <h2 className="cut">{listing.name}</h2>
          <Link className="mono muted" href={`/items/${encodeURIComponent(listing.sku)}`}>
            {listing.sku}
          </Link>
          <span className="grow" />
          <span className="small muted">
            {listing.position > 0 ? `${listing.position} of ${listing.of}` : `none of the ${listing.of}`}{' '}
            {query.get('fix') ? 'with this issue' : 'blocked'}
          </span>
          <Button
            variant="default"
            disabled={!previous}
            onClick={() => at(previous)}
            aria-label="Previous listing"
          >
            <Kbd>K</Kbd>
          </Button>
          <Button
            disabled={!next}
            onClick={() => at(next)}
            aria-label="Next listing"
            rightSection={<Kbd>J</Kbd>}
          >
            Next
          </Button>
        </div>
        <div className="bench-head">
          <FilterChips
            options={[
              ['wanting', `Wanting ${counts('wanting')}`],
              ['filled', `Filled ${counts('filled')}`],
              ['all', `All ${rows.length}`],
            ]}
            current={show}
            onPick={(key) => go({ fields: key === 'wanting' ? undefined : key })}
          />
          <span className="grow" />
          <span className="small muted keys-hint">Enter edits, Esc cancels</span>
        </div>
        <div className="listing-rows">
          {shown.length === 0 && (
            <Empty title={show === 'wanting' ? 'No values are missing here.' : 'No values yet.'}>
              {next && (
                <LinkButton href={withChange({ item: next, fields: undefined })}>Next listing</LinkButton>
              )}
            </Empty>
          )}
          {shown.map((row) => (
            <FieldLine key={row.code} row={row} sku={listing.sku} feed={feed} acts={acts} />
          ))}
        </div>
      </div>
      <aside className="listing-side" aria-label="Status and related listings">
        <Shopper view={listing.shopper} />
        <section>
          <h2>{Math.round(listing.complete.share * 100)} % complete</h2>
          <Bar
            segments={[{ share: listing.complete.share, kind: 'primary' }]}
            label={`${Math.round(listing.complete.share * 100)} % of the required and recommended values are filled`}
          />
          {listing.complete.lacking.length > 0 && (
            <span className="small muted">
              Would add most: {listing.complete.lacking.map(({ label }) => label).join(', ')}
            </span>
          )}
        </section>
        <section>
          <h2>Status</h2>
          <ul className="stands">
            {listing.stands.map(({ words, small }) => (
              <li key={words}>
                {words}
                {small !== '' && <span className="small muted block">{small}</span>}
              </li>
            ))}
          </ul>
        </section>
        {listing.elsewhere.length > 0 && (
          <section>
            <h2>Same item in other feeds</h2>
            {listing.elsewhere.map((one) => (
              <div className="elsewhere" key={one.feed}>
                <Link href={`/feeds/${one.feed}/listings?item=${encodeURIComponent(listing.sku)}`}>
                  {one.name}
                </Link>
                <span
                  className={one.tone === 'plain' ? 'muted cut' : `tone-${one.tone} cut`}
                  title={one.words}
                >
                  {one.words}
                </span>
              </div>
            ))}
          </section>
        )}
      </aside>
    </div>
  );
}

const needClass = {
  required: 'must',
  'required here': 'here',
  recommended: 'should',
  optional: 'may',
} as const;

function FieldLine({
  row,
  sku,
  feed,
  acts,
}: {
  row: ListingRow;
  sku: string;
  feed: string;
  acts: CatalogActs;
}) {
  const { attribute, value } = row;
  const edit = useValueEdit({
    text: attribute?.text ?? '',
    acts,
    change: (next, press) =>
      setCells([{ sku, attribute: attribute?.definition.code ?? '', text: next }], press),
  });
  const opener = useRef<HTMLButtonElement>(null);
  const was = useRef(false);
  // What was opened by a key is left by a key: the place stays.
  useEffect(() => {
    if (was.current && !edit.editing) opener.current?.focus();
    was.current = edit.editing;
  }, [edit.editing]);
  return (
    <div className="field-line">
      <span className={`need ${needClass[row.need]}`} title={row.because}>
        {row.need}
      </span>
      <Link
        href={`/feeds/${feed}/${row.stage}${row.stage === 'fields' ? `?field=${row.code}&sample=${sku}` : ''}`}
      >
        <b>{row.label}</b>
      </Link>
      <div className="says">
        {edit.editing && attribute ? (
          <>
            {attribute.definition.label !== row.label && (
              <span className="small muted">{attribute.definition.label} of this item</span>
            )}
            <ValueEditing edit={edit} attribute={attribute.definition} words={attribute.words} />
          </>
        ) : attribute ? (
          <button
            ref={opener}
            type="button"
            className="plain value"
            aria-label={`Change ${row.label}`}
            onClick={edit.open}
          >
            {value === '' ? (
              <span className="muted">empty; Enter edits it</span>
            ) : (
              <span className="clamp3">{value}</span>
            )}
          </button>
        ) : (
          <span className="clamp3">{value === '' ? <span className="muted">nothing</span> : value}</span>
        )}
        {row.gauge && (
          <span className="row small muted">
            <Gauge length={row.gauge.length} most={row.gauge.most} phone={row.gauge.phone} />
            {row.gauge.length} of {row.gauge.most}
          </span>
        )}
        {row.worked && !edit.editing && (
          <span className="small muted">
            <TextButton onClick={() => edit.save(row.worked?.value ?? '')}>
              Accept “{row.worked.value}”
            </TextButton>{' '}
            {row.worked.why}
          </span>
        )}
        {row.word && <Word field={row.code} word={row.word} />}
        {row.issues.map(({ severity, words }) => (
          <span key={words} className="block">
            <b className={`tone-${severity}`}>{severityWords[severity]}</b> {words}
          </span>
        ))}
      </div>
      <span className="small muted">{row.from}</span>
    </div>
  );
}

/** A word the channel does not take: what it means is said for all items that have it. */
function Word({ field, word }: { field: string; word: NonNullable<ListingRow['word']> }) {
  const { draft, say } = useValueMapping(field, word.sharing);
  const [choice, setChoice] = useState(word.suggested);
  return (
    <span className="row">
      <span className="chip text">{word.found}</span> →
      <SelectField
        name={`${word.found} becomes`}
        value={choice}
        options={[['', 'choose …'], ...word.choices.map(({ code, label }) => [code, label] as const)]}
        onChange={setChoice}
      />
      <Button
        variant="light"
        size="compact-sm"
        disabled={choice === '' || draft.busy}
        onClick={() => say({ [word.found]: choice })}
      >
        for all {word.count} “{word.found}”
      </Button>
    </span>
  );
}
