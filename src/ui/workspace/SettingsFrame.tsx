'use client';
import { TextInput } from '@mantine/core';
import { IconSearch } from '@tabler/icons-react';
import { type ReactNode, useState } from 'react';
import { fold } from '@/core/text/folding';

export interface SettingsSection {
  readonly key: string;
  readonly title: string;
  /** What a search finds it by, besides its title. */
  readonly words: string;
  readonly content: ReactNode;
}

/** Settings of the workspace: sections at the left, the forms beside them, and a search over all. */
export function SettingsFrame({ sections }: { sections: readonly SettingsSection[] }) {
  const [query, setQuery] = useState('');
  const words = fold(query)
    .split(' ')
    .filter((word) => word !== '');
  const shown = sections.filter(({ title, words: more }) => {
    const text = fold(`${title} ${more}`);
    return words.every((word) => text.includes(word));
  });
  return (
    <div className="settings-frame">
      <nav aria-label="Sections of Settings">
        <TextInput
          type="search"
          aria-label="Find a setting"
          placeholder="Find a setting"
          leftSection={<IconSearch size={14} />}
          leftSectionWidth={28}
          styles={{ input: { paddingInlineStart: 28 } }}
          value={query}
          onChange={(event) => setQuery(event.currentTarget.value)}
        />
        {shown.map(({ key, title }) => (
          <a key={key} href={`#${key}`}>
            {title}
          </a>
        ))}
      </nav>
      <div className="settings-sections">
        {shown.map(({ key, content }) => (
          <div key={key} id={key}>
            {content}
          </div>
        ))}
        {shown.length === 0 && (
          <p className="muted" role="status">
            No setting matches “{query}”.
          </p>
        )}
      </div>
    </div>
  );
}
