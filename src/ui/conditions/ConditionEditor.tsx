'use client';
import { IconX } from '@tabler/icons-react';
import {
  type Condition,
  type Operator,
  operators,
  type Test,
  unaryOperators,
} from '@/core/conditions/conditions';
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
        <select
          className="cell"
          aria-label="All or any"
          value={shape.join}
          onChange={(event) => set(event.target.value === 'any' ? 'any' : 'all', shape.tests)}
        >
          <option value="all">all of these hold</option>
          <option value="any">any of these holds</option>
        </select>
        <button type="button" className="link" onClick={() => set(shape.join, [...shape.tests, first])}>
          Add condition
        </button>
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
  return (
    <div className="line">
      <span className="word" />
      <select
        className="cell"
        aria-label="What is looked at"
        value={subject}
        onChange={(event) => put(event.target.value, test.is, value)}
      >
        {attributes.length > 0 && (
          <optgroup label="Attributes">
            {attributes.map(({ code, label }) => (
              <option key={code} value={`a:${code}`}>
                {label}
              </option>
            ))}
          </optgroup>
        )}
        {fields.length > 0 && (
          <optgroup label="Fields of the channel">
            {fields.map(({ code, label }) => (
              <option key={code} value={`f:${code}`}>
                {label}
              </option>
            ))}
          </optgroup>
        )}
      </select>
      <select
        className="cell"
        aria-label="How it compares"
        value={test.is}
        onChange={(event) =>
          put(subject, operators.find((one) => one === event.target.value) ?? 'equals', value)
        }
      >
        {operators.map((one) => (
          <option key={one} value={one}>
            {operatorWords[one]}
          </option>
        ))}
      </select>
      {!unaryOperators.has(test.is) && (
        <input
          className="cell mono"
          aria-label="Compared with"
          key={value}
          defaultValue={value}
          onBlur={(event) => event.target.value !== value && put(subject, test.is, event.target.value)}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
      )}
      <button type="button" className="plain" aria-label="Take out the condition" onClick={onRemove}>
        <IconX size={13} />
      </button>
    </div>
  );
}
