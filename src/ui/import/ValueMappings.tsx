'use client';
import { ownEntry } from '@/core/catalog/value';
import type { Composition } from '@/core/compose/composition';
import { AutosaveTextField } from '../kit/inputs/inputs';

export interface TableUse {
  readonly name: string;
  readonly otherwise: 'keep' | 'empty';
  readonly columns: readonly string[];
}

/** The value tables that a composition looks something up in, and the columns whose words they take. */
export function tablesOf(composition: Composition): TableUse[] {
  const found = new Map<string, { otherwise: 'keep' | 'empty'; columns: Set<string> }>();
  for (const alternative of composition.alternatives)
    for (const part of alternative.parts)
      if ('attribute' in part)
        for (const step of [...part.steps, ...alternative.steps, ...composition.steps])
          if (step.step === 'lookUp') {
            const use = found.get(step.table) ?? { otherwise: step.otherwise, columns: new Set<string>() };
            use.columns.add(part.attribute);
            found.set(step.table, use);
          }
  return [...found].map(([name, { otherwise, columns }]) => ({ name, otherwise, columns: [...columns] }));
}

interface ValueTablesProps {
  table: TableUse;
  words: readonly (readonly [string, number])[];
  entries: Readonly<Record<string, string>>;
  disabled: boolean;
  /** @param to nothing takes the word out of the table */
  onChange(word: string, to: string | null): void;
}

/** The source's words with their counts, and what each becomes; those left to do stand first. */
export function ValueMappings({ table, words, entries, disabled, onChange }: ValueTablesProps) {
  const known = new Map(words);
  const all = [
    ...words,
    ...Object.keys(entries).flatMap((word) => (known.has(word) ? [] : [[word, 0] as const])),
  ];
  const lines = all.sort(
    (a, b) => Number(Object.hasOwn(entries, a[0])) - Number(Object.hasOwn(entries, b[0])) || b[1] - a[1],
  );
  return (
    <section className="value-table" aria-label={`Value mapping ${table.name}`}>
      <h3>
        Table “{table.name}”{' '}
        <span className="why">
          {table.otherwise === 'keep' ? 'other values stay unchanged' : 'other values are dropped'}
        </span>
      </h3>
      {lines.map(([word, count]) => (
        <div key={word} className="row">
          <span className="mono cut word">{word}</span>
          <span className="number muted">{count || ''}</span>
          <span className="muted">→</span>
          <AutosaveTextField
            name={`${word} becomes`}
            mono
            placeholder={table.otherwise === 'keep' ? word : 'empty'}
            disabled={disabled}
            value={ownEntry(entries, word) ?? ''}
            onSave={(to) => onChange(word, to || null)}
          />
        </div>
      ))}
      {lines.length === 0 && <span className="muted">No values in the first rows.</span>}
    </section>
  );
}
