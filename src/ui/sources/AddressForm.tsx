'use client';
import { Button } from '@mantine/core';
import { useForm } from '@mantine/form';
import { notifications } from '@mantine/notifications';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { fetchSourceNow, saveAddress } from '@/actions/import';
import { settingsOf } from '@/core/forms/forms';
import { type ImportLimits, importLimitsSchema } from '@/core/import/importReview';
import { type Schedule, scheduleSchema } from '@/core/schedule/schedule';
import { bound, CheckboxField, TextField } from '../kit/inputs/inputs';
import { ScheduleFields } from '../kit/inputs/ScheduleFields';
import { Settings } from '../kit/inputs/Settings';
import { TextButton } from '../kit/inputs/TextButton';
import { clearRefusal, showRefusal } from '../kit/refusals';

const limits = settingsOf(importLimitsSchema);

interface AddressFormProps {
  source: number;
  name: string;
  address: string;
  schedule: Schedule | null;
  automatic: boolean;
  limits: ImportLimits;
}

/** Where a source is fetched from, when, and whether it comes in without being asked. */
export function AddressForm({ source, name, ...given }: AddressFormProps) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const form = useForm({ initialValues: given });
  const { values } = form;
  const [busy, startBusy] = useTransition();
  const act = (work: () => Promise<{ ok: true } | { ok: false; words: string }>, done: string) =>
    startBusy(async () => {
      const answer = await work();
      if (answer.ok) {
        clearRefusal();
        notifications.show({ message: done, autoClose: 2500 });
      } else showRefusal(answer.words);
      if (answer.ok) setOpen(false);
      router.refresh();
    });
  const save = () =>
    act(
      () =>
        saveAddress(source, {
          address: values.address.trim() || null,
          schedule: values.schedule,
          automatic: values.automatic,
          limits: values.limits,
        }),
      'Saved',
    );
  return (
    <>
      {given.address && (
        <Button
          variant="default"
          disabled={busy}
          onClick={() => act(() => fetchSourceNow(source), 'Fetching')}
        >
          Fetch now
        </Button>
      )}
      <TextButton aria-expanded={open} onClick={() => setOpen(!open)}>
        {given.address ? 'Address' : 'Fetch from an address'}
      </TextButton>
      {open && (
        <fieldset className="address-form" aria-label={`Address of ${name}`}>
          <TextField name="Address" shown="beside" mono width={330} {...bound(form, 'address')} />
          <CheckboxField
            name="fetched on a schedule"
            checked={values.schedule !== null}
            onChange={(on) =>
              form.setFieldValue('schedule', on ? scheduleSchema.parse({ every: 'day', at: '04:30' }) : null)
            }
          />
          {values.schedule && (
            <ScheduleFields
              of="Fetched"
              schedule={values.schedule}
              onSet={(schedule) => form.setFieldValue('schedule', schedule)}
              onRefused={(words) => showRefusal(words)}
            />
          )}
          <CheckboxField
            name="import without review"
            checked={values.automatic}
            onChange={(on) => form.setFieldValue('automatic', on)}
          />
          {values.automatic && (
            <fieldset className="plain-group" aria-label="Held for review beyond">
              <p className="small muted">An import is held for review, and you are notified, beyond:</p>
              <div className="row" style={{ flexWrap: 'wrap' }}>
                <Settings
                  of="Held for review"
                  settings={limits}
                  values={values.limits}
                  onSet={({ name: limit, label }, text) => {
                    const read = importLimitsSchema.safeParse({ ...values.limits, [limit]: Number(text) });
                    if (read.success) form.setFieldValue('limits', read.data);
                    else showRefusal(`${label}: a number from 0 to 100.`);
                  }}
                />
              </div>
            </fieldset>
          )}
          <Button disabled={busy} onClick={save}>
            Save address
          </Button>
        </fieldset>
      )}
    </>
  );
}
