'use client';
import type { ReactNode } from 'react';
import { type Field, fieldKinds, fieldRoles, type Length, needs } from '@/core/channels/sheet';
import type { Condition } from '@/core/conditions/conditions';
import { ConditionEditor } from '../conditions/ConditionEditor';

interface FieldFormProps {
  field: Field;
  /** The other fields, which conditions may look at. */
  fields: readonly Field[];
  onChange(field: Field): void;
}

/** A field without a property, where there is nothing to say about it any more. */
function without<K extends keyof Field>(field: Field, name: K): Field {
  const { [name]: _gone, ...rest } = field;
  return rest as Field;
}

const set = <K extends keyof Field>(field: Field, name: K, value: Field[K] | undefined): Field =>
  value === undefined ? without(field, name) : { ...field, [name]: value };

/** Choices as lines: code | label in the first language | other words. */
const choiceLines = (field: Field): string =>
  (field.choices ?? [])
    .map(({ code, labels, synonyms }) =>
      [code, Object.values(labels)[0] ?? '', synonyms.join(', ')].join(' | '),
    )
    .map((line) => line.replace(/( \| )+$/, ''))
    .join('\n');

function readChoices(text: string, old: Field): Field['choices'] {
  const known = new Map(old.choices?.map((choice) => [choice.code, choice]));
  const lines = text.split('\n').map((line) => line.split('|').map((part) => part.trim()));
  const read = lines.flatMap(([code = '', label = '', words = '']) => {
    if (code === '') return [];
    const labels = known.get(code)?.labels ?? {};
    const language = Object.keys(labels)[0] ?? 'en';
    return [
      {
        code,
        labels: label === '' ? labels : { ...labels, [language]: label },
        synonyms: words
          .split(',')
          .map((word) => word.trim())
          .filter((word) => word !== ''),
      },
    ];
  });
  return read.length > 0 ? read : undefined;
}

