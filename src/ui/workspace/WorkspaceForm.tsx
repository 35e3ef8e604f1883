'use client';
import { Button, Select, TextInput } from '@mantine/core';
import { useForm } from '@mantine/form';
import { notifications } from '@mantine/notifications';
import currencies from 'currency-codes';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { storeSetup } from '@/actions/workspace';
import { commonLanguages, languageName } from '@/core/locale/languages';
import { commonLocales, example, localeName } from '@/core/locale/locales';

interface SetupFormProps {
  name: string;
  currency: string;
  zone: string;
  language: string;
  locale: string;
  zones: readonly string[];
}

const currencyChoices = currencies.data.map(({ code, currency }) => ({
  value: code,
  label: `${code}, ${currency}`,
}));

const languages = commonLanguages
  .map((value) => ({ value, label: languageName(value) }))
  .sort((one, other) => one.label.localeCompare(other.label));

const locales = commonLocales
  .map((value) => ({ value, label: localeName(value) }))
  .sort((one, other) => one.label.localeCompare(other.label, 'en'));

/** The shop's name, the currency its amounts are in, and the zone its schedules go by. */
export function WorkspaceForm({ zones, ...given }: SetupFormProps) {
  const router = useRouter();
  const form = useForm({ initialValues: given });
  const [refused, setRefused] = useState('');
  const [busy, startBusy] = useTransition();
  const save = () =>
    startBusy(async () => {
      const answer = await storeSetup(form.values);
      setRefused(answer.ok ? '' : answer.words);
      if (answer.ok) {
        form.resetDirty();
        notifications.show({ message: answer.words, autoClose: 2500 });
      }
      router.refresh();
    });
  return (
    <form className="panel setup-form" aria-label="Settings" onSubmit={form.onSubmit(save)}>
      <h2>Shop</h2>
      <TextInput
        label="Name of the shop"
        description="Named as the author of sent files."
        {...form.getInputProps('name')}
      />
      <Select
        label="Currency of the catalog"
        description="Amounts without a currency are in this one. A feed in another currency needs amounts of its own."
        data={currencyChoices}
        searchable
        allowDeselect={false}
        {...form.getInputProps('currency')}
      />
      <Select
        label="Time zone"
        description="Schedules, days and times use this zone."
        data={[...zones]}
        searchable
        allowDeselect={false}
        limit={200}
        {...form.getInputProps('zone')}
      />
      <Select
        label="Language and region of numbers and dates"
        description={`Written as ${example(form.values.locale)}.`}
        data={locales}
        searchable
        allowDeselect={false}
        {...form.getInputProps('locale')}
      />
      <Select
        label="Main language of the catalog"
        description="Language of texts without a translation."
        data={languages}
        searchable
        allowDeselect={false}
        {...form.getInputProps('language')}
      />
      {refused && (
        <span className="tone-blocker" role="alert">
          {refused}
        </span>
      )}
      <div>
        <Button type="submit" disabled={!form.isDirty() || busy}>
          Save settings
        </Button>
      </div>
    </form>
  );
}
