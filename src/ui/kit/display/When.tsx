'use client';
import {
  daysBetween,
  formatDate,
  formatDateTime,
  formatTime,
  formatting,
} from '@/core/formatting/formatting';

interface WhenProps {
  at: Date;
  /** The zone it was set for; the shop's by default. */
  zone?: string | undefined;
}

const dayWords: Readonly<Record<number, string>> = { 0: 'today', 1: 'tomorrow', [-1]: 'yesterday' };

/** A time as a person says it, in the shop's zone and locale. The complete date is its title. */
export function When({ at, zone }: WhenProps) {
  const own = formatting().zone;
  const day = dayWords[daysBetween(new Date(), at, zone)] ?? formatDate(at, zone);
  const named = zone && zone !== own ? ` (${zone.split('/').at(-1)?.replace(/_/g, ' ')})` : '';
  return (
    // Between server and browser midnight may pass.
    <time dateTime={at.toISOString()} title={formatDateTime(at, zone)} suppressHydrationWarning>
      {day} {formatTime(at, zone)}
      {named}
    </time>
  );
}
