'use client';
import { IconX } from '@tabler/icons-react';
import { type Operator, operators, type Test, unaryOperators } from '@/core/channels/conditions';
import type { Action, Rule } from '@/core/rules/rule';
import type { RulesStage, RuleView } from '@/server/feeds/rulesStage';
import { actionNames, asTests, conditionWords, operatorWords } from './ruleWords';

interface RuleFormProps {
  view: RuleView;
  stage: RulesStage;
  onChange(rule: Rule): void;
  onRemove(): void;
}

/** When … then …, edited in place; every change is saved and tried on the whole catalog at once. */
export function RuleForm({ view, stage, onChange, onRemove }: RuleFormProps) {
  const { rule } = view;
  const shape = asTests(rule.when);
  const setTests = (join: 'all' | 'any', tests: Test[]) =>
    onChange({ ...rule, when: join === 'all' ? { all: tests } : { any: tests } });
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
              onChange({ ...rule, name: event.target.value.trim() })
            }
          />
        </div>
        {shape ? (
          <>
            <div className="line">
              <span className="word">when</span>
              <select
                className="cell"
                aria-label="All or any"
                value={shape.join}
                onChange={(event) => setTests(event.target.value === 'any' ? 'any' : 'all', shape.tests)}
              >
                <option value="all">all of these hold</option>
                <option value="any">any of these holds</option>
              </select>
              <button
                type="button"
                className="link"
                onClick={() =>
                  setTests(shape.join, [...shape.tests, { attribute: 'name', is: 'contains', value: '' }])
                }
              >
                Add condition
              </button>
            </div>
            {shape.tests.map((test, at) => (
              <TestLine
                // biome-ignore lint/suspicious/noArrayIndexKey: conditions are plain data; their place is their identity
                key={at}
                test={test}
                stage={stage}
                onChange={(changed) =>
                  setTests(
                    shape.join,
                    shape.tests.map((old, i) => (i === at ? changed : old)),
                  )
                }
                onRemove={() =>
                  setTests(
                    shape.join,
                    shape.tests.filter((_, i) => i !== at),
                  )
                }
              />
            ))}
          </>
        ) : (
          <div className="line">
            <span className="word">when</span>
            {conditionWords(rule.when, (_, code) => code)}
          </div>
        )}
        {rule.then.map((action, at) => (
          <ActionLine
            // biome-ignore lint/suspicious/noArrayIndexKey: actions are plain data; their place is their identity
            key={at}
            first={at === 0}
            action={action}
            stage={stage}
            onChange={(changed) =>
              onChange({ ...rule, then: rule.then.map((old, i) => (i === at ? changed : old)) })
            }
            onRemove={
              rule.then.length > 1
                ? () => onChange({ ...rule, then: rule.then.filter((_, i) => i !== at) })
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
        <div>
          <b>{view.matches}</b> {view.matches === 1 ? 'item matches' : 'items match'}, <b>{view.changes}</b>{' '}
          {view.changes === 1 ? 'listing changes' : 'listings change'}
          {!rule.on && <span className="muted"> (switched off: this is what it would do)</span>}
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
      </div>
    </div>
  );
}

function TestLine({
  test,
  stage,
  onChange,
  onRemove,
}: {
  test: Test;
  stage: RulesStage;
  onChange(test: Test): void;
  onRemove(): void;
}) {
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
        <optgroup label="Attributes">
          {stage.attributes.map(({ code, label }) => (
            <option key={code} value={`a:${code}`}>
              {label}
            </option>
          ))}
        </optgroup>
        <optgroup label="Fields of the channel">
          {stage.fields.map(({ code, label }) => (
            <option key={code} value={`f:${code}`}>
              {label}
            </option>
          ))}
        </optgroup>
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
