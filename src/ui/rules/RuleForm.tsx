'use client';
import { IconX } from '@tabler/icons-react';
import type { Action, Rule } from '@/core/rules/rule';
import type { RulesStage, RuleView } from '@/server/feeds/rulesStage';
import { ConditionEditor } from '../conditions/ConditionEditor';
import { actionNames } from './ruleWords';

interface RuleFormProps {
  rule: Rule;
  /** What it does to the catalog; undefined while it is being counted. */
  view: RuleView | undefined;
  stage: RulesStage;
  onChange(set: Partial<Omit<Rule, 'id'>>): void;
  onRemove(): void;
}

/** When … then …, edited in place; every change is saved and tried on the whole catalog at once. */
export function RuleForm({ rule, view, stage, onChange, onRemove }: RuleFormProps) {
  return (
    <div className="rule-form">
      <div className="box">
        <div className="line">
          <span className="word">name</span>
          <input
            className="cell"
            style={{ width: 320 }}
            aria-label="Name of the rule"
            defaultValue={rule.name}
            onBlur={(event) =>
              event.target.value.trim() &&
              event.target.value !== rule.name &&
              onChange({ name: event.target.value.trim() })
            }
          />
        </div>
        <ConditionEditor
          word="when"
          condition={rule.when}
          attributes={stage.attributes}
          fields={stage.fields}
          onChange={(when) => onChange({ when })}
        />
        {rule.then.map((action, at) => (
          <ActionLine
            // biome-ignore lint/suspicious/noArrayIndexKey: actions are plain data; their place is their identity
            key={at}
            first={at === 0}
            action={action}
            stage={stage}
            onChange={(changed) => onChange({ then: rule.then.map((old, i) => (i === at ? changed : old)) })}
            onRemove={
              rule.then.length > 1
                ? () => onChange({ then: rule.then.filter((_, i) => i !== at) })
                : undefined
            }
          />
        ))}
        <div className="line">
          <span className="word" />
          <button
            type="button"
            className="link"
            onClick={() =>
              onChange({
                ...rule,
                then: [...rule.then, { do: 'set', field: stage.fields[0]?.code ?? '', text: '' }],
              })
            }
          >
            Add action
          </button>
          <button type="button" className="link" onClick={onRemove}>
            Delete rule
          </button>
        </div>
        {view ? <Effect view={view} on={rule.on} /> : <span className="muted">being counted …</span>}
      </div>
    </div>
  );
}

/** What a rule does to the catalog: how many items it meets and changes, and the first of them. */
function Effect({ view, on }: { view: RuleView; on: boolean }) {
  return (
    <div>
      <b>{view.matches}</b> {view.matches === 1 ? 'item matches' : 'items match'}, <b>{view.changes}</b>{' '}
      {view.changes === 1 ? 'listing changes' : 'listings change'}
      {!on && <span className="muted"> (switched off: this is what it would do)</span>}
      {view.examples.map((example) => (
        <div className="example small" key={example.sku}>
          <span className="mono cut">{example.sku}</span>
          <span>
            <span className="muted">{example.field}: </span>
            {example.before && (
              <>
                <mark className="gone">{example.before.slice(0, 90)}</mark>{' '}
              </>
            )}
            <mark className="new">{example.after.slice(0, 120) || '(empty)'}</mark>
          </span>
        </div>
      ))}
    </div>
  );
}

interface ActionLineProps {
  action: Action;
  first: boolean;
  stage: RulesStage;
  onChange(action: Action): void;
  onRemove: (() => void) | undefined;
}

function ActionLine({ action, first, stage, onChange, onRemove }: ActionLineProps) {
  const field = action.do === 'leaveOut' ? (stage.fields[0]?.code ?? '') : action.field;
  const become = (kind: Action['do'], target: string): Action => {
    const text = 'text' in action ? action.text : '';
    switch (kind) {
      case 'leaveOut':
        return { do: 'leaveOut', reason: 'not sold here' };
      case 'replace':
        return { do: 'replace', field: target, find: 'find', with: '' };
      case 'clear':
        return { do: 'clear', field: target };
      default:
        return { do: kind, field: target, text };
    }
  };
  const input = (label: string, value: string, put: (text: string) => Action, needed = false) => (
    <input
      className="cell mono"
      size={14}
      aria-label={label}
      placeholder={label}
      key={label + value}
      defaultValue={value}
      onBlur={(event) =>
        event.target.value !== value &&
        (!needed || event.target.value !== '') &&
        onChange(put(event.target.value))
      }
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
  return (
    <div className="line">
      <span className="word">{first ? 'then' : 'and'}</span>
      <select
        className="cell"
        aria-label="What is done"
        value={action.do}
        onChange={(event) =>
          onChange(
            become(
              (Object.keys(actionNames) as Action['do'][]).find((one) => one === event.target.value) ?? 'set',
              field,
            ),
          )
        }
      >
        {Object.entries(actionNames).map(([kind, words]) => (
          <option key={kind} value={kind}>
            {words}
          </option>
        ))}
      </select>
      {action.do !== 'leaveOut' && (
        <select
          className="cell"
          aria-label="Field"
          value={action.field}
          onChange={(event) => onChange({ ...action, field: event.target.value })}
        >
          {stage.fields.map(({ code, label }) => (
            <option key={code} value={code}>
              {label}
            </option>
          ))}
        </select>
      )}
      {(action.do === 'set' || action.do === 'before' || action.do === 'after') &&
        input('text', action.text, (text) => ({ ...action, text }))}
      {action.do === 'replace' && input('find', action.find, (find) => ({ ...action, find }), true)}
      {action.do === 'replace' && input('with', action.with, (by) => ({ ...action, with: by }))}
      {action.do === 'leaveOut' && input('reason', action.reason, (reason) => ({ ...action, reason }), true)}
      {onRemove && (
        <button type="button" className="plain" aria-label="Take out the action" onClick={onRemove}>
          <IconX size={13} />
        </button>
      )}
    </div>
  );
}
