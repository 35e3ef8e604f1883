'use client';
import { useDebouncedValue } from '@mantine/hooks';
import { Spotlight, spotlight } from '@mantine/spotlight';
import { IconSearch } from '@tabler/icons-react';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';

export const openFinder = () => spotlight.open();

interface Hit {
  kind: string;
  label: string;
  detail: string;
  href: string;
}

/** Ctrl K: finds items by any value, feeds, fields, categories, rules, issues, settings and pages. */
export function Finder() {
  const router = useRouter();
  const [query, setQuery] = useState('');
  const [requested] = useDebouncedValue(query, 120);
  const [answer, setAnswer] = useState<{ query: string; hits: readonly Hit[]; error: string }>({
    query: '',
    hits: [],
    error: '',
  });
  useEffect(() => {
    const leave = new AbortController();
    fetch(`/api/find?q=${encodeURIComponent(requested)}`, { signal: leave.signal })
      .then(async (response) => {
        const found: Hit[] | { error: string } = await response.json();
        setAnswer(
          Array.isArray(found)
            ? { query: requested, hits: found, error: '' }
            : { query: requested, hits: [], error: found.error },
        );
      })
      .catch((error: unknown) => {
        if (!leave.signal.aborted) setAnswer({ query: requested, hits: [], error: String(error) });
      });
    return () => leave.abort();
  }, [requested]);
  const searching = answer.query !== query;
  /** Enter was pressed before the answer to what is typed was there. */
  const [opening, setOpening] = useState(false);
  /** Whether a hit of this answer was chosen with the arrow keys. */
  const [chosen, setChosen] = useState(false);
  const [best] = answer.hits;
  useEffect(() => {
    if (!opening || searching) return;
    setOpening(false);
    if (!best) return;
    spotlight.close();
    router.push(best.href);
  }, [opening, searching, best, router]);
  return (
    <Spotlight.Root
      query={query}
      onQueryChange={(text) => {
        setQuery(text);
        setChosen(false);
      }}
      shortcut="mod + K"
      scrollable
      maxHeight={420}
      // A fast typist would lose the first letters while it fades in.
      transitionProps={{ duration: 0 }}
    >
      <Spotlight.Search
        placeholder="Search items, fields, categories, rules, issues and settings"
        leftSection={<IconSearch size={16} />}
        leftSectionWidth={40}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown' || event.key === 'ArrowUp') setChosen(true);
          if (event.key !== 'Enter' || (chosen && !searching)) return;
          // Without a choice by arrow keys the best match opens, and never one of the answer before.
          event.preventDefault();
          for (const hit of document.querySelectorAll('.mantine-Spotlight-action[data-selected]'))
            hit.removeAttribute('data-selected');
          setOpening(true);
        }}
        styles={{ input: { paddingInlineStart: 40 } }}
      />
      <Spotlight.ActionsList>
        {answer.hits.map((hit) => (
          <Spotlight.Action key={hit.kind + hit.href + hit.label} onClick={() => router.push(hit.href)}>
            <span className="row" style={{ width: '100%' }}>
              <span className="small muted finder-kind">{hit.kind}</span>
              <span className="grow cut">{hit.label}</span>
              <span className="small muted cut finder-detail">{hit.detail}</span>
            </span>
          </Spotlight.Action>
        ))}
        {answer.hits.length === 0 && (
          <Spotlight.Empty>
            {answer.error ||
              (searching ? 'Searching …' : 'Nothing found. Try a SKU, a value, a field or a category.')}
          </Spotlight.Empty>
        )}
      </Spotlight.ActionsList>
    </Spotlight.Root>
  );
}
