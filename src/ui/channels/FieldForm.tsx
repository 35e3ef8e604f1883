'use client';
import type { ReactNode } from 'react';
import { type Field, fieldKinds, fieldRoles, type Length, needs } from '@/core/channels/sheet';
import type { Condition } from '@/core/conditions/conditions';
import { ConditionEditor } from '../conditions/ConditionEditor';
import { Choice, listed, SavedWords, Tick } from '../kit/inputs';
import { TextButton } from '../kit/TextButton';

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
        synonyms: listed(words),
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
        <SavedWords
          shown="above"
          name="Label"
          value={field.label}
          width={200}
          onSave={(text) => put('label', text)}
        />
        <SavedWords
          shown="above"
          name="Code"
          value={field.code}
          width={170}
          mono
          onSave={(text) => put('code', text)}
        />
        <SavedWords
          shown="above"
          name="Group"
          value={field.group}
          width={130}
          onSave={(text) => put('group', text || 'Basics')}
        />
      </Line>
      <Line label="Means">
        <SavedWords
          shown="above"
          name="Meaning"
          value={field.meaning}
          width={430}
          onSave={(text) => put('meaning', text)}
        />
        <SavedWords
          shown="above"
          name="Example"
          value={field.example ?? ''}
          width={180}
          onSave={(text) => put('example', text || undefined)}
        />
      </Line>
      <Line label="Takes">
        <Choice
          shown="above"
          name="Kind"
          value={field.kind}
          options={fieldKinds}
          onChange={(kind) => put('kind', kind)}
        />
        <Choice
          shown="above"
          name="Job"
          value={field.role ?? ''}
          options={[['', 'no job of its own'], ...fieldRoles]}
          onChange={(role) => put('role', role === '' ? undefined : role)}
        />
        {(['unique', 'stable', 'notForFamilies'] as const).map((name) => (
          <Tick
            key={name}
            name={
              { unique: 'on one listing only', stable: 'never changes', notForFamilies: 'not for families' }[
                name
              ]
            }
            checked={field[name]}
            onChange={(on) => put(name, on)}
          />
        ))}
      </Line>
      <Line label="Wanted">
        <Choice
          shown="above"
          name="Need"
          value={field.need}
          options={needs}
          onChange={(need) => put('need', need)}
        />
        {field.mustWhen === undefined ? (
          <TextButton
            onClick={() =>
              onChange({
                ...field,
                mustWhen: { all: [{ field: fields[0]?.code ?? field.code, is: 'filled' }] },
                because: field.because ?? 'under a condition',
              })
            }
          >
            Must under a condition
          </TextButton>
        ) : (
          <>
            <SavedWords
              shown="above"
              name="The condition in words"
              value={field.because ?? ''}
              width={260}
              onSave={(text) => put('because', text || undefined)}
            />
            <TextButton onClick={() => onChange(without(without(field, 'mustWhen'), 'because'))}>
              Without condition
            </TextButton>
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
        <SavedWords
          shown="above"
          name="Least"
          value={String(field.length?.least ?? '')}
          width={70}
          onSave={(text) => length('least', text)}
        />
        <SavedWords
          shown="above"
          name="Most"
          value={String(field.length?.most ?? '')}
          width={70}
          onSave={(text) => length('most', text)}
        />
        <SavedWords
          shown="above"
          name="Advised"
          value={String(field.length?.advised ?? '')}
          width={70}
          onSave={(text) => length('advised', text)}
        />
        <Choice
          shown="above"
          name="Measured in"
          value={field.length?.measure ?? 'characters'}
          options={['characters', 'bytes', 'graphemes'] as const}
          onChange={(measure) => field.length && put('length', { ...field.length, measure })}
        />
        <SavedWords
          shown="above"
          name="Values, least"
          value={String(field.values?.least ?? '')}
          width={84}
          onSave={(text) => values('least', text)}
        />
        <SavedWords
          shown="above"
          name="Values, most"
          value={String(field.values?.most ?? '')}
          width={84}
          onSave={(text) => values('most', text)}
        />
      </Line>
      <Line label="Form">
        <SavedWords
          shown="above"
          name="Pattern"
          value={field.pattern?.expression ?? ''}
          width={220}
          mono
          onSave={(expression) =>
            put(
              'pattern',
              expression === ''
                ? undefined
                : { expression, words: field.pattern?.words ?? `of the form ${expression}` },
            )
          }
        />
        {field.pattern && (
          <SavedWords
            shown="above"
            name="Pattern in words"
            value={field.pattern.words}
            width={220}
            onSave={(words) => field.pattern && words && put('pattern', { ...field.pattern, words })}
          />
        )}
        <SavedWords
          shown="above"
          name="Other words for the field"
          value={field.synonyms.join(', ')}
          width={240}
          onSave={(text) => put('synonyms', listed(text))}
        />
      </Line>
      {field.kind === 'choice' && (
        <Line label="Choices">
          <SavedWords
            name="Choices, a line each: code | label | other words"
            placeholder="code | label | other words"
            mono
            rows={Math.min(9, (field.choices?.length ?? 0) + 1)}
            width={560}
            value={choiceLines(field)}
            onSave={(text) => put('choices', readChoices(text, field))}
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
