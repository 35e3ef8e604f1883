import { InputError } from '../../core/errors/inputError';
import { copiedRule, nextRuleId } from '../../core/rules/copying';
import { editDraft, plannedFeed } from './drafts';
import { feedName } from './feedName';

/** Where a rule was copied to, and where it could not be, with what is missing there. */
export interface RuleCopies {
  readonly told: readonly string[];
  readonly refused: readonly string[];
}

/**
 * Copies a rule of a draft into the drafts of other feeds, behind their own, on the fields that have the same job there. Where the
 * same rule stands already, it is not put a second time.
 */
export async function copyRule(feed: string, id: string, targets: readonly string[]): Promise<RuleCopies> {
  const { plans, sheet } = await plannedFeed(feed);
  const rule = plans.draft.rules.find((one) => one.id === id);
  if (!rule) throw new InputError('noRule');
  const reported: string[] = [];
  const refused: string[] = [];
  for (const target of targets) {
    const there = await plannedFeed(target);
    const name = await feedName(there.plans.head);
    const copied = copiedRule(rule, sheet, there.sheet);
    if ('missing' in copied) {
      refused.push(`${name} does not have: ${copied.missing.join(', ')}`);
      continue;
    }
    const { rules } = there.plans.draft;
    const does = ({ when, then }: typeof rule) => JSON.stringify([when, then]);
    if (rules.some((one) => does(one) === does(copied.rule))) {
      refused.push(`${name} already has this rule`);
      continue;
    }
    const done = await editDraft(target, there.plans.revision, {
      edit: 'addRule',
      rule: { ...copied.rule, id: nextRuleId(rules) },
    });
    if (done.ok) reported.push(name);
    else refused.push(`${name} was changed by someone else at the same time`);
  }
  return { told: reported, refused };
}
