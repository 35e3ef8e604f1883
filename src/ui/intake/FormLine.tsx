'use client';
import { setForm } from '@/actions/sources';
import type { Form } from '@/core/intake/decode';
import type { RunPreview, RunRow } from '@/server/sources/sources';
import type { RunActs } from './useRun';

const kindNames = { delimited: 'Delimited text', xlsx: 'Workbook', xml: 'XML', json: 'JSON' } as const;
const encodingNames = { 'utf-8': 'UTF-8', 'windows-1252': 'Windows-1252', 'utf-16le': 'UTF-16' } as const;
const separatorNames = { ',': 'comma', ';': 'semicolon', '\t': 'tab', '|': 'vertical bar' } as const;

interface ChooserProps {
  label: string;
  value: string;
  choices: readonly (readonly [value: string, words: string])[];
  disabled: boolean;
  onChange(value: string): void;
}

export function Chooser({ label, value, choices, disabled, onChange }: ChooserProps) {
  return (
    <label className="row small muted chooser">
      {label}
      <select
        className="cell"
        value={value}
        disabled={disabled}
        onChange={(event) => onChange(event.target.value)}
      >
        {choices.map(([code, words]) => (
          <option key={code} value={code}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

/** How the file is read: what its kind needs to be told. */
export function FormLine({
  run,
  preview,
  acts,
}: {
  run: RunRow;
  preview: RunPreview | undefined;
  acts: RunActs;
}) {
  const { mapping } = run;
  const set = (form: Partial<Form>) => acts.act(() => setForm(run.id, form));
  const common = { disabled: acts.locked || acts.busy };
  const places = (lists: RunPreview['lists'] | undefined, chosen: string, none?: string) => [
    ...(none === undefined ? [] : [['', none] as const]),
    ...(lists ?? []).map(({ path, count }) => [path, `${path || 'the whole file'} (${count})`] as const),
    ...(lists?.some(({ path }) => path === chosen) || (chosen === '' && none !== undefined)
      ? []
      : [[chosen, chosen || 'the whole file'] as const]),
  ];
  return (
    <div className="form-line">
      <b>{kindNames[mapping.kind]}</b>
      {mapping.kind !== 'xlsx' && mapping.kind !== 'json' && (
        <Chooser
          label="Encoding"
          value={mapping.encoding}
          choices={Object.entries(encodingNames)}
          onChange={(encoding) => set({ encoding: encoding as Form['encoding'] })}
          {...common}
        />
      )}
      {mapping.kind === 'delimited' && (
        <Chooser
          label="Separator"
          value={mapping.separator}
          choices={Object.entries(separatorNames)}
          onChange={(separator) => set({ separator: separator as Form['separator'] })}
          {...common}
        />
      )}
      {mapping.kind === 'xlsx' && (
        <Chooser
          label="Sheet"
          value={mapping.sheet ?? ''}
          choices={(preview?.sheets ?? [mapping.sheet ?? '']).map((name) => [name, name])}
          onChange={(sheet) => set({ sheet })}
          {...common}
        />
      )}
      {(mapping.kind === 'xlsx' || mapping.kind === 'delimited') && (
        <label className="row small muted chooser">
          Heading in row
          <input
            className="cell number"
            type="number"
            min={1}
            max={200}
            key={mapping.headingRow ?? 1}
            defaultValue={mapping.headingRow ?? 1}
            style={{ width: 44 }}
            onBlur={(event) => {
              const headingRow = Number.parseInt(event.target.value, 10);
              if (headingRow > 0 && headingRow !== (mapping.headingRow ?? 1)) set({ headingRow });
            }}
            onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
            {...common}
          />
        </label>
      )}
      {(mapping.kind === 'xml' || mapping.kind === 'json') && (
        <>
          <Chooser
            label="Records"
            value={mapping.list ?? ''}
            choices={places(preview?.lists, mapping.list ?? '')}
            onChange={(list) => set({ list })}
            {...common}
          />
          <Chooser
            label="Variants in"
            value={mapping.variants ?? ''}
            choices={places(preview?.variantLists, mapping.variants ?? '', 'none, one item each')}
            onChange={(variants) => set({ variants })}
            {...common}
          />
        </>
      )}
    </div>
  );
}
