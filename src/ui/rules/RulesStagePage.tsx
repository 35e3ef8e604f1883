'use client';
import { Button, Menu, Switch } from '@mantine/core';
import { IconArrowUp } from '@tabler/icons-react';
import { useState } from 'react';
import { editRules } from '@/core/plans/edit';
import { nextRuleId } from '@/core/rules/copying';
import { actionWords, holdsBack, type Rule } from '@/core/rules/rule';
import type { RulesStage } from '@/server/stages/rules';
import { conditionText } from '../conditions/labels';
import { useEdited } from '../draft/useDraft';
import { useOpen } from '../kit/hooks/useOpen';
import { type RuleChanges, RuleForm } from './RuleForm';
import './rules.css';
import { FilterChips } from '../kit/display/FilterChips';
import { Empty } from '../kit/Empty';
import { SearchField } from '../kit/inputs/inputs';
import { OrderedList } from '../kit/inputs/OrderedList';
import { GroupHead } from './GroupHead';

type FilterKey = 'all' | 'prices' | 'titles' | 'leaveOut' | 'look';
const writes = (rule: Rule, wanted: string | undefined): boolean =>
  rule.then.some((action) => 'field' in action && action.field === wanted);
const filters: readonly (readonly [FilterKey, string, (rule: Rule, stage: RulesStage) => boolean])[] = [
  ['all', 'All', () => true],
  ['prices', 'Prices', (rule, { priceField }) => writes(rule, priceField)],
  ['titles', 'Titles', (rule, { titleField }) => writes(rule, titleField)],
  ['leaveOut', 'Exclude', ({ then }) => then.some((action) => action.do === 'leaveOut')],
  [
    'look',
    'Review',
    ({ id }, stage) => (stage.rules.find(({ rule }) => rule.id === id)?.remarks.length ?? 0) > 0,
  ],
];

/** With fewer rules than this the page offers ready-made ones below them. */
const FEW_RULES = 4;

