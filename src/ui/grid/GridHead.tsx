'use client';
import { useDebouncedCallback } from '@mantine/hooks';
import { IconArrowDown, IconArrowUp } from '@tabler/icons-react';
import { useAddress } from '../kit/hooks/useAddress';
import { type Column, markWidth, pictureWidth } from './columns';
import './grid.css';
import { CheckboxField, SearchField } from '../kit/inputs/inputs';

export interface GridHeadProps {
  columns: readonly Column[];
  filters: Readonly<Record<string, string>>;
  sort: string;
  descending: boolean;
  allMarked: boolean;
  onMarkAll(on: boolean): void;
}

export function GridHead({ columns, filters, sort, descending, allMarked, onMarkAll }: GridHeadProps) {
  const { go } = useAddress();
  const filter = useDebouncedCallback(
    (code: string, text: string) => go({ [`f.${code}`]: text || undefined }),
    250,
  );
  const bySort = (code: string) =>
    go(
      sort !== code
        ? { sort: code, descending: undefined }
        : descending
          ? { sort: undefined, descending: undefined }
          : { descending: '1' },
    );
  return (
    // biome-ignore lint/a11y/useSemanticElements: a virtual grid cannot be a table
    // biome-ignore lint/a11y/useFocusableInteractive: its buttons and inputs take the focus
    <div className="grid-row grid-top" role="row" aria-rowindex={1}>
      {/* biome-ignore lint/a11y/useSemanticElements: as above */}
      <div
        className="grid-cell pinned"
        role="columnheader"
        tabIndex={-1}
        style={{ width: markWidth, left: 0 }}
      >
        <CheckboxField name="Select all items" words={false} checked={allMarked} onChange={onMarkAll} />
      </div>
      {/* biome-ignore lint/a11y/useSemanticElements: as above */}
      <div
        className="grid-cell pinned"
        role="columnheader"
        tabIndex={-1}
        aria-label="Picture"
        style={{ width: pictureWidth, left: markWidth }}
      />
      {columns.map(({ code, label, width, left, counted }) => (
        // biome-ignore lint/a11y/useSemanticElements: as above
        <div
          className={left === undefined ? 'grid-cell' : 'grid-cell pinned'}
          key={code}
          role="columnheader"
          tabIndex={-1}
          aria-sort={sort === code ? (descending ? 'descending' : 'ascending') : 'none'}
          style={{ width, ...(left === undefined ? {} : { left }) }}
        >
          {counted ? (
            <span
              className="small muted cut"
              title="Share of required and recommended values that are filled, over all feeds"
            >
              {label}
            </span>
          ) : (
            <>
              <button
                type="button"
                className="plain cut"
                data-sorted={sort === code || undefined}
                onClick={() => bySort(code)}
              >
                {label}{' '}
                {sort === code && (descending ? <IconArrowDown size={12} /> : <IconArrowUp size={12} />)}
              </button>
              <SearchField
                name={`Filter ${label}`}
                start={filters[code] ?? ''}
                onFind={(text) => filter(code, text)}
                title="Part of the value; - finds empty values, =word finds exactly that value"
                placeholder=""
                width="100%"
              />
            </>
          )}
        </div>
      ))}
    </div>
  );
}
