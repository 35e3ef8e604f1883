'use client';
import { settingsOf, withSetting } from '@/core/forms/forms';
import { askedIn, type Schedule, scheduleSchema } from '@/core/schedule/schedule';
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
export function ScheduleFields({ of, schedule, onSet, onRefused }: ScheduleFieldsProps) {
  return (
    <Settings
      of={of}
      settings={askedIn(schedule.every).flatMap((name) =>
        settings.filter((setting) => setting.name === name),
      )}
      values={schedule}
      onSet={(setting, text) => {
        const next = scheduleSchema.safeParse(withSetting(schedule, setting, text));
        if (next.success) onSet(next.data);
        else onRefused(next.error.issues[0]?.message ?? 'It is not valid.');
      }}
    />
  );
}
