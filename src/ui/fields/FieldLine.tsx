'use client';
import { Button } from '@mantine/core';
import { type KeyboardEvent, useEffect, useRef } from 'react';
import { needWords } from '@/core/channels/versions';
import { formatNumber } from '@/core/formatting/formatting';
import type { FieldRow, FieldsStage } from '@/server/stages/fields';
import { CompositionEditor } from '../composition/CompositionEditor';
import { CompositionSummary } from '../composition/CompositionSummary';
import { useDraft } from '../draft/useDraft';
import { CoverageBar } from '../kit/display/CoverageBar';
import { useAddress } from '../kit/hooks/useAddress';
import { Link } from '../kit/Link';
import { AttributeFor } from './AttributeFor';
import { drilldownHref } from './drilldown';
import { NeedMark } from './NeedMark';
import { PerCategory } from './PerCategory';

export interface FieldLineProps {
  row: FieldRow;
  stage: FieldsStage;
  open: boolean;
  labelOf(code: string): string;
  onToggle(): void;
}

export function FieldLine({ row, stage, open, labelOf, onToggle }: FieldLineProps) {
  const line = useRef<HTMLDivElement>(null);
  const { query, path } = useAddress();
  const draft = useDraft();
  useEffect(() => {
    if (!open) return;
    // The editor as far as it fits, its field in any case.
    line.current?.nextElementSibling?.scrollIntoView({ block: 'nearest' });
    line.current?.scrollIntoView({ block: 'nearest' });
  }, [open]);
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.target !== event.currentTarget) return;
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      const lines = [...document.querySelectorAll<HTMLElement>('[data-field-line]')];
      lines[
        lines.indexOf(event.currentTarget as HTMLElement) + (event.key === 'ArrowDown' ? 1 : -1)
      ]?.focus();
    }
  };
  const [best] = row.suggestions;
  const sample = query.get('sample');
  const stageHref = (stageKey: string) =>
    `${path.replace(/\/fields$/, `/${stageKey}`)}${sample ? `?sample=${sample}` : ''}`;
  return (
    <>
      {/* biome-ignore lint/a11y/useKeyWithClickEvents: the button inside is the keyboard's way; the row is only a larger target for the mouse */}
      {/* biome-ignore lint/a11y/noStaticElementInteractions: as above */}
      <div
        ref={line}
        className={`field-grid field-row ${open ? 'open' : ''} ${row.changed ? 'changed' : ''}`}
        onClick={onToggle}
      >
        <span>
          <NeedMark need={row.need} here={row.here} because={row.because} />
        </span>
        <button
          type="button"
          data-field-line
          className="plain name cut"
          aria-expanded={open}
          aria-label={`${row.label}, ${needWords[row.need]}`}
          onClick={(event) => {
            event.stopPropagation();
            onToggle();
          }}
          onKeyDown={onKeyDown}
        >
          <b>{row.label}</b>
          <span className="mono">{row.code}</span>
        </button>
        <span className="cut">
          {row.elsewhere === 'titles' ? (
            <span className="chip attribute">Title pattern</span>
          ) : row.elsewhere === 'categories' ? (
            <span className="chip attribute">Category mapping</span>
          ) : row.composition ? (
            <CompositionSummary composition={row.composition} labelOf={labelOf} />
          ) : (
            <span className="summary">
              {row.toFill && <span className="tone-blocker">to map</span>}
              {best && (
                <>
                  <span className="muted small">suggested:</span>
                  <span className="chip attribute">{best.label}</span>
                </>
              )}
              {!row.toFill && !best && <span className="muted">–</span>}
            </span>
          )}
        </span>
        <Link
          className="coverage-link"
          href={drilldownHref(
            path,
            row.code,
            row.coverage.failing + row.coverage.missing > 0 ? 'bad' : 'filled',
          )}
          onClick={(event) => event.stopPropagation()}
          aria-label={`Items of ${row.label}`}
        >
          <CoverageBar coverage={row.coverage} />
        </Link>
        <span className={`mono cut ${row.sampleFails ? 'tone-blocker' : ''}`}>
          {row.sample || (row.sampleFails ? 'missing' : '')}
        </span>
      </div>
      {open && (
        <div className="editor">
          <div className="editor-box">
            <h3>
              <span>{row.label} has the source</span>
              <span className="why">{row.because ?? row.meaning}</span>
            </h3>
            {row.elsewhere ? (
              <p>
                {row.elsewhere === 'titles' ? 'Set by the title pattern. ' : 'Set by the category mapping. '}
                <Link className="text" href={stageHref(row.elsewhere)}>
                  Go to {row.elsewhere === 'titles' ? 'Titles' : 'Categories'}
                </Link>
              </p>
            ) : (
              <CompositionEditor
                composition={row.composition}
                attributes={stage.attributes}
                absent={new Set(stage.absent)}
                onChange={(composition) =>
                  void draft.save({ edit: 'fields', fields: { [row.code]: composition } })
                }
              />
            )}
            {!row.elsewhere && <PerCategory row={row} stage={stage} />}
            {row.suggestions.length > 0 && (
              <div className="editor-line">
                <span className="label">suggested</span>
                <div style={{ display: 'grid', gap: 4 }}>
                  {row.suggestions.map((one) => (
                    <span className="row" key={`${one.attribute} ${one.fallback ?? ''}`}>
                      <Button
                        variant="default"
                        onClick={() =>
                          void draft.save({ edit: 'fields', fields: { [row.code]: one.composition } })
                        }
                      >
                        Accept {one.label}
                        {one.fallback && `, if empty ${one.fallback}`}
                      </Button>
                      <b>{one.score}</b>
                      <span className="small muted">{one.reasons.join('; ')}</span>
                    </span>
                  ))}
                </div>
              </div>
            )}
            <EditorFoot row={row} valuesHref={`${path.replace(/\/fields$/, '/values')}?field=${row.code}`} />
          </div>
        </div>
      )}
    </>
  );
}

function EditorFoot({ row, valuesHref }: { row: FieldRow; valuesHref: string }) {
  const { coverage } = row;
  const gained = coverage.filled + coverage.failing - row.publishedFilled;
  const { path } = useAddress();
  return (
    <div className="editor-foot">
      {gained !== 0 && (
        <span className={gained > 0 ? 'tone-ready' : 'tone-blocker'}>
          <b>
            {gained > 0 ? '+' : '−'}
            {formatNumber(Math.abs(gained))}
          </b>{' '}
          filled
        </span>
      )}
      <Link href={drilldownHref(path, row.code, 'filled')}>
        <b>{formatNumber(coverage.filled + coverage.failing)}</b> of {formatNumber(coverage.total)} filled
      </Link>
      {coverage.failing > 0 && (
        <Link href={drilldownHref(path, row.code, 'failing')} className="tone-blocker">
          <b>{formatNumber(coverage.failing)}</b> filled, with a blocker
        </Link>
      )}
      {coverage.missing > 0 && (
        <Link href={drilldownHref(path, row.code, 'missing')} className="tone-blocker">
          <b>{formatNumber(coverage.missing)}</b> empty but required
        </Link>
      )}
      {coverage.empty > 0 && (
        <Link href={drilldownHref(path, row.code, 'empty')} className="muted">
          {formatNumber(coverage.empty)} empty, optional
        </Link>
      )}
      {row.choices && <Link href={valuesHref}>Open its value mapping</Link>}
      {!row.elsewhere && <AttributeFor row={row} />}
    </div>
  );
}
