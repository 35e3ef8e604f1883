'use client';
import { Button } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { fetchSourceNow, saveAddress } from '@/actions/sources';

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
  const [form, setForm] = useState(given);
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
          address: form.address.trim() || null,
          schedule: form.every === '' ? null : { every: form.every, at: form.at, zone: form.zone },
          automatic: form.automatic,
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
      <button type="button" className="link" aria-expanded={open} onClick={() => setOpen(!open)}>
        {given.address ? 'Address' : 'Fetch from an address'}
      </button>
      {open && (
        <fieldset className="address-form" aria-label={`Address of ${name}`}>
          <label className="row small muted">
            Address
            <input
              className="cell mono"
              style={{ width: 330 }}
              value={form.address}
              onChange={(event) => setForm({ ...form, address: event.target.value })}
            />
          </label>
          <label className="row small muted">
            fetched
            <select
              className="cell"
              value={form.every}
              onChange={(event) =>
                setForm({ ...form, every: event.target.value as AddressFormProps['every'] })
              }
            >
              <option value="">when asked</option>
              <option value="hour">every hour</option>
              <option value="day">every day</option>
              <option value="week">every Monday</option>
            </select>
          </label>
          {form.every !== '' && (
            <label className="row small muted">
              at
              <input
                className="cell"
                type="time"
                value={form.at}
                onChange={(event) => setForm({ ...form, at: event.target.value })}
              />
              {form.zone}
            </label>
          )}
          <label className="row small">
            <input
              type="checkbox"
              checked={form.automatic}
              onChange={(event) => setForm({ ...form, automatic: event.target.checked })}
            />
            bring in without asking
          </label>
          <Button disabled={busy} onClick={save}>
            Save address
          </Button>
        </fieldset>
      )}
    </>
  );
}
