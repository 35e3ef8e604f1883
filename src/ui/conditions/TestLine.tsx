'use client';
import { MultiSelect } from '@mantine/core';
import { asList } from '@/core/catalog/value';
import {
  comparingOperators,
  conditionFacts,
  type Operator,
  operators,
  type Test,
  unaryOperators,
} from '@/core/conditions/conditions';
import { AutosaveTextField, type OptionGroup, SelectField } from '../kit/inputs/inputs';
import { type ChosenFact, chosenFacts, factLabels, operatorLabels } from './labels';
import './conditions.css';

export interface Named {
  readonly code: string;
  readonly label: string;
}

export interface TestLineProps {
  test: Test;
  attributes: readonly Named[];
  fields: readonly Named[];
  onChange(test: Test): void;
}

/** Operators whose values are long. */
const wide: ReadonlySet<Operator> = new Set(['matches', 'oneOf']);

/** Operators whose value is a list, and what stands between its entries where it is read. */
const listed: Partial<Record<Operator, RegExp>> = { oneOf: /,/, between: /\s(?:and|to)\s|–|,\s/ };

/** What may be chosen of a fact: its values in words, and what a condition names beside them. */
const choicesOf = (
  { choices, words }: ChosenFact,
  named: readonly string[],
  labelOf: (field: string) => string,
): { value: string; label: string }[] => [
  ...named.flatMap((value) =>
    choices.some(([code]) => code === value) ? [] : [{ value, label: words(value, labelOf) }],
  ),
  ...choices.map(([value, label]) => ({ value, label })),
];

export function TestLine({ test, attributes, fields, onChange }: TestLineProps) {
  const subject =
    test.fact !== undefined
      ? `x:${test.fact}`
      : test.attribute !== undefined
        ? `a:${test.attribute}`
        : `f:${test.field}`;
  const value = Array.isArray(test.value)
    ? test.value.join(test.is === 'between' ? ' and ' : ', ')
    : (test.value ?? '');
  const entries = asList(test.value).filter((entry) => entry !== '');
  const put = (key: string, is: Operator, text: string) => {
    const parts = listed[is];
    const wanted = unaryOperators.has(is)
      ? {}
      : { value: parts ? text.split(parts).map((entry) => entry.trim()) : text };
    const code = key.slice(2);
    const fact = conditionFacts.find((one) => key === `x:${one}`);
    onChange(
      fact
        ? { fact, is, ...wanted }
        : { ...(key.startsWith('a:') ? { attribute: code } : { field: code }), is, ...wanted },
    );
  };
  const own = test.attribute !== undefined ? attributes : fields;
  const chosen = test.fact && chosenFacts[test.fact];
  const groups: OptionGroup<string>[] = [
    { group: 'Attributes', of: attributes.map(({ code, label }) => [`a:${code}`, label] as const) },
    { group: 'Fields of the channel', of: fields.map(({ code, label }) => [`f:${code}`, label] as const) },
    {
      group: 'Results',
      of: fields.length === 0 ? [] : conditionFacts.map((fact) => [`x:${fact}`, factLabels[fact]] as const),
    },
  ].filter(({ of }) => of.length > 0);
  return (
    <>
      <SelectField
        name="Compared value"
        width={102}
        value={subject}
        options={groups}
        onChange={(key) => {
          const fact = conditionFacts.find((one) => key === `x:${one}`);
          const among = fact && chosenFacts[fact];
          // What is found is compared with a value, or with one that is chosen.
          if (among && fact !== test.fact) put(key, 'equals', among.choices[0]?.[0] ?? '');
          else put(key, fact && comparingOperators.has(test.is) ? 'equals' : test.is, value);
        }}
      />
      <SelectField
        name="Comparison"
        width={chosen ? 126 : 102}
        value={test.is}
        options={operators
          .filter((one) =>
            test.fact === undefined
              ? true
              : chosen
                ? chosen.operators.has(one)
                : !comparingOperators.has(one),
          )
          .map((one) => [one, chosen?.operators.get(one) ?? operatorLabels[one]] as const)}
        onChange={(text) => {
          const is = operators.find((one) => one === text) ?? 'equals';
          const other = own.find(({ code }) => code === value)?.code ?? own[0]?.code ?? '';
          const stored = chosen && is !== 'oneOf' ? (entries[0] ?? '') : value;
          put(
            subject,
            is,
            comparingOperators.has(is) ? other : comparingOperators.has(test.is) ? '' : stored,
          );
        }}
      />
      {comparingOperators.has(test.is) ? (
        <SelectField
          name="Compared with"
          width={102}
          value={value}
          options={own.map(({ code, label }) => [code, label] as const)}
          onChange={(code) => put(subject, test.is, code)}
        />
      ) : chosen && (test.is === 'equals' || test.is === 'differs') ? (
        <SelectField
          name="Compared with"
          width={chosen.width}
          value={value}
          options={
            chosen.choices.some(([code]) => code === value)
              ? chosen.choices
              : [[value, value], ...chosen.choices]
          }
          onChange={(code) => put(subject, test.is, code)}
        />
      ) : chosen && test.is === 'oneOf' ? (
        <MultiSelect
          aria-label="Compared with"
          flex={1}
          miw={chosen.width}
          maw={320}
          searchable
          hidePickedOptions
          data={choicesOf(chosen, entries, (code) => fields.find((one) => one.code === code)?.label ?? code)}
          value={entries}
          // One that names nothing applies to nothing: the last stays.
          onChange={(codes) => codes.length > 0 && onChange({ ...test, value: codes })}
        />
      ) : (
        !unaryOperators.has(test.is) && (
          <AutosaveTextField
            name="Compared with"
            placeholder={test.is === 'before' || test.is === 'after' ? '2027-03-31 or today' : ''}
            mono
            exact
            width={wide.has(test.is) ? 190 : /^[\d.]*$/.test(value) ? 58 : 102}
            value={value}
            onSave={(text) => put(subject, test.is, text)}
          />
        )
      )}
    </>
  );
}
