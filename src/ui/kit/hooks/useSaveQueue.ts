'use client';
import { unstable_isUnrecognizedActionError as isOfOlderBuild } from 'next/navigation';
import { useCallback, useRef, useSyncExternalStore } from 'react';
import type { Press, Refusal } from '@/actions/action';
import { newRequestId } from './requestId';

/** How it stands with what a person has changed on a page. */
export type SavingState = 'saved' | 'pending' | 'offline' | 'outdated';

/** What was not saved because the server fails, not the network: how often it is asked before it is given up. */
const MAX_TRIES = 3;

/**
 * Whether an error says that the server was not reached: browsers throw a TypeError where a request fails on its way. All else
 * is an answer, and does not go away by itself.
 */
const isUnreached = (error: unknown): boolean =>
  error instanceof TypeError || (typeof navigator !== 'undefined' && navigator.onLine === false);

/**
 * Saves one after the other. One person's quick changes never stand in each other's way, and what does not reach the server
 * is kept and sent again until it does.
 */
export class SaveQueue {
  private last: Promise<unknown> = Promise.resolve();
  private open = 0;
  private away = 0;
  private outdated = false;
  private readonly listeners = new Set<() => void>();

  get state(): SavingState {
    return this.outdated ? 'outdated' : this.away > 0 ? 'offline' : this.open > 0 ? 'pending' : 'saved';
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  private tell(change: () => void): void {
    change();
    for (const listener of this.listeners) listener();
  }

  /**
   * Runs work when all before it has ended; tries again while the server is not reached. Where the server is reached and fails,
   * it is given up after a few tries and refused in words.
   * @param work gets the number of the press, the same for each try, to hand on to the action
   */
  run<T>(work: (press: Press) => Promise<T>): Promise<T | Refusal> {
    const press = { press: newRequestId() };
    const mine = this.last.then(() => this.reach(() => work(press)));
    this.last = mine.catch(() => undefined);
    return mine;
  }

  private async reach<T>(work: () => Promise<T>): Promise<T | Refusal> {
    this.tell(() => this.open++);
    let failed = 0;
    try {
      for (let tried = 0; ; tried++)
        try {
          return await work();
        } catch (error) {
          // The server knows this page's actions no more: sending again never helps, and what was typed stays to be seen.
          if (isOfOlderBuild(error)) {
            this.tell(() => {
              this.outdated = true;
            });
            return await new Promise<never>(() => undefined);
          }
          if (!isUnreached(error) && ++failed >= MAX_TRIES)
            return {
              ok: false,
              reason: 'refused',
              words: 'The server failed and this change was not saved. Your text is still here; try again.',
            };
          this.tell(() => this.away++);
          await untilOnline(Math.min(8000, 500 * 2 ** tried));
          this.tell(() => this.away--);
        }
    } finally {
      this.tell(() => this.open--);
    }
  }
}

/** Waits some ms, or until the browser says it has a network again. */
const untilOnline = (ms: number): Promise<void> =>
  new Promise((resolve) => {
    const done = () => {
      window.removeEventListener('online', done);
      clearTimeout(timer);
      resolve();
    };
    const timer = setTimeout(done, ms);
    window.addEventListener('online', done);
  });

/** A lane of this component's own. */
export function useSaveQueue(): SaveQueue {
  const lane = useRef<SaveQueue>(null);
  lane.current ??= new SaveQueue();
  return lane.current;
}

/** How it stands with a lane, kept current. */
export const useSavingState = (lane: SaveQueue): SavingState =>
  useSyncExternalStore(
    lane.subscribe,
    useCallback(() => lane.state, [lane]),
    () => 'saved',
  );
