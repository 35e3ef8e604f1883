'use client';
import { useState } from 'react';
import { formatFacts } from '@/core/channels/formats';
import type { Sheet } from '@/core/channels/sheet';
import { transportFacts } from '@/core/channels/transports';
import { formatNumber } from '@/core/formatting/formatting';
import type { NeedsOfItem } from '@/server/channels/sheets';
import { NeedMark } from '../fields/NeedMark';
import { useAddress } from '../kit/hooks/useAddress';
import { Link } from '../kit/Link';
import { takes } from './takes';
import './channels.css';
import { Empty } from '../kit/Empty';
import { SearchField, SelectField, TextField } from '../kit/inputs/inputs';

interface SheetPageProps {
  sheet: Sheet;
  categories: number;
  needs: NeedsOfItem | undefined;
  unknown: boolean;
}

/** A requirement sheet to read: every field with what it takes, and what an item would need here. */
export function SheetPage({ sheet, categories, needs, unknown }: SheetPageProps) {
  const { query, go } = useAddress();
  const [find, setFind] = useState('');
  const [sku, setSku] = useState(query.get('item') ?? '');
  const country = query.get('country') ?? sheet.markets[0]?.country ?? '';
  const shown = sheet.fields.filter((field) =>
    [field.label, field.code, field.meaning, ...Object.values(field.labels ?? {}), ...field.synonyms]
      .join(' ')
      .toLowerCase()
      .includes(find.toLowerCase()),
  );
  const groups = [...new Set(shown.map(({ group }) => group))];
  return (
    <>
      <header className="page-head">
        <h1>{sheet.name}</h1>
        <span className="sub">
          version {sheet.version}, since {sheet.effective}; {sheet.fields.length} fields, {categories}{' '}
          categories
        </span>
        <div className="acts">
          <SearchField name="Find a field" start={find} onFind={setFind} />
          <Link className="text" href={`/channels/${sheet.code}/versions`}>
            Versions
          </Link>
          <Link className="text" href={`/channels/${sheet.code}/edit`}>
            Change
          </Link>
          <Link className="text" href="/channels">
            All channels
          </Link>
        </div>
      </header>
      <div className="sheet-grid">
        <section className="panel scrolling" aria-label="Fields">
          {groups.map((group) => (
            <section key={group} aria-label={group}>
              <h2 className="value-head">{group}</h2>
              {shown
                .filter((field) => field.group === group)
                .map((field) => (
                  <div className="sheet-line" key={field.code}>
                    <span>
                      <NeedMark
                        need={field.need}
                        here={field.mustWhen !== undefined}
                        because={field.because}
                      />
                    </span>
                    <span>
                      <b>{field.label}</b>{' '}
                      <span className="muted">{Object.values(field.labels ?? {}).join(', ')}</span>
                      <br />
                      <span className="mono small muted">{field.code}</span>
                    </span>
                    <span>
                      {field.meaning}
                      {field.because && <span className="tone-risk"> Required {field.because}.</span>}
                      <br />
                      <span className="small muted">{takes(field)}</span>
                      {field.choices && (
                        <span className="small mono muted choices">
                          {field.choices.map(({ code }) => code).join(' · ')}
                        </span>
                      )}
                    </span>
                  </div>
                ))}
            </section>
          ))}
          {shown.length === 0 && <Empty title="No field matches." />}
        </section>
        <div className="item-side">
          <section className="panel block" aria-label="What an item needs here">
            <h2>What an item needs here</h2>
            <form
              className="row"
              onSubmit={(event) => {
                event.preventDefault();
                go({ item: sku.trim() || undefined });
              }}
            >
              <TextField
                name="SKU of the item"
                value={sku}
                onChange={setSku}
                mono
                placeholder="SKU, then Enter"
              />
              <SelectField
                name="Country"
                value={country}
                options={[...new Set(sheet.markets.map((market) => market.country))]}
                onChange={(text) => go({ country: text })}
              />
            </form>
            {unknown && <span className="tone-blocker">There is no item {query.get('item')}.</span>}
            {needs && (
              <>
                <span>
                  <b>{needs.name}</b>
                  <br />
                  <span className="small muted">{needs.place ?? 'no category is suggested for it'}</span>
                </span>
                {needs.lines.map(({ field, from, value }) => (
                  <div className="need-line" key={field.code}>
                    <span className={value === '' ? 'tone-blocker' : ''}>{field.label}</span>
                    <span className="cut" title={value}>
                      {value === '' ? (
                        <span className="tone-blocker">{from ? `${from} is empty` : 'not mapped yet'}</span>
                      ) : (
                        <span className="mono">{value}</span>
                      )}
                    </span>
                  </div>
                ))}
              </>
            )}
          </section>
          {sheet.merchant.length > 0 && (
            <section className="panel block" aria-label="Prerequisites">
              <h2>Prerequisites</h2>
              {sheet.merchant.map(({ code, label, words, countries }) => (
                <span key={code}>
                  <b>{label}</b>
                  {countries && <span className="muted"> ({countries.join(', ')})</span>}: {words}
                </span>
              ))}
            </section>
          )}
          {sheet.pictures && (
            <section className="panel block" aria-label="Pictures">
              <h2>Pictures</h2>
              <span>
                {sheet.pictures.least} to {sheet.pictures.most}
                {sheet.pictures.advised && `, ${sheet.pictures.advised} recommended`};{' '}
                {sheet.pictures.formats.join(', ')}
                {sheet.pictures.longestSide?.least &&
                  `; longest side ${sheet.pictures.longestSide.least} px or more`}
                {sheet.pictures.words && `. ${sheet.pictures.words}.`}
              </span>
            </section>
          )}
          <section className="panel block" aria-label="Rules across fields">
            <h2>Across fields</h2>
            {sheet.demands.map(({ words }) => (
              <span key={words}>{words}</span>
            ))}
            {sheet.branches.flatMap(({ under, restricted }) =>
              restricted
                ? [
                    <span key={under} className="tone-risk">
                      {restricted.words}
                    </span>,
                  ]
                : [],
            )}
            <span className="muted">
              {formatFacts[sheet.delivery.format].label}, {transportFacts[sheet.delivery.manner].label}, of{' '}
              {formatNumber(sheet.delivery.most)} at most
              {sheet.delivery.rate && `, ${sheet.delivery.rate.count} in ${sheet.delivery.rate.seconds} s`}
            </span>
          </section>
        </div>
      </div>
    </>
  );
}
