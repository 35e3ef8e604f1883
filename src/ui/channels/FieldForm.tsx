'use client';
import { Fragment, type ReactNode } from 'react';
import { conditionWords, fieldLines, withFieldSetting } from '@/core/channels/fieldForm';
import type { Field } from '@/core/channels/sheet';
import { listed, type Setting } from '@/core/forms/forms';
import { ConditionEditor } from '../conditions/ConditionEditor';
import { AutosaveTextField } from '../kit/inputs/inputs';
import { Settings } from '../kit/inputs/Settings';
import { TextButton } from '../kit/inputs/TextButton';

interface FieldFormProps {
  field: Field;
  /** The other fields, which conditions may look at. */
  fields: readonly Field[];
  onChange(field: Field): void;
}

/** Choices as lines: code | label in the first language | other words. */
const choiceLines = (field: Field): string =>
  (field.choices ?? [])
    .map(({ code, labels, synonyms }) =>
      [code, Object.values(labels)[0] ?? '', synonyms.join(', ')].join(' | '),
    )
    .map((line) => line.replace(/( \| )+$/, ''))
    .join('\n');

function readChoices(text: string, old: Field): Field['choices'] {
  const known = new Map(old.choices?.map((choice) => [choice.code, choice]));
  const lines = text.split('\n').map((line) => line.split('|').map((part) => part.trim()));
  const read = lines.flatMap(([code = '', label = '', words = '']) => {
    if (code === '') return [];
    const labels = known.get(code)?.labels ?? {};
    const language = Object.keys(labels)[0] ?? 'en';
    return [
      {
        code,
        labels: label === '' ? labels : { ...labels, [language]: label },
        synonyms: listed(words),
      },
    ];
  });
  return read.length > 0 ? read : undefined;
}

/** Everything about one field, each setting saved when it is left; made from the type of a field. */
export function FieldForm({ field, fields, onChange }: FieldFormProps) {
  const { mustWhen: _when, because: _words, ...unconditional } = field;
  const set = (setting: Setting, text: string) => onChange(withFieldSetting(field, setting, text));
  return (
    <div className="field-form">
      {fieldLines(field).map(([line, settings]) => (
        <Fragment key={line}>
          <Line label={line}>
            <Settings settings={settings} values={field} onSet={set} />
            {line === 'Wanted' && field.mustWhen === undefined && (
              <TextButton
                onClick={() =>
                  onChange({
                    ...field,
                    mustWhen: { all: [{ field: fields[0]?.code ?? field.code, is: 'filled' }] },
                    because: field.because ?? 'under a condition',
                  })
                }
              >
                Required under a condition
              </TextButton>
            )}
            {line === 'Wanted' && field.mustWhen !== undefined && (
              <>
                {conditionWords && <Settings settings={[conditionWords]} values={field} onSet={set} />}
                <TextButton onClick={() => onChange(unconditional)}>Remove the condition</TextButton>
              </>
            )}
          </Line>
          {line === 'Wanted' && field.mustWhen !== undefined && (
            <div className="line-group">
              <ConditionEditor
                word="required where"
                condition={field.mustWhen}
                attributes={[]}
                fields={fields}
                onChange={(mustWhen) => onChange({ ...field, mustWhen })}
              />
            </div>
          )}
        </Fragment>
      ))}
      {field.kind === 'choice' && (
        <Line label="Choices">
          <AutosaveTextField
            name="Choices, one per line: code | label | synonyms"
            placeholder="code | label | synonyms"
            mono
            rows={Math.min(9, (field.choices?.length ?? 0) + 1)}
            width={560}
            value={choiceLines(field)}
            onSave={(text) => {
              const { choices: _old, ...rest } = field;
              const choices = readChoices(text, field);
              onChange(choices ? { ...rest, choices } : rest);
            }}
          />
        </Line>
      )}
    </div>
  );
}

function Line({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="line">
      <span className="word">{label}</span>
      {children}
    </div>
  );
}
