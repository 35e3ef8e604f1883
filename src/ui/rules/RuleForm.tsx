'use client';
import { Menu } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { useTransition } from 'react';
import { copyRuleTo } from '@/actions/feeds';
import { plural } from '@/core/formatting/formatting';
import type { Rule } from '@/core/rules/rule';
import type { RulesStage, RuleView } from '@/server/stages/rules';
import { ConditionEditor } from '../conditions/ConditionEditor';
import { useDraft } from '../draft/useDraft';
import { AutosaveTextField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';
import { showRefusal } from '../kit/refusals';
import { ActionLine } from './ActionLine';
import '../composition/composition.css';

/** What of a rule is set; a group that is null is none. */
export type RuleChanges = Partial<Omit<Rule, 'id' | 'group'>> & { group?: string | null };

interface RuleFormProps {
  rule: Rule;
  /** What it does to the catalog; undefined while it is being counted. */
  view: RuleView | undefined;
  stage: RulesStage;
  onChange(set: RuleChanges): void;
  onRemove(): void;
}

/** When … then …, edited in place; every change is saved and tried on the whole catalog at once. */
export function RuleForm({ rule, view, stage, onChange, onRemove }: RuleFormProps) {
  const counted = view && JSON.stringify(view.rule.when) === JSON.stringify(rule.when);
  return (
    <div className="rule-form">
      <div className="box">
        <div className="line">
          <span className="word">name</span>
          <AutosaveTextField
            name="Name of the rule"
            width={240}
            needed
            value={rule.name}
            onSave={(name) => onChange({ name })}
          />
          <AutosaveTextField
            name="Group"
            shown="beside"
            placeholder="none"
            width={110}
            among={[...new Set(stage.rules.flatMap(({ rule: { group } }) => group ?? []))]}
            value={rule.group ?? ''}
            onSave={(group) => onChange({ group: group === '' ? null : group })}
          />
          <span className="grow" />
          {stage.others.length > 0 && <CopyTo rule={rule} others={stage.others} />}
          <TextButton onClick={onRemove}>Delete rule</TextButton>
        </div>
        <div className="halves">
          <div>
            <ConditionEditor
              word="when"
              condition={rule.when}
              attributes={stage.attributes}
              fields={stage.fields}
              branches={stage.branches}
              {...(counted ? { met: stage.met } : {})}
              onChange={(when) => onChange({ when })}
            />
          </div>
          <div className="then">
            {rule.then.map((action, at) => (
              <ActionLine
                // biome-ignore lint/suspicious/noArrayIndexKey: actions are plain data; their place is their identity
                key={at}
                first={at === 0}
                action={action}
                stage={stage}
                onChange={(changed) =>
                  onChange({ then: rule.then.map((old, i) => (i === at ? changed : old)) })
                }
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
                    // Something that does nothing yet: what is begun must not empty a field.
                    then: [
                      ...rule.then,
                      {
                        do: 'steps',
                        field: stage.titleField ?? stage.fields[0]?.code ?? '',
                        steps: [{ step: 'trim' }],
                      },
                    ],
                  })
                }
              >
                Add action
              </TextButton>
            </div>
          </div>
        </div>
        {view ? <Effect view={view} on={rule.on} /> : <span className="muted">updating</span>}
      </div>
    </div>
  );
}

/** Copies the rule into the drafts of other feeds. */
function CopyTo({ rule, others }: { rule: Rule; others: RulesStage['others'] }) {
  const { feed } = useDraft();
  const [busy, startBusy] = useTransition();
  const copy = (targets: readonly string[]) =>
    startBusy(async () => {
      const done = await copyRuleTo(feed, rule.id, [...targets]);
      if (!done.ok) return showRefusal(done.words ?? 'The rule was not copied.');
      if (done.told.length > 0)
        notifications.show({ message: `Copied into the drafts of ${done.told.join(', ')}.` });
      if (done.refused.length > 0) showRefusal(`Not copied: ${done.refused.join('; ')}.`);
    });
  return (
    <Menu position="bottom-end">
      <Menu.Target>
        <TextButton disabled={busy}>Copy to …</TextButton>
      </Menu.Target>
      <Menu.Dropdown>
        {others.map(({ code, name }) => (
          <Menu.Item key={code} onClick={() => copy([code])}>
            {name}
          </Menu.Item>
        ))}
        {others.length > 1 && (
          <Menu.Item onClick={() => copy(others.map(({ code }) => code))}>All of them</Menu.Item>
        )}
      </Menu.Dropdown>
    </Menu>
  );
}

/** What a rule does to the catalog: how many items it meets and changes, and the first of them. */
function Effect({ view, on }: { view: RuleView; on: boolean }) {
  return (
    <div className="effect">
      <div className="row">
        <span className="grow">
          <b>{view.matches}</b> {plural(view.matches, 'item matches', 'items match')}, <b>{view.changes}</b>{' '}
          {plural(view.changes, 'listing changes', 'listings change')}
          {!on && <span className="muted"> (switched off; effect if it were on)</span>}
        </span>
        <span className="small tone-risk">{view.remarks.map(({ words }) => words).join(' · ')}</span>
      </div>
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
