'use client';
import { type Lane, type SavingState, useSavingState } from './useLane';

const words: { readonly [K in Exclude<SavingState, 'saved'>]: string } = {
  pending: 'saving …',
  offline: 'not reached; kept here and sent again',
  outdated: 'not saved: Lively Cart was renewed.',
};

/** Says what is not saved yet, and nothing where everything is. */
export function SavingMark({ lane }: { lane: Lane }) {
  const state = useSavingState(lane);
  if (state === 'saved') return null;
  return (
    <span className={state === 'pending' ? 'small muted' : 'small tone-risk'} role="status">
      {words[state]}
      {state === 'outdated' && (
        <>
          {' '}
          <button type="button" className="text" onClick={() => window.location.reload()}>
            Load again
          </button>
        </>
      )}
    </span>
  );
}
