'use client';
import { Button } from '@mantine/core';
import { useDebouncedCallback } from '@mantine/hooks';
import { type ReactNode, useState } from 'react';
import type { CategoryOption, Restriction } from '@/server/fixes/categorySuggestions';
import type { CategoriesStage } from '@/server/stages/categories';
import { useDraft } from '../draft/useDraft';
import { Prerequisite } from '../feedSettings/Prerequisites';
import { Bar } from '../kit/display/Bar';
import { FilterChips } from '../kit/display/FilterChips';
import { useAddress } from '../kit/hooks/useAddress';
import { Link } from '../kit/Link';
import './categories.css';
import { counted } from '../kit/display/counted';
import { Empty } from '../kit/Empty';
import { useShown } from '../kit/hooks/useOpen';
import { CheckboxField, SearchField, TextField } from '../kit/inputs/inputs';
import { Confidence } from '../kit/inputs/TakeFrom';
import { TextButton } from '../kit/inputs/TextButton';
import { PlaceWorkbook } from './PlaceWorkbook';

/** The Categories stage: the merchant's categories, ranked places, the channel's tree, and what a place asks for. */
export function CategoriesStagePage({ stage }: { stage: CategoriesStage }) {
  const { query, go, withChange } = useAddress();
  const draft = useDraft();
  const [review, setReview] = useState(false);
  const counts = {
    toPlace: stage.categories.filter(({ state }) => state === 'toPlace').length,
    all: stage.categories.length,
    leftOut: stage.categories.filter(({ state }) => state === 'leftOut').length,
  };
  const { shown: show, setShown } = useShown(['all', 'toPlace', 'leftOut']);
  const search = useDebouncedCallback((find: string) => go({ find: find || undefined, at: undefined }), 200);
  const { current } = stage;
  const place = (code: string) =>
    current !== undefined &&
    void draft.save({ edit: 'place', placements: { [current]: { category: code } } });
  const shown = stage.categories.filter(
    ({ state, name }) => show === 'all' || state === show || name === current,
  );
  return (
    <>
      <div className="bench-head">
        <FilterChips
          options={[
            ['toPlace', `To place ${counts.toPlace}`],
            ['all', `All ${counts.all}`],
            ['leftOut', `Left out ${counts.leftOut}`],
          ]}
          current={show}
          onPick={setShown}
        />
        <SearchField
          name="Search the channel's tree"
          start={query.get('find') ?? ''}
          onFind={search}
          width={220}
          placeholder="Any word, any language"
        />
        {stage.likely.length > 0 && (
          <Button variant="default" onClick={() => setReview(!review)} aria-expanded={review}>
            Review {counted(stage.likely.length, 'suggestion')}
          </Button>
        )}
      </div>
      <div className="place-grid" aria-busy={draft.busy}>
        <div className="place-list">
          {shown.map((category) =>
            category.name === '' ? (
              <Link
                key=""
                href={withChange({ category: '-', at: undefined, find: undefined })}
                scroll={false}
                aria-current={current === undefined}
              >
                <span className="top">
                  Without a category <span>{category.items} items</span>
                </span>
                <span className={`small ${category.state === 'toPlace' ? 'tone-blocker' : 'muted'}`}>
                  {category.words}
                </span>
              </Link>
            ) : (
              <Link
                key={category.name}
                href={withChange({ category: category.name, at: undefined, find: undefined })}
                scroll={false}
                aria-current={category.name === current}
              >
                <span className="top">
                  {category.name} <span>{category.items} items</span>
                </span>
                <span
                  className={`small cut ${category.state === 'toPlace' ? 'tone-blocker' : 'muted'}`}
                  style={{ display: 'block' }}
                >
                  {category.words}
                </span>
              </Link>
            ),
          )}
        </div>
        <div className="place-main">
          {review && stage.likely.length > 0 ? (
            <Review
              title="Likely placements"
              lines={stage.likely.map((one) => ({
                ...one,
                key: one.category,
                beside: counted(one.items, 'item'),
              }))}
              from={stage.likelyFrom}
              of={['category', 'categories']}
              onPlace={(placements) => draft.save({ edit: 'place', placements })}
              onDone={() => setReview(false)}
            />
          ) : current === undefined && stage.single.length > 0 ? (
            <Review
              title={`Items without a category${stage.singleCount > stage.single.length ? `, ${stage.single.length} of ${stage.singleCount}` : ''}`}
              lines={stage.single.map((one) => ({ ...one, key: one.sku, beside: one.name }))}
              from={stage.singleFrom}
              of={['item', 'items']}
              onPlace={(exceptions) => draft.save({ edit: 'exceptions', exceptions })}
              more={
                <Link className="text" href="/items?f.category=-">
                  Give them a category instead
                </Link>
              }
            />
          ) : (
            <Chooser stage={stage} place={place} withChange={withChange} />
          )}
        </div>
      </div>
    </>
  );
}

interface ChooserProps {
  stage: CategoriesStage;
  place(code: string): void;
  withChange(change: Record<string, string | undefined>): string;
}

