'use client';
import { Button, Select, TextInput } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import currencies from 'currency-codes';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { storeSetup } from '@/actions/setup';

interface SetupFormProps {
  name: string;
  currency: string;
  zone: string;
  zones: readonly string[];
}

const currencyChoices = currencies.data.map(({ code, currency }) => ({
  value: code,
  label: `${code}, ${currency}`,
}));

/** The shop's name, the currency its amounts are in, and the zone its schedules go by. */
export function SetupForm({ zones, ...given }: SetupFormProps) {
  const router = useRouter();
  const [form, setForm] = useState(given);
  const [refused, setRefused] = useState('');
  const [busy, startBusy] = useTransition();
  const changed = form.name !== given.name || form.currency !== given.currency || form.zone !== given.zone;
  const save = () =>
    startBusy(async () => {
      const answer = await storeSetup(form);
      setRefused(answer.ok ? '' : answer.words);
      if (answer.ok) notifications.show({ message: answer.words, autoClose: 2500 });
      router.refresh();
    });
  return (
    <form
      className="panel setup-form"
      aria-label="Setup"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <TextInput
        label="Name of the shop"
        description="Files that are sent name it as their author."
        value={form.name}
        onChange={(event) => setForm({ ...form, name: event.currentTarget.value })}
      />
      <Select
        label="Currency of the catalog"
        description="Amounts that name no currency are in this one. A feed of a market with another never relabels them; give it amounts of its own."
        data={currencyChoices}
        searchable
        allowDeselect={false}
        value={form.currency || null}
        onChange={(currency) => setForm({ ...form, currency: currency ?? '' })}
      />
      <Select
        label="Time zone"
        description="Schedules go by its clock, across clock changes."
        data={[...zones]}
        searchable
        allowDeselect={false}
        limit={200}
        value={form.zone}
        onChange={(zone) => setForm({ ...form, zone: zone ?? 'UTC' })}
      />
      {refused && (
        <span className="tone-blocker" role="alert">
          {refused}
        </span>
      )}
      <div>
        <Button type="submit" disabled={!changed || busy}>
          Save setup
        </Button>
      </div>
    </form>
  );
}
