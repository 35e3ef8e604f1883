'use client';
import { IconX } from '@tabler/icons-react';
import { type Condition, groupOf, type Join, joined, type Test } from '@/core/conditions/conditions';
import { counted, formatNumber, plural } from '@/core/formatting/formatting';
import { SelectField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';
import { conditionText } from './labels';
import { type Named, TestLine } from './TestLine';
import './conditions.css';

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
        {onRemove && <TakeOut label="Remove group" onClick={onRemove} />}
        {complete !== undefined && (
          <span className="small muted met">
            <b>{formatNumber(complete)}</b> {plural(complete, 'item meets', 'items meet')} it
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
            Add category
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
      <TakeOut label="Remove condition" onClick={onRemove} />
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
        <span className="small">mapped within</span>
        <SelectField
          name="Category"
          width={230}
          value={branch}
          options={branches.map(({ code, label }) => [code, label] as const)}
          onChange={(code) => onChange({ under: [code] })}
        />
      </>
    );
  return <span className="small">{conditionText(condition, labelOf)}</span>;
}
