'use client';
import { DateInput } from '@mantine/dates';
import { dayOrder, formatDay, readDay } from '@/core/formatting/formatting';

interface DateFieldProps {
  name: string;
  /** A day as 2026-11-23, or empty. */
  value: string;
  width?: number | string;
  autoFocus?: boolean;
  /** The day, or empty text where it was cleared. */
  onSave(day: string): void;
  onLeave?(): void;
}

/** A day, typed or picked from a calendar; shown and read in the locale of Settings, whatever the browser's is. */
export function DateField({ name, value, width, autoFocus = false, onSave, onLeave }: DateFieldProps) {
  return (
    <DateInput
      aria-label={name}
      size="xs"
      clearable
      {...(width === undefined ? {} : { w: width })}
      autoFocus={autoFocus}
      value={value === '' ? null : value}
      valueFormat={formatDay}
      dateParser={(typed) => readDay(typed) ?? null}
      placeholder={dayOrder()}
      popoverProps={{ withinPortal: true }}
      onChange={(day) => {
        if ((day ?? '') !== value) onSave(day ?? '');
      }}
      onKeyDown={({ key }) => {
        if (key === 'Escape') onLeave?.();
      }}
    />
  );
}
