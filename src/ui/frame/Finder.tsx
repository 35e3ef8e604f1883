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

/** Ctrl K: finds any item, feed, field, category, rule or page. */
export function Finder() {
  const router = useRouter();
  const [query, setQuery] = useState('');
  const [asked] = useDebouncedValue(query, 120);
  const [hits, setHits] = useState<Hit[]>([]);
  useEffect(() => {
    const leave = new AbortController();
    fetch(`/api/find?q=${encodeURIComponent(asked)}`, { signal: leave.signal })
      .then((answer) => (answer.ok ? answer.json() : []))
      .then((found: Hit[]) => setHits(found))
      .catch(() => undefined);
    return () => leave.abort();
  }, [asked]);
  return (
    <Spotlight.Root query={query} onQueryChange={setQuery} shortcut="mod + K" scrollable maxHeight={420}>
      <Spotlight.Search
        placeholder="Search items, fields, categories, rules, issues and settings"
        leftSection={<IconSearch size={16} />}
      />
      <Spotlight.ActionsList>
        {hits.map((hit) => (
          <Spotlight.Action key={hit.kind + hit.href + hit.label} onClick={() => router.push(hit.href)}>
            <span className="row" style={{ width: '100%' }}>
              <span className="grow cut">{hit.label}</span>
              <span className="small muted">
                {hit.kind}
                {hit.detail && `, ${hit.detail}`}
              </span>
            </span>
          </Spotlight.Action>
        ))}
        {hits.length === 0 && (
          <Spotlight.Empty>Nothing found. Try a SKU, a value, a field or a category.</Spotlight.Empty>
        )}
      </Spotlight.ActionsList>
    </Spotlight.Root>
  );
}
