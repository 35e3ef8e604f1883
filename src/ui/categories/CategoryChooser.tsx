'use client';
import { Button } from '@mantine/core';
import { useState } from 'react';
import { counted } from '@/core/formatting/formatting';
import type { CategoryOption, Restriction } from '@/server/fixes/categorySuggestions';
import type { CategoriesStage } from '@/server/stages/categories';
import { useDraft } from '../draft/useDraft';
import { Prerequisite } from '../feedSettings/Prerequisites';
import { Bar } from '../kit/display/Bar';
import { Link } from '../kit/Link';
import './categories.css';
import { Empty } from '../kit/Empty';
import { TextField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';
import { PlaceWorkbook } from './PlaceWorkbook';

export interface ChooserProps {
  stage: CategoriesStage;
  place(code: string): void;
  withChange(change: Record<string, string | undefined>): string;
}

export function Chooser({ stage, place, withChange }: ChooserProps) {
  const draft = useDraft();
  const { current, looked } = stage;
  if (current === undefined)
    return (
      <Empty
        title={
          stage.categories.length > 1
            ? 'Every item without a merchant category is mapped.'
            : 'No item has a category yet.'
        }
      >
        <Link className="text" href="/items?f.category=-">
          Set the category of items
        </Link>
      </Empty>
    );
  return (
    <>
      <div className="place-options">
        <div className="row">
          <h2 className="grow">
            {stage.searched ? `Categories found for “${current}”` : `Category of “${current}”`}
          </h2>
          <ExcludeForm category={current} />
          {stage.placed && (
            <TextButton onClick={() => void draft.save({ edit: 'place', placements: { [current]: null } })}>
              Remove the mapping
            </TextButton>
          )}
        </div>
        {stage.options.length === 0 && (
          <span className="muted">No category matches. Search with another word, or browse the columns.</span>
        )}
        {!stage.searched && !stage.placed && (stage.options[0]?.score ?? 100) < doubtful && (
          <span className="tone-risk">No close match. The nearest categories:</span>
        )}
        {stage.options.map((option) => (
          <Option
            key={option.code}
            option={option}
            looked={looked?.code === option.code}
            searched={stage.searched}
            placed={stage.placed === option.code}
            href={withChange({ at: option.code })}
            onPlace={() => place(option.code)}
          />
        ))}
      </div>
      <div className="tree-columns">
        {stage.columns.map((column) => (
          <div key={column.parent}>
            {column.entries.map((entry) => (
              <Link
                key={entry.code}
                href={withChange({ at: entry.code })}
                scroll={false}
                aria-current={entry.chosen}
              >
                <span className="cut" title={entry.name}>
                  {entry.name}
                </span>
                <span className={entry.leaf ? 'mono muted' : 'muted'}>{entry.leaf ? entry.code : '›'}</span>
              </Link>
            ))}
          </div>
        ))}
      </div>
      <div className="place-needs">
        <div className="row">
          <h2 className="grow">
            {looked?.leaf
              ? 'This category additionally asks for'
              : 'Choose a category that has no subcategories'}
          </h2>
          {looked?.leaf && stage.placed !== looked.code && (
            <Button onClick={() => place(looked.code)}>Map {counted(stage.currentItems, 'item')} here</Button>
          )}
          {looked?.leaf && stage.placed === looked.code && <span className="tone-ready">mapped here</span>}
          {looked && (
            <PlaceWorkbook key={looked.code} feed={draft.feed} place={looked.code} fields={stage.fields} />
          )}
        </div>
        {looked?.restricted && <Restricted restricted={looked.restricted} />}
        {looked?.leaf && stage.needs.length === 0 && !looked.restricted && (
          <span className="muted">No fields beyond those of every category.</span>
        )}
        {stage.needs.map((need) => (
          <div className="line" key={need.field}>
            <span className="need here">required here</span>
            <Link href={withChange({ field: need.field })} scroll={false}>
              <b>{need.label}</b>{' '}
              {need.mapped ? (
                <span className="muted small">{need.because}</span>
              ) : (
                <span className="tone-blocker">not mapped</span>
              )}
            </Link>
            <span className="coverage">
              <Bar
                wide
                segments={[
                  { share: 1 - need.lacking / need.items, kind: 'ready' },
                  { share: need.lacking / need.items, kind: 'blocked' },
                ]}
              />
              <span className={`number ${need.lacking > 0 ? 'tone-blocker' : ''}`}>
                {need.lacking === 0 ? 'all items have it' : `${need.lacking} of ${need.items} lack it`}
              </span>
            </span>
          </div>
        ))}
        <Exceptions stage={stage} />
      </div>
    </>
  );
}

/** Below this confidence, in percent, a first suggestion is called the nearest, not a good one. */
const doubtful = 25;

export function RestrictedMark({ restricted }: { restricted: Restriction }) {
  return (
    <span className={restricted.met ? 'muted' : 'tone-risk'}>
      {' '}
      restricted: {restricted.document}
      {restricted.met ? ' is met' : ''}
    </span>
  );
}

/** A branch that asks the merchant for a document, and the merchant's word that it was handed in. */
function Restricted({ restricted }: { restricted: Restriction }) {
  const { document, words, met } = restricted;
  return (
    <Prerequisite what={document} met={met}>
      <span className={met ? 'muted' : 'tone-risk'}>
        {words}. Approval handed in: <b>{document}</b>
      </span>
    </Prerequisite>
  );
}

/** Items that go elsewhere than their category. */
function Exceptions({ stage }: { stage: CategoriesStage }) {
  const draft = useDraft();
  const { looked, exceptions } = stage;
  const [single, setSingle] = useState('');
  const put = (sku: string, placement: { category: string } | { leaveOut: string } | null) =>
    void draft.save({ edit: 'exceptions', exceptions: { [sku]: placement } });
  return (
    <div className="exceptions">
      {exceptions.map(({ sku, name, words }) => (
        <div className="row" key={sku}>
          <span className="mono">{sku}</span>
          <span className="grow cut">
            {name} <span className="muted">goes to {words}</span>
          </span>
          <TextButton onClick={() => put(sku, null)}>Use its merchant category again</TextButton>
        </div>
      ))}
      {looked?.leaf && (
        <form
          className="row"
          onSubmit={(event) => {
            event.preventDefault();
            if (single.trim() !== '') put(single.trim(), { category: looked.code });
            setSingle('');
          }}
        >
          <span className="muted small">Map a single item here</span>
          <TextField name="SKU of a single item" placeholder="SKU" mono value={single} onChange={setSingle} />
          <Button type="submit" variant="default">
            Map this item here
          </Button>
        </form>
      )}
    </div>
  );
}

function Option({
  option,
  looked,
  searched,
  placed,
  href,
  onPlace,
}: {
  option: CategoryOption;
  looked: boolean;
  /** Whether it was searched for: then its figure is no confidence. */
  searched: boolean;
  placed: boolean;
  href: string;
  onPlace(): void;
}) {
  return (
    <div className={looked ? 'place-option looked' : 'place-option'}>
      <Link href={href} scroll={false} className="grow">
        <div style={{ fontWeight: 600 }} className="cut">
          {option.path} <span className="mono muted">{option.code}</span>
        </div>
        <div className="small muted cut">
          {option.learned && <b>as in {option.learned}; </b>}
          {option.matched.length > 0 ? `matched: ${option.matched.join(', ')}` : 'no word in common'}
          {option.restricted && <RestrictedMark restricted={option.restricted} />}
        </div>
      </Link>
      <Bar segments={[{ share: option.score / 100, kind: 'primary' }]} />
      <span
        className="small muted number"
        title={searched ? undefined : `${option.score} of 100 suggestions with this confidence are right`}
      >
        {option.score}
        {searched ? '' : ' %'}
      </span>
      {placed ? (
        <span className="tone-ready">mapped</span>
      ) : (
        <Button variant={looked ? 'filled' : 'default'} onClick={onPlace}>
          Map
        </Button>
      )}
    </div>
  );
}

function ExcludeForm({ category }: { category: string }) {
  const draft = useDraft();
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState('');
  if (!asking) return <TextButton onClick={() => setAsking(true)}>Exclude …</TextButton>;
  return (
    <form
      className="row"
      onSubmit={(event) => {
        event.preventDefault();
        if (reason.trim() !== '')
          void draft
            .save({ edit: 'place', placements: { [category]: { leaveOut: reason.trim() } } })
            .then(() => setAsking(false));
      }}
    >
      <TextField
        name="Reason for the exclusion"
        placeholder="Reason"
        required
        value={reason}
        onChange={setReason}
      />
      <Button type="submit" variant="default">
        Exclude
      </Button>
    </form>
  );
}
