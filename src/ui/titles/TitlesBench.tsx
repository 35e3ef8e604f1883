'use client';
import { Button, MultiSelect, Popover } from '@mantine/core';
import { useDebouncedCallback } from '@mantine/hooks';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef } from 'react';
import { attributesOfParts } from '@/core/compose/composition';
import { withOptions } from '@/core/listing/edit';
import type { TitlePattern } from '@/core/titles/pattern';
import type { TitlesStage } from '@/server/feeds/titlesStage';
import { PartStrip } from '../composition/PartStrip';
import { useDraft, useEdited } from '../draft/useDraft';
import { Gauge } from '../kit/Gauge';
import { Link } from '../kit/Link';
import { useAddress } from '../kit/useAddress';
import { LengthChart } from './LengthChart';
import './titles.css';
import { Choice, FindBox, SavedWords, Tick } from '../kit/inputs';
import { TextButton } from '../kit/TextButton';

/** The Titles stage: one pattern from parts, fitted to the channel's limit, and every title it makes. */
export function TitlesBench({ stage }: { stage: TitlesStage }) {
  const { query, go, withChange } = useAddress();
  const {
    draft,
    shown: pattern,
    save: saveEdit,
  } = useEdited(stage.pattern, (known, edit) =>
    edit.edit === 'title' ? withOptions(known, edit.set) : known,
  );
  const save = (set: Partial<TitlePattern>) => void saveEdit({ edit: 'title', set });
  const search = useDebouncedCallback((find: string) => go({ find: find || undefined }), 200);
  const used = attributesOfParts(pattern.parts);
  const choices = stage.attributes
    .filter(({ code }) => used.includes(code))
    .map(({ code, label }) => ({ value: code, label }));
  const list = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: stage.rows.length,
    getScrollElement: () => list.current,
    estimateSize: () => 41,
    overscan: 8,
  });
  const sample = query.get('sample');
  return (
    <>
      <div className="bench-head">
        <span className="grow muted small">
          {stage.fit} of {stage.total} fit whole, {stage.droppedCount} lose a part, {stage.shortenedCount} are
          shortened
        </span>
        <FindBox name="Find a title" start={query.get('find') ?? ''} onFind={search} width={170} />
      </div>
      <div className="title-pattern" aria-busy={draft.busy}>
        {!stage.started && (
          <div className="row">
            <span className="tone-blocker">No pattern yet.</span>
            <Button
              variant="default"
              onClick={() =>
                save({
                  parts: [
                    { attribute: 'brand', glue: ' ', steps: [] },
                    { attribute: 'name', glue: ' ', steps: [] },
                  ],
                  keep: [],
                })
              }
            >
              Start with brand and name
            </Button>
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
            label="If too long, drop first"
            chosen={pattern.dropFirst}
            choices={choices}
            onChange={(dropFirst) => save({ dropFirst })}
          />
          <AttributeList
            label="Always kept"
            chosen={pattern.keep}
            choices={choices}
            onChange={(keep) => save({ keep })}
          />
          <Choice
            name="Capitals:"
            shown="beside"
            value={pattern.letterCase}
            options={[
              ['asis', 'as they are'] as const,
              ['sentence', 'first letter'] as const,
              ['title', 'as in a title'] as const,
            ]}
            onChange={(text) => save({ letterCase: text as TitlePattern['letterCase'] })}
          />
          <Tick name="Brand once" checked={pattern.brandOnce} onChange={(on) => save({ brandOnce: on })} />
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
                    <span className="cut" style={{ display: 'block' }} title={row.title}>
                      {row.title}
                    </span>
                    <Gauge length={row.length} most={stage.most} phone={stage.phone} />
                  </span>
                  <span
                    className={`small cut ${row.over ? 'tone-blocker' : row.byHand === 'changed' ? 'tone-risk' : 'muted'}`}
                    title={[...row.dropped, row.shortened && `${row.shortened} shortened`]
                      .filter(Boolean)
                      .join(', ')}
                  >
                    {row.byHand
                      ? row.byHand === 'changed'
                        ? 'by hand, item changed'
                        : 'by hand'
                      : row.over
                        ? `still ${row.length - stage.most} over`
                        : [...row.dropped, row.shortened && `${row.shortened} shortened`]
                            .filter(Boolean)
                            .join(', ')}
                  </span>
                </Link>
              );
            })}
          </div>
        </div>
        <div className="titles-side">
          {stage.current && stage.started && <HandTitle key={stage.current.sku} current={stage.current} />}
          <h2>Lengths before fitting</h2>
          <LengthChart steps={stage.histogram} most={stage.most} phone={stage.phone} />
          <h2>Same title twice</h2>
          {stage.twins.length === 0 && <span className="muted">No two listings share one.</span>}
          {stage.twins.slice(0, 4).map((twin) => (
            <Link key={twin.title} href={withChange({ find: twin.title })} scroll={false} className="small">
              <b>{twin.count}×</b> {twin.title}
            </Link>
          ))}
          {stage.twinCount > 4 && (
            <span className="small muted">and {(stage.twinCount - 4).toLocaleString()} more</span>
          )}
          {stage.phoneText && (
            <>
              <h2>On a phone</h2>
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

/** The title of the item at hand: the pattern's, or one that is written by hand and stays. */
function HandTitle({ current }: { current: NonNullable<TitlesStage['current']> }) {
  const draft = useDraft();
  const { sku, title, pattern, byHand } = current;
  const put = (text: string | undefined) =>
    void draft.save({
      edit: 'titleByHand',
      titles: { [sku]: text === undefined || text === pattern ? null : { text, instead: pattern } },
    });
  return (
    <section className="hand-title" aria-label="This title">
      <h2>This title</h2>
      <SavedWords name="Written by hand" shown="above" needed width="100%" value={title} onSave={put} />
      {byHand === 'changed' && (
        <span className="small tone-risk">
          The item has changed since: the pattern now makes “{pattern}”.
        </span>
      )}
      {byHand && (
        <span>
          <TextButton onClick={() => put(undefined)}>Back to the pattern</TextButton>
        </span>
      )}
    </section>
  );
}

interface AttributeListProps {
  label: string;
  chosen: readonly string[];
  choices: readonly { value: string; label: string }[];
  onChange(codes: string[]): void;
}

/** Attributes in an order, as words; a click opens the list they are chosen from. */
function AttributeList({ label, chosen, choices, onChange }: AttributeListProps) {
  const used = chosen.filter((code) => choices.some(({ value }) => value === code));
  const words = used.map((code) => choices.find(({ value }) => value === code)?.label).join(', ');
  return (
    <Popover position="bottom-start" trapFocus>
      <Popover.Target>
        <button type="button" className="plain">
          {label}: <b style={{ color: 'var(--ink)' }}>{words || 'none'}</b>
        </button>
      </Popover.Target>
      <Popover.Dropdown>
        <MultiSelect
          w={300}
          label={label}
          description="In this order"
          data={[...choices]}
          value={used}
          onChange={onChange}
          comboboxProps={{ withinPortal: false }}
        />
      </Popover.Dropdown>
    </Popover>
  );
}
