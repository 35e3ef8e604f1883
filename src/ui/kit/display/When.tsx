'use client';
import { useEffect, useState } from 'react';

interface WhenProps {
  at: Date;
  /** The zone it was set for; the reader's own where left out. */
  zone?: string | undefined;
}

const dayIn = (at: Date, timeZone: string | undefined): number => {
  const parts = new Intl.DateTimeFormat('en', {
    year: 'numeric',
    month: 'numeric',
    day: 'numeric',
    ...(timeZone ? { timeZone } : {}),
  }).formatToParts(at);
  const of = (type: string) => Number(parts.find((part) => part.type === type)?.value);
  return Date.UTC(of('year'), of('month') - 1, of('day')) / 86_400_000;
};

const dayWords: Readonly<Record<number, string>> = { 0: 'today', 1: 'yesterday', [-1]: 'tomorrow' };

/** A time as a person says it. Rendered after loading: the server knows another zone and another language. */
export function When({ at, zone }: WhenProps) {
  const [words, setWords] = useState('');
  useEffect(() => {
    const inZone = zone ? { timeZone: zone } : {};
    const days = dayIn(new Date(), zone) - dayIn(at, zone);
    const time = at.toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', ...inZone });
    const own = Intl.DateTimeFormat().resolvedOptions().timeZone;
    const named = zone && zone !== own ? ` (${zone.split('/').at(-1)?.replace(/_/g, ' ')})` : '';
    const day =
      dayWords[days] ??
      at.toLocaleDateString([], Math.abs(days) < 7 ? { weekday: 'long', ...inZone } : inZone);
    setWords(`${day} ${time}${named}`);
  }, [at, zone]);
  return <time dateTime={at.toISOString()}>{words}</time>;
}
