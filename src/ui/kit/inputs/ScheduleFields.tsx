'use client';
import { useState } from 'react';
import { settingsOf, withSetting } from '@/core/forms/forms';
import { type Schedule, scheduleSchema, scheduleTrouble, timesAskedIn } from '@/core/schedule/schedule';
import { Settings } from './Settings';

const settings = settingsOf(scheduleSchema);

interface ScheduleFieldsProps {
  /** What is done at these times; told to screen readers before each setting. */
  of: string;
  schedule: Schedule;
  onSet(schedule: Schedule): void;
  onRefused(words: string): void;
}

/** When something is done by itself: the settings that its kind asks for. */
export function ScheduleFields({ of, schedule: saved, onSet, onRefused }: ScheduleFieldsProps) {
  /** What was typed and cannot be saved yet: it stays, with what is missing. */
  const [open, setOpen] = useState<Schedule>();
  const schedule = open ?? saved;
  const trouble = open && scheduleTrouble(open);
  return (
    <>
      <Settings
        of={of}
        settings={timesAskedIn(schedule.every).flatMap((name) =>
          settings.filter((setting) => setting.name === name),
        )}
        values={schedule}
        onSet={(setting, text) => {
          const next = scheduleSchema.safeParse(withSetting(schedule, setting, text));
          if (next.success) {
            const incomplete = scheduleTrouble(next.data) !== undefined;
            setOpen(incomplete ? next.data : undefined);
            if (!incomplete) onSet(next.data);
          } else onRefused(next.error.issues[0]?.message ?? 'The schedule is not valid.');
        }}
      />
      {trouble && (
        <span className="small tone-blocker" role="alert">
          {trouble}
        </span>
      )}
    </>
  );
}
