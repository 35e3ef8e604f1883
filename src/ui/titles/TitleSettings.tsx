'use client';
import { Button, MultiSelect, Popover } from '@mantine/core';
import { type ReactNode, useState } from 'react';
import type { TitlePattern } from '@/core/titles/pattern';
import type { TitlesStage } from '@/server/stages/titles';
import { useDraft } from '../draft/useDraft';
import { Link } from '../kit/Link';
import './titles.css';
import { AutosaveTextField, SelectField, TextField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';

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

export interface AbbreviationsProps {
  pattern: TitlePattern;
  onSave(changes: Record<string, string | null>): void;
}

/** Shorter forms of words, taken only where a title is too long. */
export function Abbreviations({ pattern, onSave }: AbbreviationsProps) {
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
          Used only in titles that are too long, before parts are cut or dropped.
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
            <TextButton onClick={() => onSave({ [word]: null })}>Remove</TextButton>
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

/** Which field fills itself with search words, and what is never among them. */
export function SearchWordsSetting({ stage }: { stage: TitlesStage }) {
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
    <Opening name="Search words" shown={shown ?? 'nothing'}>
      <div className="abbreviations">
        <span className="small muted">
          Words of the most searched terms, within the limit; no word twice, none of the title or brand.
        </span>
        {!stage.terms && (
          <span className="small tone-risk">
            No keywords of this feed’s language yet.{' '}
            <Link className="text" href="/keywords">
              Import a list
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
            name="Excluded words, such as competitors’ names"
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

export interface WorthProps {
  pattern: TitlePattern;
  choices: readonly { value: string; label: string }[];
  onSave(worth: TitlePattern['worth']): void;
}

/** How much a sign of each part counts where parts are cut. */
export function Worth({ pattern, choices, onSave }: WorthProps) {
  const cut = choices.filter(
    ({ value }) => !pattern.keep.includes(value) && !pattern.dropFirst.includes(value),
  );
  const set = cut.filter(({ value }) => (pattern.worth[value] ?? 1) > 1);
  return (
    <Opening
      name="Higher priority"
      shown={set.map(({ value, label }) => `${label} ×${pattern.worth[value]}`).join(', ') || 'none'}
    >
      <div className="abbreviations">
        <span className="small muted">
          When parts are cut, those with a higher priority keep their words.
        </span>
        {cut.length === 0 && <span>No part is cut: each is kept or dropped.</span>}
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

export interface AttributeListProps {
  label: string;
  chosen: readonly string[];
  choices: readonly { value: string; label: string }[];
  onChange(codes: string[]): void;
}

/** Attributes in an order, as words; a click opens the list they are chosen from. */
export function AttributeList({ label, chosen, choices, onChange }: AttributeListProps) {
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
