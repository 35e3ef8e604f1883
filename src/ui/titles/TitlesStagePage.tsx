'use client';
import { Button } from '@mantine/core';
import { useDebouncedCallback } from '@mantine/hooks';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef } from 'react';
import { attributesOfParts } from '@/core/compose/composition';
import { formatNumber } from '@/core/formatting/formatting';
import { beginTitle, type PlanEdit, titleBeginnings, withOptions } from '@/core/plans/edit';
import type { TitlePattern } from '@/core/titles/pattern';
import type { TitlesStage } from '@/server/stages/titles';
import { PartStrip } from '../composition/PartStrip';
import { useEdited } from '../draft/useDraft';
import { Gauge } from '../kit/display/Gauge';
import { useAddress } from '../kit/hooks/useAddress';
import { Link } from '../kit/Link';
import { LengthChart } from './LengthChart';
import { TermsPanel } from './TermsPanel';
import { HandTitle, PatternOf } from './TitlePattern';
import { Abbreviations, AttributeList, SearchWordsSetting, Worth } from './TitleSettings';
import './titles.css';
import { CheckboxField, SearchField, SelectField } from '../kit/inputs/inputs';

/** The Titles stage: one pattern from parts, fitted to the channel's limit, and every title it makes. */
export function TitlesStagePage({ stage }: { stage: TitlesStage }) {
  const { query, go, withChange } = useAddress();
  const branch = stage.patternOf?.code;
  const {
    draft,
    shown: pattern,
    save: saveEdit,
  } = useEdited(stage.pattern, (known, edit) =>
    edit.edit === 'title' && edit.branch === branch ? withOptions(known, edit.set) : known,
  );
  const save = (set: TitleOptions) =>
    void saveEdit({ edit: 'title', set, ...(branch === undefined ? {} : { branch }) });
  const search = useDebouncedCallback((find: string) => go({ find: find || undefined }), 200);
  const used = attributesOfParts(pattern.parts);
  const choices = stage.attributes
    .filter(({ code }) => used.includes(code))
    .map(({ code, label }) => ({ value: code, label }));
  const list = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: stage.rows.length,
    getScrollElement: () => list.current,
    estimateSize: () => 59,
    overscan: 8,
  });
  const sample = query.get('sample');
  return (
    <>
      <div className="bench-head">
        <PatternOf stage={stage} />
        <span className="grow muted small cut">
          {stage.fit} of {stage.total} fit, {stage.droppedCount} lose a part, {stage.shortenedCount} are
          shortened
        </span>
        <SearchField name="Find a title" start={query.get('find') ?? ''} onFind={search} width={170} />
      </div>
      <div className="title-pattern" aria-busy={draft.busy}>
        {!stage.started && (
          <div className="row">
            <span className="tone-blocker">No pattern yet.</span>
            {titleBeginnings.map(({ name, parts }) => (
              <Button
                key={name}
                variant="default"
                onClick={() =>
                  save(beginTitle(parts, (code) => stage.attributes.some((one) => one.code === code)))
                }
              >
                {name}
              </Button>
            ))}
          </div>
        )}
        <PartStrip
          parts={pattern.parts}
          attributes={stage.attributes}
          absent={new Set(stage.absent)}
          onChange={(parts) => parts.length > 0 && save({ parts })}
        />
        <div className="settings">
          <AttributeList
            label="Drop first if too long"
            chosen={pattern.dropFirst}
            choices={choices}
            onChange={(dropFirst) => save({ dropFirst })}
          />
          <AttributeList
            label="Never dropped"
            chosen={pattern.keep}
            choices={choices}
            onChange={(keep) => save({ keep })}
          />
          <SelectField
            name="Capitals:"
            shown="beside"
            value={pattern.letterCase}
            options={[
              ['asis', 'unchanged'] as const,
              ['sentence', 'first letter'] as const,
              ['title', 'title case'] as const,
            ]}
            onChange={(text) => save({ letterCase: text as TitlePattern['letterCase'] })}
          />
          <Abbreviations pattern={pattern} onSave={(abbreviations) => save({ abbreviations })} />
          <SearchWordsSetting stage={stage} />
          <Worth pattern={pattern} choices={choices} onSave={(worth) => save({ worth })} />
          <CheckboxField
            name="No repetition"
            title="Drops a part that the name contains"
            checked={pattern.sayOnce}
            onChange={(on) => save({ sayOnce: on })}
          />
          <CheckboxField
            name="Distinguish variants"
            title="Axis values are never cut, and are added where the pattern lacks them"
            checked={pattern.tellApart}
            onChange={(on) => save({ tellApart: on })}
          />
          {stage.phone !== undefined && (
            <CheckboxField
              name="Name first on phones"
              title={`Drops what precedes the name if the name would end after ${stage.phone} characters`}
              checked={pattern.nameOnPhone}
              onChange={(on) => save({ nameOnPhone: on })}
            />
          )}
        </div>
      </div>
      <div className="titles-grid">
        <div className="titles-list" ref={list}>
          <div className="title-head">
            <span>Length</span>
            <span>Title</span>
            <span>Dropped</span>
          </div>
          {stage.rows.length === 0 && <div className="empty">No title matches.</div>}
          <div style={{ height: rows.getTotalSize(), position: 'relative' }}>
            {rows.getVirtualItems().map(({ index, start }) => {
              const row = stage.rows[index];
              if (!row) return null;
              return (
                <Link
                  key={row.sku}
                  href={withChange({ sample: row.sku })}
                  scroll={false}
                  className="title-row"
                  aria-current={row.sku === sample}
                  style={{ position: 'absolute', top: start, left: 0, right: 0 }}
                >
                  <span className="length mono">{row.length}</span>
                  <span style={{ minWidth: 0 }}>
                    <span className="clamp2" title={row.title}>
                      {row.title}
                    </span>
                    <Gauge length={row.length} most={stage.most} phone={stage.phone} />
                  </span>
                  <span
                    className={`small cut ${row.over ? 'tone-blocker' : row.byHand === 'changed' ? 'tone-risk' : 'muted'}`}
                    title={whatWent(row)}
                  >
                    {row.byHand
                      ? row.byHand === 'changed'
                        ? 'by hand, item changed'
                        : 'by hand'
                      : row.over
                        ? `still ${row.length - stage.most} over`
                        : whatWent(row)}
                  </span>
                </Link>
              );
            })}
          </div>
        </div>
        <div className="titles-side">
          {stage.current && stage.started && <HandTitle key={stage.current.sku} current={stage.current} />}
          {stage.terms && <TermsPanel terms={stage.terms} filled={stage.searchWords} />}
          <h2>Lengths before fitting</h2>
          <LengthChart steps={stage.histogram} most={stage.most} phone={stage.phone} />
          <h2>Duplicate titles</h2>
          {stage.twins.length === 0 && <span className="muted">No duplicates.</span>}
          {stage.twins.slice(0, 4).map((twin) => (
            <Link key={twin.title} href={withChange({ find: twin.title })} scroll={false} className="small">
              <b>{twin.count}×</b> {twin.title}
            </Link>
          ))}
          {stage.twinCount > 4 && (
            <span className="small muted">and {formatNumber(stage.twinCount - 4)} more</span>
          )}
          {stage.phoneText && (
            <>
              <h2>Phone preview</h2>
              <div className="phone-box">
                {stage.phoneText.shown}
                {stage.phoneText.rest && <span className="muted">…</span>}
              </div>
            </>
          )}
        </div>
      </div>
    </>
  );
}

type TitleOptions = Extract<PlanEdit, { edit: 'title' }>['set'];

/** What a title lost to the limit, in words. */
const whatWent = ({ dropped, shortened, abbreviated }: TitlesStage['rows'][number]): string =>
  [
    ...dropped,
    shortened && `${shortened} shortened`,
    abbreviated.length > 0 && `${abbreviated.join(', ')} abbreviated`,
  ]
    .filter(Boolean)
    .join(', ');
