'use client';
import { Fragment, useMemo, useState } from 'react';
import { setForm } from '@/actions/import';
import type { Attribute } from '@/core/catalog/attributes';
import { guessAttribute } from '@/core/catalog/quality/survey';
import { type Composition, fromAttribute } from '@/core/compose/composition';
import { counted } from '@/core/formatting/formatting';
import { headingWords } from '@/core/import/headings/headings';
import { columnsOf } from '@/core/import/mapping/mapping';
import { importSteps } from '@/core/import/mapping/suggestMapping';
import type { ColumnView, RunPreview } from '@/server/import/preview';
import type { RunRow } from '@/server/import/runs';
import { NewAttribute } from '../attributes/NewAttribute';
import { CompositionEditor } from '../composition/CompositionEditor';
import { CompositionSummary } from '../composition/CompositionSummary';
import { Bar } from '../kit/display/Bar';
import { useOpen } from '../kit/hooks/useOpen';
import { SearchField, SelectField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';
import type { RunActs } from './run/useImportRun';
import { SourceTree } from './SourceTree';
import { tablesOf, ValueMappings } from './ValueMappings';

interface MappingRowsProps {
  run: RunRow;
  preview: RunPreview | undefined;
  targets: readonly Attribute[];
  acts: RunActs;
}

const spoken = (column: string): string => column.split('/').join(' › ');
/** The last name of a path, an attribute with the element it stands on. */
const brief = (column: string): string => {
  const names = column.split('/');
  const last = names.at(-1) ?? column;
  return last.startsWith('@') ? `${names.at(-2) ?? ''} ${last}`.trim() : last;
};

/** What is chosen for a column that no attribute is for. */
const ofItsOwn = '+';

/** An attribute of a column's own: called as it is, of the kind its cells have, found by that name in the next file. */
function attributeFor({ name, samples }: ColumnView) {
  const { name: heading, unit } = headingWords(brief(name));
  const { label, kind } = guessAttribute(heading, samples);
  const measured = kind === 'measure' || (kind === 'number' && unit !== undefined);
  return {
    label: label.charAt(0).toUpperCase() + label.slice(1),
    kind: measured ? ('measure' as const) : kind,
    more: { synonyms: [heading], ...(measured && unit ? { unit } : {}) },
  };
}

/** One row an attribute: what fills it, how far, and its first value. Opened, a row shows the file to pick from. */
export function MappingRows({ run, preview, targets, acts }: MappingRowsProps) {
  const { open, toggle } = useOpen('attribute');
  const [find, setFind] = useState('');
  const { fields, key } = acts.mapping;
  const columns = preview?.columns ?? [];
  const options = useMemo(() => columns.map(({ name }) => ({ code: name, label: spoken(name) })), [columns]);
  const used = new Set(Object.values(fields).flatMap(columnsOf));
  const unused = columns.filter(({ name }) => !used.has(name));
  const set = (attribute: string, composition: Composition | null) =>
    acts.change({ edit: 'field', attribute, composition });
  const put = (column: string, attribute: string) =>
    set(
      attribute,
      fromAttribute(
        column,
        importSteps(
          targets.find(({ code }) => code === attribute),
          column,
        ),
      ),
    );
  /** The unused column that an attribute of its own is being made for. */
  const [making, setMaking] = useState<string>();
  const lines = targets
    .filter(({ code, label }) => `${label} ${code}`.toLowerCase().includes(find.toLowerCase()))
    .sort(
      (a, b) =>
        Number(a.code !== key) - Number(b.code !== key) || Number(!fields[a.code]) - Number(!fields[b.code]),
    );
  return (
    <>
      <div className="bench-head">
        <h2 className="grow">
          {Object.keys(fields).length} attributes filled
          {unused.length > 0 && (
            <span className="muted small">, {counted(unused.length, 'column')} unused</span>
          )}
        </h2>
        {!acts.locked && (
          <TextButton
            small
            title="Discards this mapping and suggests a new one"
            onClick={() => acts.act((press) => setForm(run.id, {}, press))}
          >
            Suggest again
          </TextButton>
        )}
        <SearchField name="Find an attribute" start={find} onFind={setFind} width={140} />
      </div>
      <div className="bench-body" aria-busy={acts.busy}>
        <div className="intake-row head">
          <span>Attribute</span>
          <span>Source</span>
          <span>Filled</span>
          <span>First value</span>
        </div>
        {unused.slice(0, 12).map((column) => (
          <Fragment key={column.name}>
            <div className="intake-row unused">
              <span className="muted">unused</span>
              <span className="row" style={{ minWidth: 0 }}>
                <span className="chip attribute cut" title={spoken(column.name)}>
                  {brief(column.name)}
                </span>
                <Perhaps
                  fits={preview?.fits[column.name] ?? []}
                  targets={targets.filter(({ code }) => fields[code] === undefined)}
                  locked={acts.locked}
                  onTake={(attribute) => put(column.name, attribute)}
                />
                <SelectField
                  name={`${column.name} becomes`}
                  value=""
                  prompt="do not import"
                  options={[
                    [ofItsOwn, 'new attribute …'] as const,
                    ...targets.map(({ code, label }) => [code, label, fields[code] !== undefined] as const),
                  ]}
                  onChange={(attribute) =>
                    attribute === ofItsOwn ? setMaking(column.name) : put(column.name, attribute)
                  }
                  disabled={acts.locked}
                />
              </span>
              <span className="number muted">{column.filled}</span>
              <span className="samples cut">{column.samples.join(' · ') || 'always empty'}</span>
            </div>
            {making === column.name && (
              <div className="making">
                <NewAttribute
                  {...attributeFor(column)}
                  onLeave={() => setMaking(undefined)}
                  onMade={(attribute) => {
                    setMaking(undefined);
                    set(
                      attribute.code,
                      fromAttribute(column.name, importSteps(attribute, column.name, column.samples)),
                    );
                  }}
                />
              </div>
            )}
          </Fragment>
        ))}
        {lines.map(({ code, label }) => {
          const composition = fields[code];
          const lacking = preview?.lacking.filter((one) => one.attribute === code) ?? [];
          const filled = preview?.filled[code];
          const isOpen = open === code;
          const tables = composition ? tablesOf(composition) : [];
          return (
            <div key={code}>
              <div className={`intake-row ${isOpen ? 'open' : ''}`}>
                <button
                  type="button"
                  className="plain name cut"
                  aria-expanded={isOpen}
                  aria-label={`${label}, ${composition ? 'filled' : 'empty'}`}
                  onClick={() => toggle(code)}
                >
                  <b>{label}</b>
                  {code === key && (
                    <span className="small muted" style={{ marginLeft: 5 }}>
                      key
                    </span>
                  )}
                </button>
                <span
                  className="cut"
                  title={composition ? columnsOf(composition).map(spoken).join(', ') : ''}
                >
                  {composition ? (
                    <CompositionSummary composition={composition} labelOf={brief} />
                  ) : (
                    <span className={code === key ? 'tone-blocker' : 'muted'}>
                      {code === key ? 'to map' : '–'}
                    </span>
                  )}
                </span>
                <span className="coverage">
                  {composition && (
                    <>
                      <Bar
                        segments={[
                          { share: (filled?.count ?? 0) / Math.max(preview?.sampled ?? 1, 1), kind: 'ready' },
                        ]}
                      />
                      <span className="number">{filled?.count ?? 0}</span>
                    </>
                  )}
                </span>
                <span className="mono cut">{filled?.sample}</span>
              </div>
              {lacking.map(({ column }) => (
                <p className="small tone-blocker" key={column} style={{ padding: '2px 12px 5px' }}>
                  This file has no “{spoken(column)}”.
                </p>
              ))}
              {isOpen && (
                <div className="editor">
                  <div className="editor-box">
                    <h3>
                      <span>{label} has the source</span>
                      <span className="why">
                        {whyFilled(preview, composition, code) ?? 'Choose a value below, or combine several.'}
                      </span>
                    </h3>
                    {!acts.locked && (
                      <CompositionEditor
                        composition={composition}
                        attributes={options}
                        onChange={(next) => set(code, next)}
                      />
                    )}
                    {composition && tables.length === 0 && !acts.locked && (
                      <TextButton small onClick={() => set(code, withTable(composition, code))}>
                        {code === 'category'
                          ? 'Map their categories by a value mapping'
                          : 'Map its values by a value mapping'}
                      </TextButton>
                    )}
                    {tables.map((table) => (
                      <ValueMappings
                        key={table.name}
                        table={table}
                        words={table.columns.flatMap((column) => preview?.words[column] ?? [])}
                        entries={acts.mapping.tables[table.name] ?? {}}
                        disabled={acts.locked}
                        onChange={(word, to) => acts.change({ edit: 'word', table: table.name, word, to })}
                      />
                    ))}
                    <SourceTree
                      columns={columns}
                      sampled={preview?.sampled ?? 0}
                      tree={acts.mapping.kind === 'xml' || acts.mapping.kind === 'json'}
                      taken={new Set(composition ? columnsOf(composition) : [])}
                      onTake={(column) =>
                        !acts.locked &&
                        set(
                          code,
                          composition
                            ? withPart(composition, column)
                            : fromAttribute(
                                column,
                                importSteps(
                                  targets.find((one) => one.code === code),
                                  column,
                                ),
                              ),
                        )
                      }
                    />
                  </div>
                </div>
              )}
            </div>
          );
        })}
      </div>
    </>
  );
}

/** Why a column fills an attribute, where that was suggested. */
function whyFilled(preview: RunPreview | undefined, composition: Composition | undefined, attribute: string) {
  const [column, ...more] = composition ? columnsOf(composition) : [];
  if (column === undefined || more.length > 0) return undefined;
  return preview?.fits[column]?.find((one) => one.attribute === attribute)?.reasons.join('; ');
}

interface PerhapsProps {
  fits: RunPreview['fits'][string];
  /** The attributes that nothing fills yet. */
  targets: readonly Attribute[];
  locked: boolean;
  onTake(attribute: string): void;
}

/** What an unused column may be, to be taken with one press. */
function Perhaps({ fits, targets, locked, onTake }: PerhapsProps) {
  const [fit] = fits.filter(({ attribute }) => targets.some(({ code }) => code === attribute));
  const label = targets.find(({ code }) => code === fit?.attribute)?.label;
  return fit && label && !locked ? (
    <TextButton small title={fit.reasons.join('; ')} onClick={() => onTake(fit.attribute)}>
      {label}?
    </TextButton>
  ) : null;
}

/** A composition with one more part, in its first alternative. */
const withPart = (composition: Composition, column: string): Composition => ({
  ...composition,
  alternatives: composition.alternatives.map((alternative, i) =>
    i === 0
      ? { ...alternative, parts: [...alternative.parts, { attribute: column, glue: ' ', steps: [] }] }
      : alternative,
  ),
});

/** A composition that looks its result up in a value table; words the table does not have are kept. */
const withTable = (composition: Composition, table: string): Composition => ({
  ...composition,
  alternatives: composition.alternatives.map((alternative) => ({
    ...alternative,
    parts: alternative.parts.map((part) =>
      'attribute' in part
        ? { ...part, steps: [...part.steps, { step: 'lookUp' as const, table, otherwise: 'keep' as const }] }
        : part,
    ),
  })),
});
