'use client';
import { IconX } from '@tabler/icons-react';
import {
  type Condition,
  type Operator,
  operators,
  type Test,
  unaryOperators,
} from '@/core/conditions/conditions';
import { Choice, type OptionGroup, SavedWords } from '../kit/inputs';
import { TextButton } from '../kit/TextButton';
import { asTests, conditionWords, operatorWords } from './words';

interface Named {
  readonly code: string;
  readonly label: string;
}

interface ConditionEditorProps {
  /** The word before the first line: when, where … */
  word: string;
  condition: Condition;
  /** What can be looked at; either may be empty. */
  attributes: readonly Named[];
  fields: readonly Named[];
  onChange(condition: Condition): void;
}

/** All or any of some tests, edited in place. Conditions of another shape are shown in words. */
export function ConditionEditor({ word, condition, attributes, fields, onChange }: ConditionEditorProps) {
  const shape = asTests(condition);
  if (!shape)
    return (
      <div className="line">
        <span className="word">{word}</span>
        {conditionWords(
          condition,
          (kind, code) =>
            (kind === 'field' ? fields : attributes).find((one) => one.code === code)?.label ?? code,
        )}
      </div>
    );
  const set = (join: 'all' | 'any', tests: Test[]) =>
    onChange(join === 'all' ? { all: tests } : { any: tests });
  const first: Test = attributes[0]
    ? {
        attribute: attributes.find(({ code }) => code === 'name')?.code ?? attributes[0].code,
        is: 'contains',
        value: '',
      }
    : { field: fields[0]?.code ?? '', is: 'filled' };
  return (
    <>
      <div className="line">
        <span className="word">{word}</span>
        <Choice
          name="All or any"
          value={shape.join}
          options={[['all', 'all of these hold'] as const, ['any', 'any of these holds'] as const]}
          onChange={(text) => set(text === 'any' ? 'any' : 'all', shape.tests)}
        />
        <TextButton onClick={() => set(shape.join, [...shape.tests, first])}>Add condition</TextButton>
      </div>
      {shape.tests.map((test, at) => (
        <TestLine
          // biome-ignore lint/suspicious/noArrayIndexKey: conditions are plain data; their place is their identity
          key={at}
          test={test}
          attributes={attributes}
          fields={fields}
          onChange={(changed) =>
            set(
              shape.join,
              shape.tests.map((old, i) => (i === at ? changed : old)),
            )
          }
          onRemove={() =>
            set(
              shape.join,
              shape.tests.filter((_, i) => i !== at),
            )
          }
        />
      ))}
    </>
  );
}

interface TestLineProps {
  test: Test;
  attributes: readonly Named[];
  fields: readonly Named[];
  onChange(test: Test): void;
  onRemove(): void;
}

function TestLine({ test, attributes, fields, onChange, onRemove }: TestLineProps) {
  const subject = test.attribute !== undefined ? `a:${test.attribute}` : `f:${test.field}`;
  const value = Array.isArray(test.value) ? test.value.join(', ') : (test.value ?? '');
  const put = (key: string, is: Operator, text: string) => {
    const wanted = unaryOperators.has(is)
      ? {}
      : { value: is === 'oneOf' ? text.split(',').map((entry) => entry.trim()) : text };
    onChange(
      key.startsWith('a:')
        ? { attribute: key.slice(2), is, ...wanted }
        : { field: key.slice(2), is, ...wanted },
    );
  };
  const groups: OptionGroup<string>[] = [
    { group: 'Attributes', of: attributes.map(({ code, label }) => [`a:${code}`, label] as const) },
    { group: 'Fields of the channel', of: fields.map(({ code, label }) => [`f:${code}`, label] as const) },
  ].filter(({ of }) => of.length > 0);
  return (
    <div className="line">
      <span className="word" />
      <Choice
        name="What is looked at"
        value={subject}
        options={groups}
        onChange={(key) => put(key, test.is, value)}
      />
      <Choice
        name="How it compares"
        value={test.is}
        options={operators.map((one) => [one, operatorWords[one]] as const)}
        onChange={(text) => put(subject, operators.find((one) => one === text) ?? 'equals', value)}
      />
      {!unaryOperators.has(test.is) && (
        <SavedWords
          name="Compared with"
          mono
          exact
          value={value}
          onSave={(text) => put(subject, test.is, text)}
        />
      )}
      <button type="button" className="plain" aria-label="Take out the condition" onClick={onRemove}>
        <IconX size={13} />
      </button>
    </div>
  );
}
