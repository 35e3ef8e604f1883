'use client';
import { Menu } from '@mantine/core';
import { IconArrowUp, IconX } from '@tabler/icons-react';
import { useEffect, useState } from 'react';
import { asText, type Value } from '@/core/catalog/value';
import { type Step, stepForms, stepSchema } from '@/core/compose/steps';
import { withSetting } from '@/core/forms/forms';
import { Settings } from '../kit/inputs/Settings';
import { TextButton } from '../kit/inputs/TextButton';
import { useSample } from './useSample';

interface StepsEditorProps {
  steps: readonly Step[];
  /** What the steps begin with on the item at hand. */
  input?: Value | undefined;
  onChange(steps: Step[]): void;
  label?: string;
}

/** Steps as a short numbered list, each with its small form. A setting that is not valid yet is not saved. */
export function StepsEditor({ steps, input, onChange, label = 'Add step' }: StepsEditorProps) {
  const sample = useSample();
  const results: (Value | undefined)[] = [];
  for (const [at, step] of steps.entries())
    results.push(sample?.step(step, at === 0 ? input : results[at - 1]));
  const [drafts, setDrafts] = useState<Record<number, Step>>({});
  const written = JSON.stringify(steps);
  // What was set shows at once; what is saved takes its place.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the text tells whether the steps are others
  useEffect(() => setDrafts({}), [written]);
  const put = (at: number, step: Step) => {
    setDrafts({ ...drafts, [at]: step });
    if (!stepSchema.safeParse(step).success) return;
    onChange(steps.map((old, i) => (i === at ? step : old)));
  };
  return (
    <>
      {steps.map((saved, at) => {
        const step = drafts[at] ?? saved;
        const form = stepForms.find(({ name }) => name === step.step);
        if (!form) return undefined;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: steps are plain data; their place is their identity
          <div className="step-line" key={at}>
            <span className="number">{at + 1}</span>
            <span>{form.label}</span>
            <Settings
              of={form.label}
              settings={form.settings}
              values={step}
              onSet={(setting, text) => put(at, withSetting(step, setting, text))}
            />
            {sample && input !== undefined && <StepResult value={results[at]} />}
            {!stepSchema.safeParse(step).success && <span className="small tone-blocker">not complete</span>}
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
              aria-label={`Remove step ${at + 1}`}
              onClick={() => onChange(steps.filter((_, i) => i !== at))}
            >
              <IconX size={13} />
            </button>
          </div>
        );
      })}
      <Menu position="bottom-start">
        <Menu.Target>
          <TextButton>{label}</TextButton>
        </Menu.Target>
        <Menu.Dropdown mah={320} style={{ overflow: 'auto' }}>
          {stepForms.map(({ name, label, fresh }) => (
            <Menu.Item key={name} onClick={() => onChange([...steps, fresh])}>
              {label}
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
    </>
  );
}

/** What a step makes of the item at hand, as far as there is room for it. */
function StepResult({ value }: { value: Value | undefined }) {
  const text = asText(value);
  return (
    <span className="step-result mono cut" title={text}>
      → {value === undefined ? <span className="muted">empty</span> : text}
    </span>
  );
}
