'use client';
import dynamic from 'next/dynamic';
import { useId, useState } from 'react';
import type { Attribute } from '@/core/catalog/attributes';
import { pageLimits } from '@/core/catalog/sections';
import { Gauge } from '../titles/Gauge';

const RichText = dynamic(() => import('./RichText').then((found) => found.RichText), { ssr: false });

interface ValueEditorProps {
  attribute: Attribute;
  text: string;
  /** Words that other items have there. */
  words?: readonly string[];
  onSave(text: string): void;
  onLeave(): void;
}

/** Edits one value in the way its kind asks for. Enter or leaving saves, Escape leaves it as it was. */
export function ValueEditor({ attribute, text, words = [], onSave, onLeave }: ValueEditorProps) {
  const id = useId();
  const [draft, setDraft] = useState(text);
  const limit = pageLimits[attribute.code];
  const label = attribute.label;
  if (attribute.kind === 'richText')
    return <RichText label={label} markup={text} onSave={onSave} onLeave={onLeave} />;
  if (attribute.kind === 'yesNo')
    return (
      <select
        className="cell"
        aria-label={label}
        // biome-ignore lint/a11y/noAutofocus: the editor opens where the person is
        autoFocus
        defaultValue={text}
        onChange={(event) => onSave(event.target.value)}
        onBlur={onLeave}
      >
        <option value="">not said</option>
        <option value="yes">yes</option>
        <option value="no">no</option>
      </select>
    );
  const long = attribute.code === 'pageDescription' || attribute.code === 'warning';
  const common = {
    className: 'cell',
    style: { width: '100%', boxSizing: 'border-box' as const },
    value: draft,
    'aria-label': label,
    autoFocus: true,
    onChange: (event: { target: { value: string } }) => setDraft(event.target.value),
    onBlur: () => onSave(draft),
  };
  return (
    <span style={{ display: 'grid', gap: 3 }}>
      {long ? (
        <textarea {...common} rows={3} onKeyDown={(event) => event.key === 'Escape' && onLeave()} />
      ) : (
        <input
          {...common}
          type={attribute.kind === 'date' ? 'date' : 'text'}
          list={words.length > 0 ? id : undefined}
          onKeyDown={(event) => {
            if (event.key === 'Enter') event.currentTarget.blur();
            if (event.key === 'Escape') onLeave();
          }}
        />
      )}
      {words.length > 0 && (
        <datalist id={id}>
          {words.map((word) => (
            <option key={word} value={word} />
          ))}
        </datalist>
      )}
      {limit !== undefined && <Gauge length={[...draft].length} most={limit} />}
    </span>
  );
}
