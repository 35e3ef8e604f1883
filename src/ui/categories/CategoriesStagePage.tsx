'use client';
import { Button } from '@mantine/core';
import { useDebouncedCallback } from '@mantine/hooks';
import { useState } from 'react';
import { counted } from '@/core/formatting/formatting';
import type { CategoriesStage } from '@/server/stages/categories';
import { useDraft } from '../draft/useDraft';
import { FilterChips } from '../kit/display/FilterChips';
import { useAddress } from '../kit/hooks/useAddress';
import { Link } from '../kit/Link';
import { Chooser } from './CategoryChooser';
import { Review } from './SuggestionReview';
import './categories.css';
import { useShown } from '../kit/hooks/useOpen';
import { SearchField } from '../kit/inputs/inputs';

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
            ['toPlace', `To map ${counts.toPlace}`],
            ['all', `All ${counts.all}`],
            ['leftOut', `Excluded ${counts.leftOut}`],
          ]}
          current={show}
          onPick={setShown}
        />
        <SearchField
          name="Search the channel's categories"
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
              title="Suggested categories"
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
                  Set their merchant category
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
