'use client';
import { Menu } from '@mantine/core';
import { IconArrowUp, IconX } from '@tabler/icons-react';
import { useState } from 'react';
import { type Step, type StepName, stepSchema } from '@/core/compose/steps';
import { freshStep, stepForms, withSetting } from './stepForms';

interface StepsEditorProps {
  steps: readonly Step[];
  onChange(steps: Step[]): void;
  label?: string;
}

/** Steps as a short numbered list, each with its small form. A setting that is not valid yet is not saved. */
export function StepsEditor({ steps, onChange, label = 'Add step' }: StepsEditorProps) {
  const [drafts, setDrafts] = useState<Record<number, Step>>({});
  const put = (at: number, step: Step) => {
    if (!stepSchema.safeParse(step).success) {
      setDrafts({ ...drafts, [at]: step });
      return;
    }
    setDrafts({});
    onChange(steps.map((old, i) => (i === at ? step : old)));
  };
  return (
    <>
      {steps.map((saved, at) => {
        const step = drafts[at] ?? saved;
        const form = stepForms[step.step];
        const settings = new Map(Object.entries(step).map(([name, value]) => [name, String(value)]));
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: steps are plain data; their place is their identity
          <div className="step-line" key={at}>
            <span className="number">{at + 1}</span>
            <span>{form.label}</span>
            {form.inputs.map((input) => (
              <span key={input.name} className="row small muted" style={{ gap: 4 }}>
                {input.label}
                {input.kind === 'choice' ? (
                  <select
                    className="cell"
                    aria-label={`${form.label}: ${input.label || input.name}`}
                    value={settings.get(input.name) ?? ''}
                    onChange={(event) => put(at, withSetting(step, input, event.target.value))}
                  >
                    {input.choices.map(([value, words]) => (
                      <option key={value} value={value}>
                        {words}
                      </option>
                    ))}
                  </select>
                ) : (
                  <input
                    className="cell mono"
                    aria-label={`${form.label}: ${input.label || input.name}`}
                    type={input.kind === 'decimal' ? 'text' : input.kind}
                    size={12}
                    defaultValue={settings.get(input.name) ?? ''}
                    onBlur={(event) =>
                      event.target.value !== (settings.get(input.name) ?? '') &&
                      put(at, withSetting(step, input, event.target.value))
                    }
                    onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
                  />
                )}
              </span>
            ))}
            {drafts[at] && <span className="small tone-blocker">not complete</span>}
            {at > 0 && (
              <button
                type="button"
                className="plain"
                aria-label={`Move step ${at + 1} up`}
                onClick={() =>
                  onChange(
                    steps.map((old, i) => (i === at - 1 ? saved : i === at ? (steps[at - 1] ?? old) : old)),
                  )
                }
              >
                <IconArrowUp size={13} />
              </button>
            )}
            <button
              type="button"
              className="plain"
              aria-label={`Take out step ${at + 1}`}
              onClick={() => onChange(steps.filter((_, i) => i !== at))}
            >
              <IconX size={13} />
            </button>
          </div>
        );
      })}
      <Menu position="bottom-start">
        <Menu.Target>
          <button type="button" className="link">
            {label}
          </button>
        </Menu.Target>
        <Menu.Dropdown mah={320} style={{ overflow: 'auto' }}>
          {(Object.keys(stepForms) as StepName[]).map((name) => (
            <Menu.Item key={name} onClick={() => onChange([...steps, freshStep(name)])}>
              {stepForms[name].label}
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
    </>
  );
}
