'use client';
import type { Setting } from '@/core/forms/forms';
import { Choice, SavedWords } from './inputs';

interface SettingsProps {
  /** What the settings belong to; told to screen readers before each. */
  of: string;
  settings: readonly Setting[];
  values: object;
  onSet(setting: Setting, text: string): void;
}

/** The settings of a thing as small inputs in a row, made from its type. */
export function Settings({ of, settings, values, onSet }: SettingsProps) {
  const given = new Map(Object.entries(values).map(([name, value]) => [name, String(value ?? '')]));
  return settings.map((setting) => {
    const { name, label, help, kind, choices } = setting;
    const common = {
      name: `${of}: ${label || name}`,
      value: given.get(name) ?? '',
      ...(help && { title: help }),
    };
    return (
      <span key={name} className="row small muted" style={{ gap: 4 }}>
        {label}
        {kind === 'choice' ? (
          <Choice {...common} options={choices} onChange={(text) => onSet(setting, text)} />
        ) : (
          <SavedWords
            {...common}
            mono
            exact
            width={kind === 'text' ? 110 : 64}
            type={kind === 'number' ? 'number' : 'text'}
            onSave={(text) => onSet(setting, text)}
          />
        )}
      </span>
    );
  });
}
