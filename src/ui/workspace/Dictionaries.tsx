'use client';
import { Button } from '@mantine/core';
import { useRouter } from 'next/navigation';
import { useTransition } from 'react';
import { fetchDictionaries } from '@/actions/workspace';
import { languageName } from '@/core/locale/languages';
import { usePolling } from '../kit/hooks/usePolling';

interface DictionariesProps {
  there: readonly string[];
  missing: readonly string[];
  state: 'complete' | 'fetching' | 'failed' | 'missing';
  progress: number;
  error: string | undefined;
}

const names = (tags: readonly string[]): string => new Intl.ListFormat('en').format(tags.map(languageName));
/** How often progress is looked at while they are being fetched, in ms. */
const lookEvery = 3000;

/** Which dictionaries suggestions of places can use, and getting those that are missing. */
export function Dictionaries({ there, missing, state, progress, error }: DictionariesProps) {
  const router = useRouter();
  const [busy, startBusy] = useTransition();
  usePolling(state === 'fetching', lookEvery);
  return (
    <section className="panel setup-form" aria-label="Dictionaries">
      <h2>Dictionaries</h2>
      <p className="small muted">
        Dictionaries improve category suggestions across languages. Shop words in nine languages and English
        WordNet are included; further dictionaries come from Debian, under their own licences.
      </p>
      <p>
        {there.length > 0 ? `There: ${names(there)}.` : 'None installed; suggestions work without them.'}
        {missing.length > 0 && there.length > 0 && ` Missing: ${names(missing)}.`}
      </p>
      {state === 'fetching' && <p role="status">Fetching, {Math.round(progress * 100)} % done.</p>}
      {state === 'failed' && (
        <p className="tone-risk" role="alert">
          They could not be fetched: {error}
        </p>
      )}
      {(state === 'failed' || state === 'missing') && (
        <div>
          <Button
            variant="default"
            disabled={busy}
            onClick={() =>
              startBusy(async () => {
                await fetchDictionaries();
                router.refresh();
              })
            }
          >
            Fetch dictionaries
          </Button>
        </div>
      )}
    </section>
  );
}