/** The Rules stage: rules in order, each with what it does to the catalog, edited in place. */
export function RulesStagePage({ stage }: { stage: RulesStage }) {
  const { open, setOpen, toggle } = useOpen('rule', true);
  const {
    draft,
    shown: rules,
    save,
  } = useEdited(
    stage.rules.map(({ rule }) => rule),
    editRules,
  );
  const views = new Map(stage.rules.map((view) => [view.rule.id, view]));
  const labelOf = (kind: 'attribute' | 'field', code: string) =>
    (kind === 'attribute' ? stage.attributes : stage.fields).find((one) => one.code === code)?.label ?? code;
  /** A rule in words. */
  const sentenceOf = ({ when, then }: Rule): string =>
    `when ${conditionText(when, labelOf)}, then ${then
      .map((action) =>
        actionWords(
          action,
          (code) => labelOf('field', code),
          (code) => labelOf('attribute', code),
        ),
      )
      .join(', ')}`;
  const [filter, setFilter] = useState<FilterKey>('all');
  const [find, setFind] = useState('');
  /** Groups that are folded away. */
  const [closed, setClosed] = useState<ReadonlySet<string>>(new Set());
  const wanted = find.trim().toLowerCase();
  const fits = filters.find(([key]) => key === filter)?.[2];
  const shown = rules.filter(
    (rule) =>
      rule.id === open ||
      ((fits?.(rule, stage) ?? true) &&
        (wanted === '' ||
          `${rule.name} ${rule.group ?? ''} ${sentenceOf(rule)}`.toLowerCase().includes(wanted))),
  );
  /** @param from a common one that it begins as */
  const add = async (from?: Rule) => {
    const id = nextRuleId(rules);
    const rule: Rule = from
      ? { ...from, id }
      : {
          id,
          name: 'New rule',
          on: true,
          when: { all: [{ attribute: 'name', is: 'contains', value: '' }] },
          then: [{ do: 'replace', field: stage.fields[1]?.code ?? '', find: '', with: '' }],
        };
    if (await save({ edit: 'addRule', rule })) setOpen(id);
  };
  return (
    <>
      <div className="bench-head">
        <FilterChips
          options={filters.flatMap(([key, words, test]) => {
            const found = rules.filter((rule) => test(rule, stage)).length;
            return key === 'all' || found > 0 ? [[key, `${words} ${found}`] as const] : [];
          })}
          current={filter}
          onPick={setFilter}
        />
        <SearchField name="Find a rule" start="" onFind={setFind} width={140} />
        {stage.shelf.length > 0 && rules.length >= FEW_RULES && (
          <Menu position="bottom-end" width={330}>
            <Menu.Target>
              <Button variant="default">Start from a ready-made rule</Button>
            </Menu.Target>
            <Menu.Dropdown>
              {stage.shelf.map((rule) => (
                <Menu.Item key={rule.id} onClick={() => void add(rule)}>
                  <b>{rule.name}</b>
                  <span className="small muted" style={{ display: 'block' }}>
                    when {conditionText(rule.when, labelOf)}
                  </span>
                </Menu.Item>
              ))}
            </Menu.Dropdown>
          </Menu>
        )}
        <Button variant="default" onClick={() => void add()}>
          Add rule
        </Button>
      </div>
      <div className="bench-body" aria-busy={draft.busy}>
        {rules.length === 0 && (
          <Empty title="No rules yet.">
            <span className="muted">
              A rule changes a field or excludes an item under a condition. For example: when Stock is 0,
              exclude the item.
            </span>
            <Button onClick={() => void add()}>Add rule</Button>
          </Empty>
        )}
        <OrderedList
          id="rules"
          className="rule"
          rows={shown}
          keyOf={({ id }) => id}
          nameOf={({ name }) => name}
          onMove={({ id }, before) => void save({ edit: 'moveRule', id, before: before?.id ?? null })}
        >
          {(rule, place, grip) => {
            const at = rules.findIndex(({ id }) => id === rule.id);
            // What it does is counted once it is saved.
            const view = views.get(rule.id);
            const put = (set: RuleChanges) => void save({ edit: 'rule', id: rule.id, set });
            const { group } = rule;
            const heads = group !== undefined && shown[place - 1]?.group !== group;
            const folded = group !== undefined && closed.has(group) && open !== rule.id;
            if (folded && !heads) return null;
            const line = (
              <div className={`${view?.state === 'same' ? '' : 'changed'} ${rule.on ? '' : 'off'}`}>
                <div className="rule-line">
                  {grip}
                  <span className="muted">{at + 1}</span>
                  <button
                    type="button"
                    className="plain"
                    style={{ minWidth: 0 }}
                    aria-expanded={open === rule.id}
                    aria-label={`Rule ${rule.name}`}
                    onClick={() => toggle(rule.id)}
                  >
                    <b>{rule.name}</b>{' '}
                    {view?.state !== 'same' && (
                      <span className="small tone-draft">
                        {view?.state === 'changed' ? 'changed in draft' : 'new in draft'}
                      </span>
                    )}
                    <span className="small muted cut" style={{ display: 'block' }}>
                      {sentenceOf(rule)}
                    </span>
                    {open !== rule.id &&
                      rule.on &&
                      view?.remarks.map(({ remark, words }) => (
                        <span
                          key={`${remark} ${words}`}
                          className="small tone-risk cut"
                          style={{ display: 'block' }}
                        >
                          {words}
                        </span>
                      ))}
                  </button>
                  <span className="small">
                    {!view
                      ? 'updating'
                      : holdsBack(rule)
                        ? `${view.matches} for review${view.changes > 0 ? `, ${view.changes} change` : ''}`
                        : `${view.matches} match, ${view.changes} change`}
                  </span>
                  <span className="row">
                    <Switch
                      size="xs"
                      checked={rule.on}
                      aria-label={`${rule.name} is on`}
                      onChange={(event) => put({ on: event.currentTarget.checked })}
                    />
                    {at > 0 && (
                      <button
                        type="button"
                        className="plain"
                        aria-label={`Move ${rule.name} up`}
                        onClick={() =>
                          void save({ edit: 'moveRule', id: rule.id, before: rules[at - 1]?.id ?? null })
                        }
                      >
                        <IconArrowUp size={14} />
                      </button>
                    )}
                  </span>
                </div>
                {open === rule.id && (
                  <RuleForm
                    rule={rule}
                    view={view}
                    stage={stage}
                    onChange={put}
                    onRemove={() => void save({ edit: 'removeRule', id: rule.id })}
                  />
                )}
              </div>
            );
            if (group === undefined) return line;
            return (
              <>
                {heads && (
                  <GroupHead
                    name={group}
                    rules={rules.filter((one) => one.group === group)}
                    open={!closed.has(group)}
                    onFold={() =>
                      setClosed(
                        new Set(
                          closed.has(group) ? [...closed].filter((one) => one !== group) : [...closed, group],
                        ),
                      )
                    }
                    onSet={(set) => void save({ edit: 'ruleGroup', group, set })}
                  />
                )}
                {!folded && <div className="in-group">{line}</div>}
              </>
            );
          }}
        </OrderedList>
        {rules.length < FEW_RULES && stage.shelf.length > 0 && (
          <section className="ready-made" aria-label="Ready-made rules">
            <h3>Ready-made rules</h3>
            <p className="small muted">Each is added to the draft, where you can change it.</p>
            {stage.shelf.map((rule) => (
              <div key={rule.id} className="row">
                <span className="grow">
                  <b>{rule.name}</b>
                  <span className="small muted" style={{ display: 'block' }}>
                    {sentenceOf(rule)}
                  </span>
                </span>
                <Button variant="default" aria-label={`Add ${rule.name}`} onClick={() => void add(rule)}>
                  Add
                </Button>
              </div>
            ))}
          </section>
        )}
      </div>
    </>
  );
}