/** Everything about one field, each setting saved when it is left. */
export function FieldForm({ field, fields, onChange }: FieldFormProps) {
  const put = <K extends keyof Field>(name: K, value: Field[K] | undefined) =>
    onChange(set(field, name, value));
  const length = (name: keyof Length, text: string) => {
    const { [name]: _gone, ...rest } = field.length ?? { measure: 'characters' as const };
    const next = text.trim() === '' ? rest : { ...rest, [name]: Number(text) };
    const empty = Object.keys(next).every((key) => key === 'measure');
    put('length', empty ? undefined : { ...next, measure: field.length?.measure ?? 'characters' });
  };
  const values = (name: 'least' | 'most', text: string) => {
    const rest = { ...field.values, most: field.values?.most ?? 1 };
    if (text.trim() === '') put('values', undefined);
    else put('values', { ...rest, [name]: Number(text) });
  };
  return (
    <div className="field-form">
      <Line label="Called">
        <Text name="Label" value={field.label} width={200} onDone={(text) => put('label', text)} />
        <Text name="Code" value={field.code} width={170} mono onDone={(text) => put('code', text)} />
        <Text
          name="Group"
          value={field.group}
          width={130}
          onDone={(text) => put('group', text || 'Basics')}
        />
      </Line>
      <Line label="Means">
        <Text name="Meaning" value={field.meaning} width={430} onDone={(text) => put('meaning', text)} />
        <Text
          name="Example"
          value={field.example ?? ''}
          width={180}
          onDone={(text) => put('example', text || undefined)}
        />
      </Line>
      <Line label="Takes">
        <Select name="Kind" value={field.kind} options={fieldKinds} onDone={(kind) => put('kind', kind)} />
        <Select
          name="Job"
          value={field.role ?? ''}
          options={['', ...fieldRoles]}
          words={(role) => (role === '' ? 'no job of its own' : role)}
          onDone={(role) => put('role', role === '' ? undefined : role)}
        />
        {(['unique', 'stable', 'notForFamilies'] as const).map((name) => (
          <label className="row small" key={name}>
            <input
              type="checkbox"
              checked={field[name]}
              onChange={(event) => put(name, event.target.checked)}
            />
            {
              { unique: 'on one listing only', stable: 'never changes', notForFamilies: 'not for families' }[
                name
              ]
            }
          </label>
        ))}
      </Line>
      <Line label="Wanted">
        <Select name="Need" value={field.need} options={needs} onDone={(need) => put('need', need)} />
        {field.mustWhen === undefined ? (
          <button
            type="button"
            className="link"
            onClick={() =>
              onChange({
                ...field,
                mustWhen: { all: [{ field: fields[0]?.code ?? field.code, is: 'filled' }] },
                because: field.because ?? 'under a condition',
              })
            }
          >
            Must under a condition
          </button>
        ) : (
          <>
            <Text
              name="The condition in words"
              value={field.because ?? ''}
              width={260}
              onDone={(text) => put('because', text || undefined)}
            />
            <button
              type="button"
              className="link"
              onClick={() => onChange(without(without(field, 'mustWhen'), 'because'))}
            >
              Without condition
            </button>
          </>
        )}
      </Line>
      {field.mustWhen !== undefined && (
        <div className="line-group">
          <ConditionEditor
            word="must where"
            condition={field.mustWhen}
            attributes={[]}
            fields={fields}
            onChange={(condition: Condition) => put('mustWhen', condition)}
          />
        </div>
      )}
      <Line label="Length">
        <Text
          name="Least"
          value={String(field.length?.least ?? '')}
          width={70}
          onDone={(text) => length('least', text)}
        />
        <Text
          name="Most"
          value={String(field.length?.most ?? '')}
          width={70}
          onDone={(text) => length('most', text)}
        />
        <Text
          name="Advised"
          value={String(field.length?.advised ?? '')}
          width={70}
          onDone={(text) => length('advised', text)}
        />
        <Select
          name="Measured in"
          value={field.length?.measure ?? 'characters'}
          options={['characters', 'bytes', 'graphemes'] as const}
          onDone={(measure) => field.length && put('length', { ...field.length, measure })}
        />
        <Text
          name="Values, least"
          value={String(field.values?.least ?? '')}
          width={70}
          onDone={(text) => values('least', text)}
        />
        <Text
          name="Values, most"
          value={String(field.values?.most ?? '')}
          width={70}
          onDone={(text) => values('most', text)}
        />
      </Line>
      <Line label="Form">
        <Text
          name="Pattern"
          value={field.pattern?.expression ?? ''}
          width={220}
          mono
          onDone={(expression) =>
            put(
              'pattern',
              expression === ''
                ? undefined
                : { expression, words: field.pattern?.words ?? `of the form ${expression}` },
            )
          }
        />
        {field.pattern && (
          <Text
            name="Pattern in words"
            value={field.pattern.words}
            width={220}
            onDone={(words) => field.pattern && words && put('pattern', { ...field.pattern, words })}
          />
        )}
        <Text
          name="Other words for the field"
          value={field.synonyms.join(', ')}
          width={240}
          onDone={(text) =>
            put(
              'synonyms',
              text
                .split(',')
                .map((word) => word.trim())
                .filter((word) => word !== ''),
            )
          }
        />
      </Line>
      {field.kind === 'choice' && (
        <Line label="Choices">
          <textarea
            className="cell mono"
            rows={Math.min(9, (field.choices?.length ?? 0) + 1)}
            style={{ width: 560 }}
            aria-label="Choices, a line each: code | label | other words"
            placeholder="code | label | other words"
            key={choiceLines(field)}
            defaultValue={choiceLines(field)}
            onBlur={(event) =>
              event.target.value !== choiceLines(field) &&
              put('choices', readChoices(event.target.value, field))
            }
          />
        </Line>
      )}
    </div>
  );
}

function Line({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="line">
      <span className="word">{label}</span>
      {children}
    </div>
  );
}

interface TextProps {
  name: string;
  value: string;
  width: number;
  mono?: boolean;
  onDone(text: string): void;
}

/** A text that is saved when it is left or Enter is pressed. */
export function Text({ name, value, width, mono = false, onDone }: TextProps) {
  return (
    <label className="small-label">
      {name}
      <input
        className={mono ? 'cell mono' : 'cell'}
        style={{ width }}
        key={value}
        defaultValue={value}
        onBlur={(event) => event.target.value !== value && onDone(event.target.value.trim())}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      />
    </label>
  );
}

interface SelectProps<T extends string> {
  name: string;
  value: T;
  options: readonly T[];
  words?(option: T): string;
  onDone(option: T): void;
}

export function Select<T extends string>({ name, value, options, words, onDone }: SelectProps<T>) {
  return (
    <label className="small-label">
      {name}
      <select
        className="cell"
        value={value}
        onChange={(event) => {
          const chosen = options.find((one) => one === event.target.value);
          if (chosen !== undefined) onDone(chosen);
        }}
      >
        {options.map((one) => (
          <option key={one} value={one}>
            {words ? words(one) : one}
          </option>
        ))}
      </select>
    </label>
  );
}
