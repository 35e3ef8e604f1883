'use client';
import { Button } from '@mantine/core';
import { TimeInput } from '@mantine/dates';
import { useForm } from '@mantine/form';
import { notifications } from '@mantine/notifications';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { fetchSourceNow, saveAddress } from '@/actions/sources';
import { bound, Choice, Tick, Words } from '../kit/inputs';
import { TextButton } from '../kit/TextButton';

interface AddressFormProps {
  source: number;
  name: string;
  address: string;
  every: 'hour' | 'day' | 'week' | '';
  at: string;
  zone: string;
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
          schedule: values.every === '' ? null : { every: values.every, at: values.at, zone: values.zone },
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
          <Choice
            name="fetched"
            shown="beside"
            options={[
              ['', 'when asked'],
              ['hour', 'every hour'],
              ['day', 'every day'],
              ['week', 'every Monday'],
            ]}
            {...bound(form, 'every')}
          />
          {values.every !== '' && (
            <span className="row small muted">
              at
              <TimeInput aria-label="at" size="xs" w={92} {...form.getInputProps('at')} />
              {values.zone}
            </span>
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
