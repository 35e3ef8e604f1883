'use client';
import type { z } from 'zod';
import { settingsOf, withSetting } from '@/core/forms/forms';
import type { Action } from '../kit/hooks/useAction';
import { Settings } from '../kit/inputs/Settings';

interface SavedSettingsProps<T extends z.ZodObject> {
  of: string;
  schema: T;
  values: z.infer<T>;
  doing: Action;
  store(values: z.infer<T>): Parameters<Action['run']>[0];
}

/** Settings of the whole shop in a row, each saved when it is set; what the type refuses is told in its words. */
export function SavedSettings<T extends z.ZodObject>({
  of,
  schema,
  values,
  doing,
  store,
}: SavedSettingsProps<T>) {
  return (
    <div className="row" style={{ flexWrap: 'wrap' }}>
      <Settings
        of={of}
        settings={settingsOf(schema)}
        values={values}
        onSet={(setting, text) => {
          const next = schema.safeParse(withSetting(values, setting, text));
          doing.run(
            next.success
              ? store(next.data)
              : Promise.resolve({
                  ok: false,
                  words: next.error.issues[0]?.message ?? 'This value is not valid.',
                }),
          );
        }}
      />
    </div>
  );
}
