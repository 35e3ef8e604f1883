'use client';
import { setForm } from '@/actions/import';
import { type Encoding, type Form, isTable, type Separator } from '@/core/import/encoding/decode';
import type { RunPreview } from '@/server/import/preview';
import type { RunRow } from '@/server/import/runs';
import { AutosaveTextField, CheckboxField, SelectField } from '../kit/inputs/inputs';
import type { RunActs } from './run/useImportRun';

const kindNames = {
  delimited: 'Delimited text',
  fixed: 'Text in columns',
  blocks: 'Text, one value per line',
  xlsx: 'Workbook',
  html: 'Page with tables',
  xml: 'XML',
  json: 'JSON',
} as const;
const encodingNames = {
  'utf-8': 'UTF-8',
  'utf-16le': 'UTF-16',
  'utf-16be': 'UTF-16, big-endian',
  'windows-1252': 'Windows-1252, Western',
  'windows-1250': 'Windows-1250, Central European',
  'windows-1251': 'Windows-1251, Cyrillic',
  'iso-8859-2': 'ISO-8859-2, Central European',
  'iso-8859-15': 'ISO-8859-15, Western with euro',
  macintosh: 'Mac Roman',
} as const satisfies Record<Encoding, string>;
const separatorNames = {
  ',': 'comma',
  ';': 'semicolon',
  '\t': 'tab',
  '|': 'vertical bar',
  '^': 'caret',
  '~': 'tilde',
} as const satisfies Record<Separator, string>;
/** Text that nothing parts, and what is said of it instead. */
const otherTexts = { fixed: 'fixed width', blocks: 'one value per line' } as const;
const isOtherText = (kind: string): kind is keyof typeof otherTexts => kind in otherTexts;

/** How the file is read: what its kind needs to be told. */
export function FormatLine({
  run,
  preview,
  acts,
}: {
  run: RunRow;
  preview: RunPreview | undefined;
  acts: RunActs;
}) {
  const { mapping } = run;
  const set = (form: Partial<Form>) => acts.act((press) => setForm(run.id, form, press));
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
        <SelectField
          name="Encoding"
          value={mapping.encoding}
          width={186}
          shown="beside"
          options={Object.entries(encodingNames)}
          onChange={(encoding) => set({ encoding: encoding as Form['encoding'] })}
          {...common}
        />
      )}
      {(mapping.kind === 'delimited' || isOtherText(mapping.kind)) && (
        <SelectField
          name="Separator"
          value={isOtherText(mapping.kind) ? mapping.kind : mapping.separator}
          shown="beside"
          options={[...Object.entries(separatorNames), ...Object.entries(otherTexts)]}
          onChange={(chosen) =>
            set(
              isOtherText(chosen)
                ? { kind: chosen }
                : { kind: 'delimited', separator: chosen as Form['separator'] },
            )
          }
          {...common}
        />
      )}
      {mapping.kind === 'fixed' && (
        <AutosaveTextField
          name="Columns begin at"
          shown="beside"
          width={220}
          needed
          value={(mapping.starts ?? []).map((start) => start + 1).join(' ')}
          onSave={(text) => {
            const places = text.split(/[\s,;]+/).map((word) => Number.parseInt(word, 10) - 1);
            const starts = [...new Set(places.filter((place) => place >= 0))].sort((a, b) => a - b);
            if (starts.length > 0) set({ starts });
          }}
          {...common}
        />
      )}
      {(mapping.kind === 'xlsx' || mapping.kind === 'html') && (
        <SelectField
          name={mapping.kind === 'html' ? 'Table' : 'Sheet'}
          value={mapping.sheet ?? ''}
          shown="beside"
          options={(preview?.sheets ?? [mapping.sheet ?? '']).map((name) => [name, name])}
          onChange={(sheet) => set({ sheet })}
          {...common}
        />
      )}
      {isTable(mapping.kind) && (
        <AutosaveTextField
          name="Heading in row"
          shown="beside"
          type="number"
          min={1}
          max={200}
          width={58}
          needed
          value={String(mapping.headingRow ?? 1)}
          onSave={(text) => {
            const headingRow = Number.parseInt(text, 10);
            if (headingRow > 0) set({ headingRow });
          }}
          disabled={common.disabled}
        />
      )}
      {isTable(mapping.kind) && (
        <CheckboxField
          name="two rows"
          checked={mapping.headingLines === 2}
          onChange={(on) => set({ headingLines: on ? 2 : 1 })}
          {...common}
        />
      )}
      {mapping.kind === 'delimited' && (
        <CheckboxField
          name="short rows"
          checked={mapping.shortRows === true}
          onChange={(shortRows) => set({ shortRows })}
          {...common}
        />
      )}
      {isTable(mapping.kind) && (
        <CheckboxField
          name="items side by side"
          checked={mapping.turned === true}
          onChange={(turned) => set({ turned })}
          {...common}
        />
      )}
      {isTable(mapping.kind) && preview !== undefined && preview.sizes.length > 0 && (
        <CheckboxField
          name="one item per size"
          checked={(mapping.across ?? []).length > 0}
          onChange={(each) => set({ across: each ? preview.sizes : [] })}
          {...common}
        />
      )}
      {(mapping.kind === 'xml' || mapping.kind === 'json') && (
        <>
          <SelectField
            name="Records"
            value={mapping.list ?? ''}
            shown="beside"
            options={places(preview?.lists, mapping.list ?? '')}
            onChange={(list) => set({ list })}
            {...common}
          />
          <SelectField
            name="Variants in"
            value={mapping.variants ?? ''}
            shown="beside"
            options={places(preview?.variantLists, mapping.variants ?? '', 'none, one item per record')}
            onChange={(variants) => set({ variants })}
            {...common}
          />
        </>
      )}
    </div>
  );
}
