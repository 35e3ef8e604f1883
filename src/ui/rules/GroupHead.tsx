'use client';
import { Switch } from '@mantine/core';
import { IconChevronDown, IconChevronRight } from '@tabler/icons-react';
import { counted } from '@/core/formatting/formatting';
import type { Rule } from '@/core/rules/rule';
import { AutosaveTextField } from '../kit/inputs/inputs';

/** The head of rules that are shown together: folds them away, calls them otherwise, switches them all. */
export function GroupHead({
  name,
  rules,
  open,
  onFold,
  onSet,
}: {
  name: string;
  rules: readonly Rule[];
  open: boolean;
  onFold(): void;
  onSet(set: { on: boolean } | { name: string | null }): void;
}) {
  const on = rules.filter((rule) => rule.on).length;
  const Chevron = open ? IconChevronDown : IconChevronRight;
  return (
    <div className="rule-group">
      <button
        type="button"
        className="plain"
        aria-expanded={open}
        aria-label={`${open ? 'Collapse' : 'Expand'} the group ${name}`}
        onClick={onFold}
      >
        <Chevron size={15} />
      </button>
      <AutosaveTextField
        name={`Name of the group ${name}`}
        value={name}
        width={230}
        onSave={(text) => onSet({ name: text === '' ? null : text })}
      />
      <span className="small muted">
        {counted(rules.length, 'rule')}
        {on < rules.length && `, ${on === 0 ? 'none' : on} on`}
      </span>
      <Switch
        size="xs"
        checked={on === rules.length}
        aria-label={`All rules of ${name} are on`}
        onChange={(event) => onSet({ on: event.currentTarget.checked })}
      />
    </div>
  );
}
