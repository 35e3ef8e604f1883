'use client';
import { Button } from '@mantine/core';
import { type SaveQueue, type SavingState, useSavingState } from '../hooks/useSaveQueue';

const words: { readonly [K in Exclude<SavingState, 'saved'>]: string } = {
  pending: 'saving …',
  offline: 'offline; your changes are kept here and saved later',
  outdated: 'not saved: Lively Cart was updated.',
};

/** Says what is not saved yet, and nothing where everything is. */
export function SavingMark({ lane }: { lane: SaveQueue }) {
  const state = useSavingState(lane);
  if (state === 'saved') return null;
  return (
    <span className={state === 'pending' ? 'small muted' : 'small tone-risk'} role="status">
      {words[state]}
      {state === 'outdated' && (
        <>
          {' '}
          <Button size="compact-xs" variant="default" onClick={() => window.location.reload()}>
            Reload
          </Button>
        </>
      )}
    </span>
  );
}
