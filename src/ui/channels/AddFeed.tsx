'use client';
import { Button } from '@mantine/core';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { addFeed } from '@/actions/feeds';
import type { Sheet } from '@/core/channels/sheet';
import { SelectField } from '../kit/inputs/inputs';
import { showRefusal } from '../kit/refusals';

interface AddFeedProps {
  channel: string;
  name: string;
  markets: Sheet['markets'];
  /** Markets that have a feed, as "DE de". */
  taken: readonly string[];
}

/** Adds a feed for one market of a channel. */
export function AddFeed({ channel, name, markets, taken }: AddFeedProps) {
  const router = useRouter();
  const [busy, startBusy] = useTransition();
  const choices = markets.flatMap(({ country, languages, currency }) =>
    languages.map((language) => ({
      value: `${country} ${language}`,
      words: `${country}, ${language}, ${currency}`,
    })),
  );
  const free = choices.filter(({ value }) => !taken.includes(value));
  const [market, setMarket] = useState(free[0]?.value ?? '');
  const add = () =>
    startBusy(async () => {
      const [country = '', language = ''] = market.split(' ');
      const answer = await addFeed({ channel, country, language });
      if (answer.ok) router.push(`/feeds/${answer.feed}/fields`);
      else showRefusal(answer.words);
    });
  if (free.length === 0) return <span className="muted small">every market has a feed</span>;
  return (
    <span className="row">
      <SelectField
        name={`Market of ${name}`}
        value={market}
        options={free.map(({ value, words }) => [value, words] as const)}
        onChange={setMarket}
      />
      <Button variant="default" disabled={busy} onClick={add}>
        Add a feed
      </Button>
    </span>
  );
}
