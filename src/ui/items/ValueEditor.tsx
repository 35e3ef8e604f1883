'use client';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { kindFacts } from '@/core/catalog/attributeKinds';
import type { Attribute } from '@/core/catalog/attributes';
import { pageLimits } from '@/core/catalog/sections';
import { Gauge } from '../kit/display/Gauge';
import { DateField } from '../kit/inputs/DateField';
import { SelectField, TextField } from '../kit/inputs/inputs';

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
  const [draft, setDraft] = useState(text);
  const limit = pageLimits[attribute.code];
  const label = attribute.label;
  const { editor } = kindFacts[attribute.kind];
  if (editor === 'richText')
    return <RichText label={label} markup={text} onSave={onSave} onLeave={onLeave} />;
  if (editor === 'yesNo')
    return (
      <SelectField
        name={label}
        autoFocus
        value={text === 'yes' || text === 'no' ? text : ''}
        options={[['', 'not set'], 'yes', 'no']}
        onChange={onSave}
        onBlur={onLeave}
      />
    );
  if (editor === 'date')
    return <DateField name={label} autoFocus width="100%" value={text} onSave={onSave} onLeave={onLeave} />;
  const long = attribute.code === 'pageDescription' || attribute.code === 'warning';
  return (
    <span style={{ display: 'grid', gap: 3 }}>
      <TextField
        name={label}
        width="100%"
        autoFocus
        {...(long && { rows: 3 })}
        among={words}
        value={draft}
        onChange={setDraft}
        onBlur={() => onSave(draft)}
        {...(!long && { onEnter: () => (document.activeElement as HTMLElement | null)?.blur() })}
        onLeave={onLeave}
      />
      {limit !== undefined && <Gauge length={[...draft].length} most={limit} />}
    </span>
  );
}
