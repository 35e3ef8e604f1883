'use client';
import { Button, MultiSelect, Popover } from '@mantine/core';
import { useDebouncedCallback } from '@mantine/hooks';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type ReactNode, useRef, useState } from 'react';
import { attributesOfParts } from '@/core/compose/composition';
import { beginTitle, type PlanEdit, titleBeginnings, withOptions } from '@/core/plans/edit';
import type { TitlePattern } from '@/core/titles/pattern';
import type { TermUse, TermUses, TitlesStage } from '@/server/stages/titles';
import { PartStrip } from '../composition/PartStrip';
import { useDraft, useEdited } from '../draft/useDraft';
import { Gauge } from '../kit/display/Gauge';
import { useAddress } from '../kit/hooks/useAddress';
import { Link } from '../kit/Link';
import { LengthChart } from './LengthChart';
import './titles.css';
import { AutosaveTextField, CheckboxField, SearchField, SelectField, TextField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';

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
    estimateSize: () => 41,
    overscan: 8,
  });
  const sample = query.get('sample');
  return (
    <>
      <div className="bench-head">
        <PatternOf stage={stage} />
        <span className="grow muted small cut">
          {stage.fit} of {stage.total} fit whole, {stage.droppedCount} lose a part, {stage.shortenedCount} are
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
          <SelectField
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
          <Abbreviations pattern={pattern} onSave={(abbreviations) => save({ abbreviations })} />
          <SearchWordsSetting stage={stage} />
          <Worth pattern={pattern} choices={choices} onSave={(worth) => save({ worth })} />
          <CheckboxField
            name="Say it once"
            title="A part goes where the name says it already"
            checked={pattern.sayOnce}
            onChange={(on) => save({ sayOnce: on })}
          />
          <CheckboxField
            name="Tell variants apart"
            title="What a family varies by is never cut, and is added where the pattern leaves it out"
            checked={pattern.tellApart}
            onChange={(on) => save({ tellApart: on })}
          />
          {stage.phone !== undefined && (
            <CheckboxField
              name="Name on a phone"
              title={`What stands before the name goes where the name would end behind ${stage.phone} characters`}
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
                    <span className="cut" style={{ display: 'block' }} title={row.title}>
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

/** Which listings the pattern is for: all of the feed, or those of a branch of the channel's tree. */
function PatternOf({ stage }: { stage: TitlesStage }) {
  const { query, go } = useAddress();
  const draft = useDraft();
  const { branches, branch, patternOf } = stage;
  if (branches.length === 0) return null;
  const own = branches.filter((one) => one.own);
  const others = branches.filter((one) => !one.own);
  const option = ({ code, name, count }: TitlesStage['branches'][number]) =>
    [code, `${name} (${count.toLocaleString()})`] as const;
  const put = (on: boolean) => branch && void draft.save({ edit: 'titleIn', branch: branch.code, own: on });
  return (
    <div className="row small">
      <SelectField
        name="Titles of"
        shown="beside"
        width={210}
        value={query.get('branch') ?? ''}
        options={[
          ['', 'the whole feed'] as const,
          ...(own.length > 0 ? [{ group: 'With a pattern of their own', of: own.map(option) }] : []),
          { group: 'Branches of the channel', of: others.map(option) },
        ]}
        onChange={(code) => go({ branch: code || undefined, sample: undefined })}
      />
      {branch &&
        (patternOf?.code === branch.code ? (
          <TextButton onClick={() => put(false)}>Take the feed’s pattern here again</TextButton>
        ) : (
          <>
            <span className="muted">{patternOf ? `as in ${patternOf.name}` : 'as in the whole feed'}</span>
            <TextButton onClick={() => put(true)}>Give it a pattern of its own</TextButton>
          </>
        ))}
    </div>
  );
}

/** A setting as a word with what is set, which opens. */
function Opening({ name, shown, children }: { name: string; shown: string; children: ReactNode }) {
  return (
    <Popover position="bottom-start" trapFocus>
      <Popover.Target>
        <button type="button" className="plain">
          {name}: <b style={{ color: 'var(--ink)' }}>{shown}</b>
        </button>
      </Popover.Target>
      <Popover.Dropdown>{children}</Popover.Dropdown>
    </Popover>
  );
}

interface AbbreviationsProps {
  pattern: TitlePattern;
  onSave(changes: Record<string, string | null>): void;
}

/** Shorter forms of words, taken only where a title is too long. */
function Abbreviations({ pattern, onSave }: AbbreviationsProps) {
  const known = Object.entries(pattern.abbreviations);
  const [long, setLong] = useState('');
  const [short, setShort] = useState('');
  const ready = long.trim() !== '' && short.trim() !== '' && short.trim().length < long.trim().length;
  const add = () => {
    if (!ready) return;
    onSave({ [long.trim()]: short.trim() });
    setLong('');
    setShort('');
  };
  return (
    <Opening name="Abbreviations" shown={known.length > 0 ? String(known.length) : 'none'}>
      <div className="abbreviations">
        <span className="small muted">
          Taken only where a title is too long, before anything is cut or left out.
        </span>
        {known.map(([word, form]) => (
          <div key={word} className="row">
            <span className="grow">
              {word} <span className="muted">→</span>{' '}
              <AutosaveTextField
                name={`Short for ${word}`}
                needed
                width={110}
                value={form}
                onSave={(text) => onSave({ [word]: text })}
              />
            </span>
            <TextButton onClick={() => onSave({ [word]: null })}>Take out</TextButton>
          </div>
        ))}
        <div className="row">
          <TextField name="Word" shown="above" width={150} value={long} onChange={setLong} onEnter={add} />
          <TextField
            name="Short form"
            shown="above"
            width={110}
            value={short}
            onChange={setShort}
            onEnter={add}
          />
          <Button variant="default" disabled={!ready} onClick={add}>
            Add
          </Button>
        </div>
      </div>
    </Opening>
  );
}

const termUseLabels: Record<NonNullable<TermUse>, string> = {
  title: 'title',
  highlights: 'highlights',
  description: 'description',
  searchWords: 'search words',
};

/** What shoppers type for the item at hand, what its listing lacks of it first, and the search words that fill themselves. */
function TermsPanel({ terms, filled }: { terms: TermUses; filled: TitlesStage['searchWords'] }) {
  return (
    <section aria-label="What shoppers type">
      <h2>What shoppers type</h2>
      {terms.total === 0 ? (
        <span className="muted">No term is for its category, or has a word of it.</span>
      ) : (
        <>
          <span className="small muted">
            {terms.saidCount} of {terms.total} said, {Math.round(terms.share * 100)} % of the searches
          </span>
          <ul className="terms">
            {terms.terms.map(({ term, volume, said }) => (
              <li key={term} className={said ? 'muted' : ''}>
                <span className="grow">
                  {term} {said && <span className="small">· {termUseLabels[said]}</span>}
                </span>
                <span className="mono small">{volume.toLocaleString()}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      {filled.field !== undefined && (
        <div className="search-words">
          <span className="small muted">
            Search words, {filled.length}
            {filled.most !== undefined && ` of ${filled.most}`} {filled.measure}
          </span>
          <span>{filled.value || <span className="muted">nothing left to say</span>}</span>
        </div>
      )}
    </section>
  );
}

/** Which field fills itself with search words, and what is never among them. */
function SearchWordsSetting({ stage }: { stage: TitlesStage }) {
  const draft = useDraft();
  const { field, never, fields } = stage.searchWords;
  const [unsaid, setUnsaid] = useState(never.join(', '));
  const put = (code: string, words: readonly string[]) =>
    void draft.save({
      edit: 'searchWords',
      set: code === '' ? null : { field: code, never: [...words] },
    });
  if (fields.length === 0) return null;
  const shown = fields.find(({ code }) => code === field)?.label;
  return (
    <Opening name="Search words fill" shown={shown ?? 'nothing'}>
      <div className="abbreviations">
        <span className="small muted">
          The words of the terms searched most: nothing that title or brand say, no word twice, never over the
          limit.
        </span>
        {!stage.terms && (
          <span className="small tone-risk">
            No keywords of this feed’s language yet.{' '}
            <Link className="text" href="/keywords">
              Bring a list in
            </Link>
          </span>
        )}
        <SelectField
          name="Field"
          shown="beside"
          value={field ?? ''}
          options={[['', 'none'] as const, ...fields.map(({ code, label }) => [code, label] as const)]}
          onChange={(code) => put(code, never)}
        />
        {field !== undefined && (
          <TextField
            name="Never these words, such as competitors’ names"
            shown="above"
            width="100%"
            value={unsaid}
            onChange={setUnsaid}
            onBlur={() =>
              put(
                field,
                unsaid.split(',').flatMap((word) => word.trim() || []),
              )
            }
          />
        )}
      </div>
    </Opening>
  );
}

interface WorthProps {
  pattern: TitlePattern;
  choices: readonly { value: string; label: string }[];
  onSave(worth: TitlePattern['worth']): void;
}

/** How much a sign of each part counts where parts are cut. */
function Worth({ pattern, choices, onSave }: WorthProps) {
  const cut = choices.filter(
    ({ value }) => !pattern.keep.includes(value) && !pattern.dropFirst.includes(value),
  );
  const set = cut.filter(({ value }) => (pattern.worth[value] ?? 1) > 1);
  return (
    <Opening
      name="Worth more"
      shown={set.map(({ value, label }) => `${label} ×${pattern.worth[value]}`).join(', ') || 'none'}
    >
      <div className="abbreviations">
        <span className="small muted">Where parts must be cut, those worth more keep their words.</span>
        {cut.length === 0 && <span>No part is cut: all are kept or dropped whole.</span>}
        {cut.map(({ value, label }) => (
          <SelectField
            key={value}
            name={label}
            shown="beside"
            value={String(pattern.worth[value] ?? 1)}
            options={Array.from({ length: 9 }, (_, n) => [String(n + 1), `×${n + 1}`] as const)}
            onChange={(times) => onSave({ ...pattern.worth, [value]: Number(times) })}
          />
        ))}
      </div>
    </Opening>
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
      <AutosaveTextField
        name="Written by hand"
        shown="above"
        needed
        width="100%"
        value={title}
        onSave={put}
      />
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
    <Opening name={label} shown={words || 'none'}>
      <MultiSelect
        w={300}
        label={label}
        description="In this order"
        data={[...choices]}
        value={used}
        onChange={onChange}
        comboboxProps={{ withinPortal: false }}
      />
    </Opening>
  );
}
