'use client';
import { MultiSelect } from '@mantine/core';
import { IconX } from '@tabler/icons-react';
import { asList } from '@/core/catalog/value';
import {
  type Condition,
  comparingOperators,
  conditionFacts,
  groupOf,
  type Join,
  joined,
  type Operator,
  operators,
  type Test,
  unaryOperators,
} from '@/core/conditions/conditions';
import { counted } from '../kit/display/counted';
import { AutosaveTextField, type OptionGroup, SelectField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';
import { type ChosenFact, chosenFacts, conditionText, factLabels, operatorLabels } from './labels';
import './conditions.css';

interface Named {
  readonly code: string;
  readonly label: string;
}

/** What conditions can look at. */
interface Lookable {
  /** Either may be empty. */
  attributes: readonly Named[];
  fields: readonly Named[];
  /** Branches of the channel's tree; no condition asks for one where left out. */
  branches?: readonly Named[];
  /** How many items meet each condition, by where it stands: "", "0", "0.1". */
  met?: Readonly<Record<string, number>>;
}

interface ConditionEditorProps extends Lookable {
  /** The word before the first line: when, where … */
  word: string;
  condition: Condition;
  onChange(condition: Condition): void;
}

const joinWords: readonly (readonly [Join, string])[] = [
  ['all', 'all of these hold'],
  ['any', 'any of these holds'],
  ['none', 'none of these holds'],
];
/** Groups inside groups: deeper ones nobody reads. */
const MAX_DEPTH = 3;

/** A condition edited in place: groups of all, any or none, nested, each with how many items meet it. */
export function ConditionEditor({ word, condition, onChange, ...lookable }: ConditionEditorProps) {
  return (
    <div className="conditions">
      <Group
        word={word}
        // A single condition is shown as a group of one, which means the same.
        condition={groupOf(condition) ? condition : { all: [condition] }}
        path={groupOf(condition) ? '' : undefined}
        depth={0}
        lookable={lookable}
        onChange={onChange}
      />
    </div>
  );
}

interface NodeProps {
  condition: Condition;
  /** Where it stands in the whole; undefined where it stands for the whole. */
  path: string | undefined;
  depth: number;
  lookable: Lookable;
  onChange(condition: Condition): void;
}

function Group({
  word,
  condition,
  path,
  depth,
  lookable,
  onChange,
  onRemove,
}: NodeProps & { word: string; onRemove?: () => void }) {
  const { join, of } = groupOf(condition) ?? { join: 'all' as const, of: [] };
  const { attributes, fields, branches = [], met } = lookable;
  const set = (list: Condition[], by: Join = join) => onChange(joined(by, list));
  const first: Test = attributes[0]
    ? {
        attribute: attributes.find(({ code }) => code === 'name')?.code ?? attributes[0].code,
        is: 'contains',
        value: '',
      }
    : { field: fields[0]?.code ?? '', is: 'filled' };
  const put = (at: number, changed: Condition) => set(of.map((old, i) => (i === at ? changed : old)));
  const without = (at: number) => set(of.filter((_, i) => i !== at));
  const complete = met?.[path ?? ''];
  return (
    <div className={depth === 0 ? 'condition-group' : 'condition-group inner'}>
      <div className="line">
        {depth === 0 && <span className="word">{word}</span>}
        <SelectField
          name={depth === 0 ? 'All or any' : 'All or any of the group'}
          value={join}
          options={joinWords}
          onChange={(text) => set(of, joinWords.find(([one]) => one === text)?.[0] ?? 'all')}
        />
        {onRemove && <TakeOut label="Take out the group" onClick={onRemove} />}
        {complete !== undefined && (
          <span className="small muted met">
            <b>{complete.toLocaleString()}</b> {complete === 1 ? 'item meets' : 'items meet'} it
          </span>
        )}
      </div>
      {of.map((one, at) => {
        const own = path === undefined ? '' : path === '' ? String(at) : `${path}.${at}`;
        const line = {
          condition: one,
          path: own,
          depth: depth + 1,
          lookable,
          onChange: (changed: Condition) => put(at, changed),
        };
        return groupOf(one) ? (
          // biome-ignore lint/suspicious/noArrayIndexKey: conditions are plain data; their place is their identity
          <Group key={at} word="" {...line} onRemove={() => without(at)} />
        ) : (
          // biome-ignore lint/suspicious/noArrayIndexKey: conditions are plain data; their place is their identity
          <Line key={at} {...line} onRemove={() => without(at)} />
        );
      })}
      <div className="line adds">
        <TextButton onClick={() => set([...of, first])}>Add condition</TextButton>
        {depth < MAX_DEPTH && (
          <TextButton onClick={() => set([...of, { any: [first] }])}>Add group</TextButton>
        )}
        {branches[0] && (
          <TextButton onClick={() => set([...of, { under: [branches[0]?.code ?? ''] }])}>
            Add branch
          </TextButton>
        )}
      </div>
    </div>
  );
}

const TakeOut = ({ label, onClick }: { label: string; onClick: () => void }) => (
  <button type="button" className="plain" aria-label={label} onClick={onClick}>
    <IconX size={13} />
  </button>
);

function Line({ condition, path, lookable, onChange, onRemove }: NodeProps & { onRemove: () => void }) {
  const { attributes, fields, branches = [], met } = lookable;
  const items = path === undefined ? undefined : met?.[path];
  return (
    <div className="line">
      <LineBody condition={condition} lookable={{ attributes, fields, branches }} onChange={onChange} />
      <TakeOut label="Take out the condition" onClick={onRemove} />
      {items !== undefined && <span className="small muted met">{counted(items, 'item')}</span>}
    </div>
  );
}

function LineBody({
  condition,
  lookable: { attributes, fields, branches = [] },
  onChange,
}: Pick<NodeProps, 'condition' | 'lookable' | 'onChange'>) {
  const labelOf = (kind: 'attribute' | 'field', code: string) =>
    (kind === 'field' ? fields : attributes).find((one) => one.code === code)?.label ?? code;
  if ('is' in condition)
    return <TestLine test={condition} attributes={attributes} fields={fields} onChange={onChange} />;
  const [branch = ''] = 'under' in condition ? condition.under : [];
  if ('under' in condition && condition.under.length === 1 && branches.some(({ code }) => code === branch))
    return (
      <>
        <span className="small">placed within</span>
        <SelectField
          name="Branch"
          width={230}
          value={branch}
          options={branches.map(({ code, label }) => [code, label] as const)}
          onChange={(code) => onChange({ under: [code] })}
        />
      </>
    );
  return <span className="small">{conditionText(condition, labelOf)}</span>;
}

interface TestLineProps {
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

function TestLine({ test, attributes, fields, onChange }: TestLineProps) {
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
      group: 'What was found',
      of: fields.length === 0 ? [] : conditionFacts.map((fact) => [`x:${fact}`, factLabels[fact]] as const),
    },
  ].filter(({ of }) => of.length > 0);
  return (
    <>
      <SelectField
        name="What is looked at"
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
        name="How it compares"
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
