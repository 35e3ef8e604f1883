'use client';
import { Button, Popover } from '@mantine/core';
import { useState } from 'react';
import type { SeverityOverride } from '@/core/checks/severityOverrides';
import { counted } from '@/core/formatting/formatting';
import { readDate } from '@/core/measures/dates';
import type { OpenCheck, WaivedIssue } from '@/server/stages/checks';
import { useDraft } from '../draft/useDraft';
import { SelectField, TextField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';

const severityChoices: readonly (readonly [SeverityOverride | '', string])[] = [
  ['', 'as on the channel'],
  ['blocker', 'blocker'],
  ['risk', 'warning'],
  ['tip', 'tip'],
  ['off', 'off'],
];

/** How serious a check is taken on this feed, and for which items it is not made. */
export function SeverityOverrides({ open }: { open: OpenCheck }) {
  const draft = useDraft();
  return (
    <div className="judging" aria-busy={draft.busy}>
      <SelectField
        name="On this feed:"
        shown="beside"
        value={open.judged ?? ''}
        options={open.compared ? severityChoices.filter(([one]) => one !== 'blocker') : severityChoices}
        onChange={(text) => {
          const judged = severityChoices.find(([one]) => one === text)?.[0];
          void draft.save({ edit: 'checks', severity: { [open.key]: judged || null } });
        }}
      />
      {open.skus.length > 0 && <Waive open={open} />}
    </div>
  );
}

function Waive({ open }: { open: OpenCheck }) {
  const draft = useDraft();
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState('');
  const [until, setUntil] = useState('');
  const right = reason.trim() !== '' && (until === '' || readDate(until) === until);
  return (
    <Popover opened={asking} onChange={setAsking} position="bottom-end" width={320} trapFocus>
      <Popover.Target>
        <TextButton onClick={() => setAsking(!asking)}>
          Waive it for {counted(open.skus.length, 'listing')}
        </TextButton>
      </Popover.Target>
      <Popover.Dropdown>
        <form
          className="waive"
          onSubmit={(event) => {
            event.preventDefault();
            if (!right) return;
            setAsking(false);
            const id = `${open.key} ${Date.now().toString(36)}`;
            const waiver = {
              check: open.key,
              skus: [...open.skus],
              reason: reason.trim(),
              ...(until === '' ? {} : { until }),
            };
            void draft.save({ edit: 'checks', waived: { [id]: waiver } });
          }}
        >
          <TextField name="Reason" shown="above" value={reason} onChange={setReason} />
          <TextField
            name="Until"
            shown="above"
            placeholder="2027-03-31, or empty for no end"
            value={until}
            onChange={setUntil}
          />
          <Button type="submit" disabled={!right}>
            Waive
          </Button>
        </form>
      </Popover.Dropdown>
    </Popover>
  );
}

/** What was said of a check, to be taken back. */
export function OverrideLine({ said }: { said: WaivedIssue }) {
  const draft = useDraft();
  return (
    <div className="said small">
      <span>{said.words}</span>
      <TextButton
        onClick={() =>
          void draft.save({
            edit: 'checks',
            ...(said.waiver === undefined
              ? { severity: { [said.key]: null } }
              : { waived: { [said.waiver]: null } }),
          })
        }
      >
        Undo
      </TextButton>
    </div>
  );
}
