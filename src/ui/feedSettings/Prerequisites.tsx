'use client';
import { type ReactNode, useEffect, useState } from 'react';
import type { Proof } from '@/core/plans/plan';
import { useDraft } from '../draft/useDraft';
import { DateField } from '../kit/inputs/DateField';
import { AutosaveTextField, CheckboxField } from '../kit/inputs/inputs';

interface MetBoxProps {
  /** Code of the condition, or the document's name. */
  what: string;
  met: boolean;
  children: ReactNode;
}

/** The merchant's word that something the channel wants is there. Shows at once, and as it was where it is not saved. */
export function Prerequisite({ what, met, children }: MetBoxProps) {
  const draft = useDraft();
  const [on, setOn] = useState(met);
  useEffect(() => setOn(met), [met]);
  return (
    <div className="row met-box">
      <CheckboxField
        name={what}
        words={children}
        checked={on}
        onChange={(next) => {
          setOn(next);
          void draft.save({ edit: 'met', what, on: next }).then((ok) => {
            if (!ok) setOn(!next);
          });
        }}
      />
    </div>
  );
}

interface ProofOfProps {
  what: string;
  proof: Proof | undefined;
  /** Whether it holds no more. */
  ended: boolean;
}

/** What shows that something is there: its number or file, and until when it holds. From the day after it is missing again. */
export function ProofOf({ what, proof, ended }: ProofOfProps) {
  const draft = useDraft();
  const put = (change: { says?: string; until?: string }) => {
    const { says, until } = { says: proof?.says ?? '', until: proof?.until ?? '', ...change };
    void draft.save({
      edit: 'met',
      what,
      on: true,
      proof: { says, ...(until === '' ? {} : { until }) },
    });
  };
  return (
    <div className="row small proof">
      <AutosaveTextField
        name={`Number or file of ${what}`}
        placeholder="number or file"
        width={180}
        value={proof?.says ?? ''}
        onSave={(says) => put({ says })}
      />
      <span className={ended ? 'tone-blocker' : 'muted'}>{ended ? 'ended on' : 'valid until'}</span>
      <DateField
        name={`Valid until, of ${what}`}
        width={140}
        value={proof?.until ?? ''}
        onSave={(until) => put({ until })}
      />
    </div>
  );
}
