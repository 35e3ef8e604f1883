'use client';
import { Button } from '@mantine/core';
import { useForm } from '@mantine/form';
import { notifications } from '@mantine/notifications';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { fetchSourceNow, saveAddress } from '@/actions/sources';
import { type Schedule, scheduleSchema } from '@/core/schedule/schedule';
import { bound, Tick, Words } from '../kit/inputs';
import { ScheduleFields } from '../kit/ScheduleFields';
import { TextButton } from '../kit/TextButton';

interface AddressFormProps {
  source: number;
  name: string;
  address: string;
  schedule: Schedule | null;
  automatic: boolean;
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
      notifications.show(
        answer.ok ? { message: done, autoClose: 2500 } : { color: 'red', message: answer.words },
      );
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
        }),
      'Saved',
    );
  return (
    <>
      {given.address && (
        <Button
          variant="default"
          disabled={busy}
          onClick={() => act(() => fetchSourceNow(source), 'Being fetched')}
        >
          Fetch now
        </Button>
      )}
      <TextButton aria-expanded={open} onClick={() => setOpen(!open)}>
        {given.address ? 'Address' : 'Fetch from an address'}
      </TextButton>
      {open && (
        <fieldset className="address-form" aria-label={`Address of ${name}`}>
          <Words name="Address" shown="beside" mono width={330} {...bound(form, 'address')} />
          <Tick
            name="fetched by itself"
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
              onRefused={(words) => notifications.show({ color: 'yellow', message: words })}
            />
          )}
          <Tick
            name="bring in without asking"
            checked={values.automatic}
            onChange={(on) => form.setFieldValue('automatic', on)}
          />
          <Button disabled={busy} onClick={save}>
            Save address
          </Button>
        </fieldset>
      )}
    </>
  );
}
