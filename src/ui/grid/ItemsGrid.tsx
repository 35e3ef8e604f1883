'use client';
import { Button } from '@mantine/core';
import { useDebouncedCallback } from '@mantine/hooks';
import { useMemo, useState } from 'react';
import { mergeIntoFamily, moveToFamily } from '@/actions/catalog/families';
import { archive, setCells } from '@/actions/catalog/items';
import type { ItemSelection } from '@/actions/inputs';
import type { Attribute } from '@/core/catalog/attributes';
import { counted, formatNumber, plural } from '@/core/formatting/formatting';
import type { SavedView } from '@/server/items/savedViews';
import { useAddress } from '../kit/hooks/useAddress';
import { inDialog, useCatalog } from '../kit/hooks/useCatalog';
import { PromptButton } from '../kit/inputs/PromptButton';
import { inLanguage, languagesOf, TextsIn } from '../kit/inputs/TextsIn';
import { Link } from '../kit/Link';
import { LinkButton } from '../kit/LinkButton';
import { BulkEdit } from './BulkEdit';
import { columnsOf, startingColumns, startingPinned } from './columns';
import { GridBody } from './GridBody';
import { GridHead } from './GridHead';
import { ColumnsMenu, ExportMenu, ViewsMenu } from './GridMenus';
import { useItemRows } from './useItemRows';
import './grid.css';
import { Empty } from '../kit/Empty';
import { SearchField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';

interface ItemsGridProps {
  attributes: readonly Attribute[];
  views: readonly SavedView[];
  archived: number;
}

/** All items. Sorting, filters, columns and pins stand in the address; marked items can be changed together. */
export function ItemsGrid({ attributes, views, archived }: ItemsGridProps) {
  const { query, go } = useAddress();
  const known = useMemo(() => new Map(attributes.map((one) => [one.code, one])), [attributes]);
  const shown = useMemo(() => query.get('columns')?.split(',') ?? startingColumns, [query]);
  const pinned = useMemo(() => query.get('pinned')?.split(',') ?? startingPinned, [query]);
  const language = query.get('language') ?? '';
  const columns = useMemo(() => {
    const spoken = (codes: readonly string[]) => codes.map((code) => inLanguage(code, language, known));
    return columnsOf(spoken(shown), spoken(pinned), known);
  }, [shown, pinned, known, language]);
  const filters = useMemo(
    () =>
      Object.fromEntries(
        [...query.entries()].flatMap(([name, text]) =>
          name.startsWith('f.') ? [[name.slice(2), text]] : [],
        ),
      ),
    [query],
  );
  const search = query.get('q') ?? '';
  const only = query.get('only') ?? '';
  const requested = useMemo(
    () => ({
      columns: columns.map(({ code }) => code).join(','),
      q: search,
      sort: query.get('sort') ?? '',
      descending: query.get('descending') === '1' ? '1' : '0',
      filters: JSON.stringify(filters),
      only,
    }),
    [columns, search, query, filters, only],
  );
  const base = useMemo(() => new URLSearchParams(requested).toString(), [requested]);
  const items = useItemRows(base);
  const acts = useCatalog(items.refresh);
  const [marks, setMarks] = useState<ReadonlySet<string>>(new Set());
  const [all, setAll] = useState(false);
  const [bulk, setBulk] = useState(false);
  const total = items.state?.total ?? 0;
  const count = all ? total : marks.size;
  const selection: ItemSelection = useMemo(
    () => (all ? { query: requested } : { skus: [...marks] }),
    [all, requested, marks],
  );
  const unmark = () => {
    setMarks(new Set());
    setAll(false);
    setBulk(false);
  };
  const mark = (sku: string, on: boolean) => {
    setAll(false);
    const next = new Set(all ? [...(items.state?.rows.values() ?? [])].map((row) => row.sku) : marks);
    if (on) next.add(sku);
    else next.delete(sku);
    setMarks(next);
  };
  const find = useDebouncedCallback((text: string) => go({ q: text || undefined }), 250);
  const filtered = Object.keys(filters).length > 0 || search !== '' || only !== '';
  return (
    <>
      <header className="page-head">
        <h1>Items</h1>
        <span className="sub" role="status">
          {items.state
            ? filtered
              ? `${formatNumber(total)} of ${formatNumber(items.state.all)}`
              : formatNumber(total)
            : '…'}
        </span>
        <div className="acts">
          {filtered && (
            <TextButton
              onClick={() =>
                go({
                  q: undefined,
                  only: undefined,
                  ...Object.fromEntries(Object.keys(filters).map((code) => [`f.${code}`, undefined])),
                })
              }
            >
              Clear filters
            </TextButton>
          )}
          <SearchField
            name="Find items"
            start={search}
            onFind={find}
            width={180}
            placeholder="Find in these columns"
          />
          <TextsIn languages={languagesOf(attributes)} all="the shop’s language" />
          <ViewsMenu views={views} query={query.toString()} acts={acts} />
          <ColumnsMenu
            attributes={attributes}
            shown={shown}
            pinned={pinned}
            onShow={(codes) => go({ columns: codes.join(',') })}
            onPin={(codes) => go({ pinned: codes.join(',') || 'none' })}
          />
          <ExportMenu base={base} />
          <LinkButton variant="default" href="/items/new">
            Add item
          </LinkButton>
          <LinkButton href="/sources">Import items</LinkButton>
        </div>
      </header>
      {count > 0 && (
        <div className="mark-bar" role="status">
          <b>{counted(count, 'item')} selected</b>
          {!all && total > marks.size && (
            <TextButton onClick={() => setAll(true)}>Select all {formatNumber(total)}</TextButton>
          )}
          <Button variant="default" onClick={() => setBulk(!bulk)} aria-expanded={bulk}>
            Bulk edit
          </Button>
          <PromptButton
            label="Move to a family"
            ask="Code of the family; empty to remove them"
            optional
            disabled={acts.busy}
            onAnswer={(code) => inDialog(acts, () => moveToFamily(selection, code || null), unmark)}
          />
          {count > 1 && (
            <PromptButton
              label="Create a family"
              ask="Code of the new family"
              disabled={acts.busy}
              onAnswer={(code) => inDialog(acts, () => mergeIntoFamily(selection, code), unmark)}
            />
          )}
          <Button
            variant="default"
            disabled={acts.busy}
            onClick={() => acts.run((press) => archive(selection, true, press), unmark)}
          >
            Archive {formatNumber(count)}
          </Button>
          <TextButton onClick={unmark}>Clear selection</TextButton>
        </div>
      )}
      {bulk && count > 0 && (
        <BulkEdit
          attributes={attributes}
          selection={selection}
          count={count}
          acts={acts}
          onDone={() => setBulk(false)}
        />
      )}
      <GridBody
        columns={columns}
        items={items}
        marked={(sku) => all || marks.has(sku)}
        onMark={mark}
        onChange={(cells, refused) => acts.run((press) => setCells(cells, press), undefined, refused)}
        head={
          <GridHead
            columns={columns}
            filters={filters}
            sort={requested.sort}
            descending={requested.descending === '1'}
            allMarked={count > 0 && count === total}
            onMarkAll={(on) => {
              setMarks(new Set());
              setAll(on);
            }}
          />
        }
        empty={
          <Empty title={items.state?.all === 0 ? 'No items yet.' : 'No item matches.'}>
            {items.state?.all === 0 ? (
              <LinkButton href="/sources">Import the first items</LinkButton>
            ) : (
              <span className="muted">Clear a filter above, or search for another word.</span>
            )}
          </Empty>
        }
      />
      {archived > 0 && (
        <p className="small muted" style={{ paddingTop: 6 }}>
          <Link className="text" href="/items/archived">
            {formatNumber(archived)} archived
          </Link>{' '}
          {plural(archived, 'item is', 'items are')} in no feed.
        </p>
      )}
    </>
  );
}
