'use client';
import { Button, Switch } from '@mantine/core';
import { IconArrowUp } from '@tabler/icons-react';
import { actionWords, type Rule } from '@/core/rules/rule';
import type { RulesStage } from '@/server/feeds/rulesStage';
import { useAddress } from '../bench/useAddress';
import { useDraft } from '../bench/useDraft';
import { conditionWords } from '../conditions/words';
import { RuleForm } from './RuleForm';
import './rules.css';

/** The Rules stage: rules in order, each with what it does to the catalog, edited in place. */
export function RulesBench({ stage }: { stage: RulesStage }) {
  const { query, go } = useAddress();
  const draft = useDraft();
  const open = query.get('rule');
  const rules = stage.rules.map(({ rule }) => rule);
  const save = (changed: Rule[]) => draft.save({ edit: 'rules', rules: changed });
  const labelOf = (kind: 'attribute' | 'field', code: string) =>
    (kind === 'attribute' ? stage.attributes : stage.fields).find((one) => one.code === code)?.label ?? code;
  const add = async () => {
    // The number is one above all that were ever used here, so that an id never names two rules.
    const next = 1 + Math.max(0, ...rules.map(({ id }) => Number(/^rule-(\d+)$/.exec(id)?.[1] ?? 0)));
    const id = `rule-${next}`;
    const rule: Rule = {
      id,
      name: 'New rule',
      on: true,
      when: { all: [{ attribute: 'name', is: 'contains', value: 'word' }] },
      then: [{ do: 'replace', field: stage.fields[1]?.code ?? '', find: 'word', with: '' }],
    };
    if (await save([...rules, rule])) go({ rule: id });
  };
  return (
    <>
      <div className="bench-head">
        <span className="grow muted small">
          Rules run from top to bottom, after mapping and titles. Each is tried on the whole catalog as you
          write it.
        </span>
        <Button variant="default" onClick={() => void add()}>
          Add rule
        </Button>
      </div>
      <div className="bench-body" aria-busy={draft.busy}>
        {stage.rules.length === 0 && (
          <div className="empty">
            <b>No rules yet.</b>
            <span className="muted">
              A rule changes a field or leaves an item out where a condition holds. Most feeds need only a
              few.
            </span>
            <Button onClick={() => void add()}>Add the first rule</Button>
          </div>
        )}
        {stage.rules.map((view, at) => {
          const { rule } = view;
          const put = (changed: Rule) => void save(rules.map((old, i) => (i === at ? changed : old)));
          return (
            <div
              key={rule.id}
              className={`rule ${view.state === 'same' ? '' : 'changed'} ${rule.on ? '' : 'off'}`}
            >
              <div className="rule-line">
                <span className="muted">{at + 1}</span>
                <button
                  type="button"
                  className="plain"
                  style={{ minWidth: 0 }}
                  aria-expanded={open === rule.id}
                  aria-label={`Rule ${rule.name}`}
                  onClick={() => go({ rule: open === rule.id ? undefined : rule.id })}
                >
                  <b>{rule.name}</b>{' '}
                  {view.state !== 'same' && (
                    <span className="small tone-draft">
                      {view.state === 'new' ? 'new in draft' : 'changed in draft'}
                    </span>
                  )}
                  <span className="small muted cut" style={{ display: 'block' }}>
                    when {conditionWords(rule.when, labelOf)}, then{' '}
                    {rule.then
                      .map((action) => actionWords(action, (code) => labelOf('field', code)))
                      .join(', ')}
                  </span>
                </button>
                <span className="small">
                  {view.matches} match, {view.changes} change
                </span>
                <span className="row">
                  <Switch
                    size="xs"
                    checked={rule.on}
                    aria-label={`${rule.name} is on`}
                    onChange={(event) => put({ ...rule, on: event.currentTarget.checked })}
                  />
                  {at > 0 && (
                    <button
                      type="button"
                      className="plain"
                      aria-label={`Move ${rule.name} up`}
                      onClick={() =>
                        void save([
                          ...rules.slice(0, at - 1),
                          rule,
                          ...rules.slice(at - 1, at),
                          ...rules.slice(at + 1),
                        ])
                      }
                    >
                      <IconArrowUp size={14} />
                    </button>
                  )}
                </span>
              </div>
              {open === rule.id && (
                <RuleForm
                  view={view}
                  stage={stage}
                  onChange={put}
                  onRemove={() => void save(rules.filter((_, i) => i !== at))}
                />
              )}
            </div>
          );
        })}
      </div>
    </>
  );
}
