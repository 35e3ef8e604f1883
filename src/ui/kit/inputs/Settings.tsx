'use client';
import type { UseFormReturnType } from '@mantine/form';
import { type Setting, writtenSetting } from '@/core/forms/forms';
import { AutosaveTextField, bound, CheckboxField, SelectField, TextField } from './inputs';

interface SettingsProps {
  /** What the settings belong to; told to screen readers before each. Left out where a label above says enough. */
  of?: string;
  settings: readonly Setting[];
  values: object;
  onSet(setting: Setting, text: string): void;
}

/** The settings of a thing as small inputs in a row, made from its type. */
export function Settings({ of, settings, values, onSet }: SettingsProps) {
  return settings.map((setting) => {
    const { name, label, help, kind, choices, signs } = setting;
    const value = writtenSetting(values, setting);
    const common = {
      name: of === undefined ? label : `${of}: ${label || name}`,
      value,
      ...(help && { title: help }),
      ...(of === undefined && { shown: 'above' as const }),
    };
    const input =
      kind === 'choice' ? (
        <SelectField {...common} options={choices} onChange={(text) => onSet(setting, text)} />
      ) : kind === 'tick' ? (
        <CheckboxField
          name={label}
          checked={value === 'true'}
          onChange={(on) => onSet(setting, String(on))}
          {...(help && { title: help })}
        />
      ) : (
        <AutosaveTextField
          {...common}
          mono={of !== undefined}
          exact={of !== undefined}
          width={signs * 8}
          type={kind === 'number' ? 'number' : 'text'}
          onSave={(text) => onSet(setting, text)}
        />
      );
    return (
      <span key={name} className="row small muted" style={{ gap: 4 }}>
        {of !== undefined && kind !== 'tick' && label}
        {input}
      </span>
    );
  });
}

/** The settings of a thing that is saved as a whole, as inputs of its form by their names. */
export function FormSettings({
  settings,
  form,
  more = {},
}: {
  settings: readonly Setting[];
  form: UseFormReturnType<Record<string, string>>;
  /** What else an input is told, by the name of its setting. */
  more?: Readonly<Record<string, object>>;
}) {
  return settings.map(({ name, label, kind, choices, signs, hint, help }) => {
    const { value = '', ...told } = bound(form, name);
    const common = { name: label, shown: 'above' as const, value, ...told, ...(help && { title: help }) };
    return kind === 'choice' ? (
      <SelectField key={name} {...common} options={choices} {...more[name]} />
    ) : (
      <TextField key={name} {...common} placeholder={hint} width={signs * 8} {...more[name]} />
    );
  });
}
