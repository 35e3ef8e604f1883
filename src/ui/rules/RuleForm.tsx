'use client';
import { IconX } from '@tabler/icons-react';
import type { Action, Rule } from '@/core/rules/rule';
import type { RulesStage, RuleView } from '@/server/feeds/rulesStage';
import { ConditionEditor } from '../conditions/ConditionEditor';
import { Choice, coded, SavedWords } from '../kit/inputs';
import { TextButton } from '../kit/TextButton';
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
          <SavedWords
            name="Name of the rule"
            width={320}
            needed
            value={rule.name}
            onSave={(name) => onChange({ name })}
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
          <TextButton
            onClick={() =>
              onChange({
                ...rule,
                then: [...rule.then, { do: 'set', field: stage.fields[0]?.code ?? '', text: '' }],
              })
            }
          >
            Add action
          </TextButton>
          <TextButton onClick={onRemove}>Delete rule</TextButton>
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
    <SavedWords
      name={label}
      placeholder={label}
      mono
      exact
      needed={needed}
      width={130}
      value={value}
      onSave={(text) => onChange(put(text))}
    />
  );
  return (
    <div className="line">
      <span className="word">{first ? 'then' : 'and'}</span>
      <Choice
        name="What is done"
        value={action.do}
        options={Object.entries(actionNames).map(([kind, words]) => [kind, words] as const)}
        onChange={(text) =>
          onChange(
            become((Object.keys(actionNames) as Action['do'][]).find((one) => one === text) ?? 'set', field),
          )
        }
      />
      {action.do !== 'leaveOut' && (
        <Choice
          name="Field"
          value={action.field}
          options={coded(stage.fields)}
          onChange={(text) => onChange({ ...action, field: text })}
        />
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
