'use client';
import { type ReactNode, useEffect, useState } from 'react';
import { useDraft } from '../draft/useDraft';
import { Tick } from '../kit/inputs';

interface MetBoxProps {
  /** Code of the condition, or the document's name. */
  what: string;
  met: boolean;
  children: ReactNode;
}

/** The merchant's word that something the channel wants is there. Shows at once, and as it was where it is not saved. */
export function MetBox({ what, met, children }: MetBoxProps) {
  const draft = useDraft();
  const [on, setOn] = useState(met);
  useEffect(() => setOn(met), [met]);
  return (
    <div className="row met-box">
      <Tick
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
