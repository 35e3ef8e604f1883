'use client';
import { Progress } from '@mantine/core';
import { useEffect, useState } from 'react';
import { formatNumber } from '@/core/formatting/formatting';

interface Work {
  readonly what: 'reading' | 'evaluating';
  readonly feed: string;
  /** Items it has done, and has to do. */
  readonly done: number;
  readonly of: number;
}

const wordsOf = ({ what, feed, done, of }: Work): string =>
  what === 'reading'
    ? 'Reading the catalog.'
    : `${feed}: ${formatNumber(done)} of ${formatNumber(of)} listings are evaluated.`;

/** From an answer to the next question, in ms: one question at a time, for an evaluator that is away keeps it waiting. */
const askAfter = 1000;

/** What is being worked out over the whole catalog, and how far it is, while this is shown. */
export function WorkProgress() {
  const [underWay, setUnderWay] = useState<readonly Work[]>([]);
  useEffect(() => {
    const left = new AbortController();
    let timer: number;
    const askLater = () => {
      timer = window.setTimeout(async () => {
        try {
          const answer = await fetch('/api/progress', { signal: left.signal });
          if (answer.ok) setUnderWay(await answer.json());
        } catch {
          // Where nobody answers now the next time may.
        }
        if (!left.signal.aborted) askLater();
      }, askAfter);
    };
    askLater();
    return () => {
      left.abort();
      window.clearTimeout(timer);
    };
  }, []);
  return underWay.map((work, at) => (
    // biome-ignore lint/suspicious/noArrayIndexKey: work has no name; it comes at the end and goes
    <span key={at} className="under-way">
      {wordsOf(work)}
      {work.of > 0 && <Progress value={(100 * work.done) / work.of} aria-label={wordsOf(work)} />}
    </span>
  ));
}