function Chooser({ stage, place, withChange }: ChooserProps) {
  const draft = useDraft();
  const { current, looked } = stage;
  if (current === undefined)
    return (
      <Empty
        title={
          stage.categories.length > 1
            ? 'Every item without a category is placed.'
            : 'No item has a category yet.'
        }
      >
        <Link className="text" href="/items?f.category=-">
          Give items a category
        </Link>
      </Empty>
    );
  return (
    <>
      <div className="place-options">
        <div className="row">
          <h2 className="grow">
            {stage.searched ? `Places found for “${current}”` : `Where “${current}” belongs`}
          </h2>
          <ExcludeForm category={current} />
          {stage.placed && (
            <TextButton onClick={() => void draft.save({ edit: 'place', placements: { [current]: null } })}>
              Take the placement back
            </TextButton>
          )}
        </div>
        {stage.options.length === 0 && (
          <span className="muted">No place matches. Search with another word, or browse the columns.</span>
        )}
        {!stage.searched && !stage.placed && (stage.options[0]?.score ?? 100) < doubtful && (
          <span className="tone-risk">No good place found. The nearest are:</span>
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
            {looked?.leaf ? 'This place newly asks for' : 'Choose a category without further branches'}
          </h2>
          {looked?.leaf && stage.placed !== looked.code && (
            <Button onClick={() => place(looked.code)}>
              Place {counted(stage.currentItems, 'item')} here
            </Button>
          )}
          {looked?.leaf && stage.placed === looked.code && <span className="tone-ready">placed here</span>}
          {looked && (
            <PlaceWorkbook key={looked.code} feed={draft.feed} place={looked.code} fields={stage.fields} />
          )}
        </div>
        {looked?.restricted && <Restricted restricted={looked.restricted} />}
        {looked?.leaf && stage.needs.length === 0 && !looked.restricted && (
          <span className="muted">Nothing more than every place does.</span>
        )}
        {stage.needs.map((need) => (
          <div className="line" key={need.field}>
            <span className="need here">must here</span>
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
                {need.lacking === 0 ? 'all have it' : `${need.lacking} of ${need.items} lack it`}
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

function RestrictedMark({ restricted }: { restricted: Restriction }) {
  return (
    <span className={restricted.met ? 'muted' : 'tone-risk'}>
      {' '}
      restricted: {restricted.document}
      {restricted.met ? ' is there' : ''}
    </span>
  );
}

/** A branch that asks the merchant for a document, and the merchant's word that it was handed in. */
function Restricted({ restricted }: { restricted: Restriction }) {
  const { document, words, met } = restricted;
  return (
    <Prerequisite what={document} met={met}>
      <span className={met ? 'muted' : 'tone-risk'}>
        {words}. I have handed in: <b>{document}</b>
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
          <TextButton onClick={() => put(sku, null)}>With its category again</TextButton>
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
          <span className="muted small">Only one item here</span>
          <TextField name="SKU of a single item" placeholder="SKU" mono value={single} onChange={setSingle} />
          <Button type="submit" variant="default">
            Place this item here
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
        title={searched ? undefined : `${option.score} of 100 suggestions as sure as this are right`}
      >
        {option.score}
        {searched ? '' : ' %'}
      </span>
      {placed ? (
        <span className="tone-ready">placed</span>
      ) : (
        <Button variant={looked ? 'filled' : 'default'} onClick={onPlace}>
          Place
        </Button>
      )}
    </div>
  );
}

function ExcludeForm({ category }: { category: string }) {
  const draft = useDraft();
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState('');
  if (!asking) return <TextButton onClick={() => setAsking(true)}>Leave out …</TextButton>;
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
      <TextField name="Why it is left out" placeholder="Why?" required value={reason} onChange={setReason} />
      <Button type="submit" variant="default">
        Leave out
      </Button>
    </form>
  );
}

const confidences = [30, 50, 70, 80, 90, 95, 98] as const;

interface ReviewProps {
  title: string;
  /** What is to be placed, each with its best place. */
  lines: readonly (CategoryOption & { key: string; beside: string })[];
  /** The confidence from which lines are chosen at first. */
  from: number;
  /** What the lines are, one and several. */
  of: readonly [one: string, many: string];
  onPlace(placements: Record<string, { category: string }>): Promise<unknown>;
  onDone?(): void;
  /** What stands beside the buttons. */
  more?: ReactNode;
}

/** The best place of everything that has none, from a chosen confidence on, to be placed together. */
function Review({ title, lines, from: start, of, onPlace, onDone, more }: ReviewProps) {
  const [from, setFrom] = useState(start);
  const [turned, setTurned] = useState<ReadonlySet<string>>(new Set());
  const isOn = ({ key, score }: ReviewProps['lines'][number]) => score >= from !== turned.has(key);
  const chosen = lines.filter(isOn);
  const toggle = (key: string) => {
    const next = new Set(turned);
    if (!next.delete(key)) next.add(key);
    setTurned(next);
  };
  return (
    <div style={{ padding: '9px 14px', display: 'grid', gap: 8 }}>
      <div className="row">
        <h2 className="grow">{title}</h2>
        <Confidence
          name="chosen from confidence"
          values={confidences}
          value={from}
          onChange={(next) => {
            setFrom(next);
            setTurned(new Set());
          }}
        />
      </div>
      <table className="plain">
        <tbody>
          {lines.map((one) => (
            <tr key={one.key}>
              <td className="nowrap">
                <CheckboxField name={one.key} checked={isOn(one)} onChange={() => toggle(one.key)} />
              </td>
              <td className="muted nowrap">{one.beside}</td>
              <td>
                {one.path}
                {one.restricted && <RestrictedMark restricted={one.restricted} />}
                <div className="small muted">
                  {one.learned ? `as in ${one.learned}` : `matched: ${one.matched.join(', ')}`}
                </div>
              </td>
              <td className="muted number nowrap">{one.score} %</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="row">
        <Button
          disabled={chosen.length === 0}
          onClick={() =>
            void onPlace(Object.fromEntries(chosen.map(({ key, code }) => [key, { category: code }]))).then(
              onDone,
            )
          }
        >
          Place {counted(chosen.length, ...of)}
        </Button>
        {onDone && <TextButton onClick={onDone}>Close</TextButton>}
        {more}
      </div>
    </div>
  );
}
