'use client';
import { Button } from '@mantine/core';
import { useState } from 'react';
import type { OwnCheck } from '@/core/checks/ownCheck';
import type { OwnOpen } from '@/server/stages/checks';
import { ConditionEditor } from '../conditions/ConditionEditor';
import { useDraft } from '../draft/useDraft';
import { useAddress } from '../kit/hooks/useAddress';
import { AutosaveTextField, coded, SelectField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';

const severities = [
  ['blocker', 'blocker'],
  ['risk', 'warning'],
  ['tip', 'tip'],
] as const;

/** A check of the merchant's own: what is wrong where a condition holds. Tried on every listing while it is written. */
export function OwnCheckForm({ open }: { open: OwnOpen }) {
  const draft = useDraft();
  const { go } = useAddress();
  const [begun, setBegun] = useState(open.check);
  // A new one is saved when it is added; one that is there at each change.
  const check = open.saved ? open.check : begun;
  const put = (set: Partial<OwnCheck>) => {
    const next = { ...check, ...set };
    if (!open.saved) setBegun(next);
    else void draft.save({ edit: 'checks', own: { [open.id]: next } });
  };
  const same = JSON.stringify(check.when) === JSON.stringify(open.check.when);
  const remove = async () => {
    if (!open.saved || (await draft.save({ edit: 'checks', own: { [open.id]: null } })))
      go({ own: undefined, about: undefined, words: undefined });
  };
  return (
    <section className="fix own-check" aria-label="Own check" aria-busy={draft.busy}>
      <div className="row">
        <SelectField
          name="Report a"
          shown="beside"
          value={check.severity}
          options={severities}
          onChange={(text) => put({ severity: severities.find(([one]) => one === text)?.[0] ?? 'risk' })}
        />
        <SelectField
          name="at the field"
          shown="beside"
          value={check.field}
          options={coded(open.fields)}
          onChange={(field) => put({ field })}
        />
        <span className="grow" />
        {!open.saved && (
          <Button
            onClick={async () => {
              const added = { edit: 'checks' as const, own: { [open.id]: check } };
              if (await draft.save(added)) go({ own: open.id, about: undefined, words: undefined });
            }}
          >
            Add check
          </Button>
        )}
        <TextButton onClick={() => void remove()}>{open.saved ? 'Delete check' : 'Cancel'}</TextButton>
      </div>
      <AutosaveTextField
        name="Problem"
        shown="above"
        placeholder="for example: Pots above 40 EUR want a second picture"
        needed
        width="100%"
        value={check.words}
        onSave={(words) => put({ words })}
      />
      <ConditionEditor
        word="on listings where"
        condition={check.when}
        attributes={open.attributes}
        fields={open.fields}
        branches={open.branches}
        {...(same && open.saved ? { met: open.met } : {})}
        onChange={(when) => put({ when })}
      />
    </section>
  );
}
