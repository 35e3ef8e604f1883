'use client';
import { Button } from '@mantine/core';
import { IconArrowDown, IconArrowUp, IconX } from '@tabler/icons-react';
import { useState } from 'react';
import { freeName } from '@/core/channels/drafting';
import type { Field, Sheet } from '@/core/channels/sheet';
import { NeedMark } from '../fields/NeedMark';
import { FilterChips } from '../kit/display/FilterChips';
import { Link } from '../kit/Link';
import { Terms } from './DeliveryTerms';
import { FieldForm } from './FieldForm';
import { takes } from './takes';
import { type SheetState, useSheet } from './useSheet';
import './channels.css';
import { AutosaveTextField, TextField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';

interface SheetEditorProps {
  code: string;
  sheet: Sheet;
  taxonomy: string;
  version: number;
  revision: number;
  branches: number;
  /** No version of the channel counts yet. */
  first: boolean;
}

const parts = { fields: 'Fields', tree: 'Categories', terms: 'Market and delivery', json: 'JSON' } as const;
type Part = keyof typeof parts;

/** The open version of a requirement sheet: as a form, and as the JSON it is. */
export function SheetEditor({ code, version, branches, first, ...start }: SheetEditorProps) {
  const state = useSheet(code, start);
  const [part, setPart] = useState<Part>('fields');
  const { sheet } = state;
  return (
    <>
      <header className="page-head">
        <h1>{sheet.name}</h1>
        <span className="sub">
          version {version}, not in use yet; {sheet.fields.length} fields, {branches} categories
        </span>
        <div className="acts">
          {state.canUndo && <TextButton onClick={state.undo}>Undo</TextButton>}
          <Button component={Link} href={`/channels/${code}/versions`}>
            {first ? 'Review and accept' : 'See changes'}
          </Button>
        </div>
      </header>
      <section className="panel scrolling sheet-editor" aria-busy={state.busy} aria-label="Requirement sheet">
        <div className="bench-head">
          <FilterChips
            options={(Object.keys(parts) as Part[]).map((key) => [key, parts[key]] as const)}
            current={part}
            onPick={setPart}
          />
          <span className="muted small">{state.busy ? 'saving …' : state.error === '' ? 'saved' : ''}</span>
        </div>
        {state.error !== '' && (
          <p className="tone-blocker refusal" role="alert">
            Not saved: {state.error}
          </p>
        )}
        {part === 'fields' && <Fields state={state} />}
        {part === 'tree' && <Tree state={state} />}
        {part === 'terms' && <Terms state={state} />}
        {part === 'json' && <Json state={state} />}
      </section>
    </>
  );
}

function Fields({ state }: { state: SheetState }) {
  const { sheet, setSheet } = state;
  const [open, setOpen] = useState<number>();
  const put = (fields: Field[]) => setSheet({ fields });
  const move = (at: number, by: number) => {
    const fields = [...sheet.fields];
    const [field] = fields.splice(at, 1);
    if (field) fields.splice(at + by, 0, field);
    setOpen(undefined);
    put(fields);
  };
  const add = () => {
    const code = freeName('field', new Set(sheet.fields.map((field) => field.code)), '_');
    setOpen(sheet.fields.length);
    put([
      ...sheet.fields,
      {
        code,
        label: 'New field',
        meaning: 'What it is for.',
        group: 'Basics',
        kind: 'text',
        need: 'may',
        synonyms: [],
        unique: false,
        stable: false,
        notForFamilies: false,
      },
    ]);
  };
  return (
    <>
      {sheet.fields.map((field, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a field's code can be edited; its place is its identity here
        <div key={at} className={open === at ? 'sheet-field open' : 'sheet-field'}>
          <div className="sheet-field-line">
            <NeedMark need={field.need} here={field.mustWhen !== undefined} because={field.because} />
            <button
              type="button"
              className="plain name cut"
              aria-expanded={open === at}
              onClick={() => setOpen(open === at ? undefined : at)}
            >
              <b>{field.label}</b> <span className="mono muted small">{field.code}</span>
            </button>
            <span className="muted cut">{takes(field)}</span>
            <span className="muted small cut">{field.role ?? ''}</span>
            <span className="row">
              <button
                type="button"
                className="plain"
                aria-label={`Move ${field.label} up`}
                disabled={at === 0}
                onClick={() => move(at, -1)}
              >
                <IconArrowUp size={14} />
              </button>
              <button
                type="button"
                className="plain"
                aria-label={`Move ${field.label} down`}
                disabled={at === sheet.fields.length - 1}
                onClick={() => move(at, 1)}
              >
                <IconArrowDown size={14} />
              </button>
              <button
                type="button"
                className="plain"
                aria-label={`Remove ${field.label}`}
                onClick={() => {
                  setOpen(undefined);
                  put(sheet.fields.filter((_, i) => i !== at));
                }}
              >
                <IconX size={14} />
              </button>
            </span>
          </div>
          {open === at && (
            <FieldForm
              field={field}
              fields={sheet.fields.filter((_, i) => i !== at)}
              onChange={(changed) => put(sheet.fields.map((old, i) => (i === at ? changed : old)))}
            />
          )}
        </div>
      ))}
      <div className="sheet-foot">
        <Button variant="default" onClick={add}>
          Add field
        </Button>
      </div>
    </>
  );
}

function Tree({ state }: { state: SheetState }) {
  return (
    <div className="sheet-foot column">
      <p className="muted">
        The channel’s categories as delimited text: code, parent, one name_xx column per language, synonyms
        separated by |. Leave it empty for a channel without categories.
      </p>
      <AutosaveTextField
        name="Category tree"
        mono
        exact
        rows={22}
        value={state.taxonomy}
        placeholder={'code,parent,name_en,synonyms\npots,,Pots,planter|flowerpot'}
        onSave={state.setTaxonomy}
      />
    </div>
  );
}

function Json({ state }: { state: SheetState }) {
  const written = JSON.stringify(state.sheet, null, 2);
  const [text, setText] = useState(written);
  return (
    <div className="sheet-foot column">
      <TextField name="The sheet as JSON" value={text} onChange={setText} mono rows={24} />
      <div className="row">
        <Button disabled={text === written || state.busy} onClick={() => state.putText(text)}>
          Save the JSON
        </Button>
        {text !== written && <TextButton onClick={() => setText(written)}>Revert to saved</TextButton>}
      </div>
    </div>
  );
}
