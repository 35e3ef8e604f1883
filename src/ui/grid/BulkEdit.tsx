'use client';
import { Button } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useEffect, useState } from 'react';
import { bulkEdit, previewBulkEdit } from '@/actions/catalog/items';
import type { ItemSelection } from '@/actions/inputs';
import type { Attribute } from '@/core/catalog/attributes';
import { type Composition, fromAttribute } from '@/core/compose/composition';
import { counted, formatNumber } from '@/core/formatting/formatting';
import { wordDifference } from '@/core/text/difference';
import type { BulkPreview } from '@/server/catalog/itemEdits';
import { CompositionEditor } from '../composition/CompositionEditor';
import { Marked } from '../kit/display/Marked';
import type { CatalogActs } from '../kit/hooks/useCatalog';
import { coded, SelectField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';

interface BulkEditProps {
  attributes: readonly Attribute[];
  selection: ItemSelection;
  count: number;
  acts: CatalogActs;
  onDone(): void;
}

/** Changes one attribute of all marked items through a composition; shows what it does before it is done. */
export function BulkEdit({ attributes, selection, count, acts, onDone }: BulkEditProps) {
  const [attribute, setAttribute] = useState('name');
  const [composition, setComposition] = useState<Composition | null>(() => fromAttribute('name'));
  const [preview, setPreview] = useState<BulkPreview>();
  const [trouble, setTrouble] = useState('');
  const requested = JSON.stringify([attribute, composition, selection]);
  const [settled] = useDebouncedValue(requested, 250);
  useEffect(() => {
    let stale = false;
    const [code, parts, chosen] = JSON.parse(settled) as [string, Composition | null, ItemSelection];
    void previewBulkEdit(code, parts, chosen).then((answer) => {
      if (stale) return;
      setTrouble(answer.ok ? '' : answer.words);
      setPreview(answer.ok ? answer : undefined);
    });
    return () => {
      stale = true;
    };
  }, [settled]);
  const waiting = requested !== settled;
  const options = attributes.map(({ code, label }) => ({ code, label }));
  return (
    <section className="panel bulk" aria-label="Bulk edit">
      <div className="bulk-editor">
        <div className="row">
          <b>Set</b>
          <SelectField
            name="Attribute to set"
            value={attribute}
            options={coded(attributes.filter(({ code }) => code !== 'sku'))}
            onChange={(code) => {
              setAttribute(code);
              setComposition(fromAttribute(code));
            }}
          />
          of {counted(count, 'item')} to
        </div>
        <CompositionEditor
          composition={composition ?? undefined}
          attributes={options}
          onChange={setComposition}
        />
      </div>
      <div className="bulk-preview" aria-live="polite">
        {trouble && <p className="tone-blocker">{trouble}</p>}
        {preview && (
          <p>
            <b>{formatNumber(preview.count)}</b> change, {formatNumber(preview.same)} stay
            {preview.refused > 0 && (
              <span className="tone-blocker">
                , {formatNumber(preview.refused)} would be rejected and stay
              </span>
            )}
          </p>
        )}
        {preview?.examples.slice(0, 10).map(({ sku, before, after, refused }) => (
          <div key={sku} className="bulk-line">
            <span className="mono muted cut">{sku}</span>
            {refused ? (
              <span className="tone-blocker cut">{refused}</span>
            ) : (
              <span className="cut">
                {before === '' ? (
                  <mark className="new">{after.slice(0, 160)}</mark>
                ) : after === '' ? (
                  <mark className="gone">{before.slice(0, 160)}</mark>
                ) : !/\s/.test(before + after) ? (
                  <>
                    <mark className="gone">{before}</mark> <mark className="new">{after}</mark>
                  </>
                ) : (
                  <Marked pieces={wordDifference(before.slice(0, 160), after.slice(0, 160))} />
                )}
              </span>
            )}
          </div>
        ))}
      </div>
      <div className="row acts">
        <Button
          disabled={!preview || preview.count === 0 || waiting || acts.busy}
          onClick={() => acts.run((press) => bulkEdit(attribute, composition, selection, press), onDone)}
        >
          {preview && preview.count > 0 ? `Change ${counted(preview.count, 'item')}` : 'Nothing changes'}
        </Button>
        <TextButton onClick={onDone}>Close</TextButton>
      </div>
    </section>
  );
}
