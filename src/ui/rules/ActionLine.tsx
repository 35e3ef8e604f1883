'use client';
import { IconX } from '@tabler/icons-react';
import { Fragment } from 'react';
import { type Action, type ActionName, actionKinds, kindOf } from '@/core/rules/actions';
import type { RulesStage } from '@/server/stages/rules';
import { CompositionEditor } from '../composition/CompositionEditor';
import { StepsEditor } from '../composition/StepsEditor';
import { AutosaveTextField, coded, SelectField } from '../kit/inputs/inputs';
import '../composition/composition.css';

export interface ActionLineProps {
  action: Action;
  first: boolean;
  stage: RulesStage;
  onChange(action: Action): void;
  onRemove: (() => void) | undefined;
}

const kinds = Object.keys(actionKinds) as ActionName[];

/** An action of another kind, with what of the old one still means something. */
const become = (action: Action, kind: ActionName, field: string): Action =>
  actionKinds[kind].begin({ field, text: 'text' in action ? action.text : '' });

/** Words and what each becomes, as a person writes them: navy = blue, sky = blue. */
const tableText = (words: Readonly<Record<string, string>>): string =>
  Object.entries(words)
    .map(([word, becomes]) => (word === becomes ? word : `${word} = ${becomes}`))
    .join(', ');

const tableOf = (text: string): Record<string, string> =>
  Object.fromEntries(
    text
      .split(',')
      .map((pair) => pair.split('=').map((one) => one.trim()))
      .flatMap(([word = '', becomes = word]) => (word === '' ? [] : [[word, becomes]])),
  );

export function ActionLine({ action, first, stage, onChange, onRemove }: ActionLineProps) {
  const field = 'field' in action ? action.field : (stage.fields[0]?.code ?? '');
  const input = (
    label: string,
    value: string,
    put: (text: string) => Action,
    needed = false,
    width = 130,
  ) => (
    <AutosaveTextField
      name={label}
      placeholder={label}
      mono
      exact
      needed={needed}
      width={width}
      value={value}
      onSave={(text) => onChange(put(text))}
    />
  );
  return (
    <>
      <div className="line">
        <span className="word">{first ? 'then' : 'and'}</span>
        <SelectField
          name="Action"
          width={118}
          value={action.do}
          options={kinds.map((kind) => [kind, actionKinds[kind].label] as const)}
          onChange={(text) => onChange(become(action, kinds.find((one) => one === text) ?? 'set', field))}
        />
        {'field' in action && (
          <SelectField
            name="Field"
            width={122}
            value={action.field}
            options={coded(stage.fields)}
            onChange={(text) => onChange({ ...action, field: text })}
          />
        )}
        {kindOf(action).inputs?.map(({ name, label, needed }) => (
          <Fragment key={name}>
            {input(
              label,
              String(action[name as keyof Action] ?? ''),
              (text) => ({ ...action, [name]: text }),
              needed,
            )}
          </Fragment>
        ))}
        {onRemove && (
          <button type="button" className="plain" aria-label="Remove action" onClick={onRemove}>
            <IconX size={13} />
          </button>
        )}
      </div>
      {action.do === 'compose' && (
        <div className="more">
          <CompositionEditor
            composition={action.composition}
            attributes={stage.attributes}
            onChange={(composition) => composition && onChange({ ...action, composition })}
          />
        </div>
      )}
      {action.do === 'steps' && (
        <div className="more">
          <StepsEditor
            steps={action.steps}
            onChange={(steps) => steps.length > 0 && onChange({ ...action, steps })}
          />
        </div>
      )}
      {action.do === 'copyWord' && (
        <div className="line">
          <span className="word" />
          <SelectField
            name="from"
            shown="beside"
            value={action.from}
            options={coded(stage.fields)}
            onChange={(from) => onChange({ ...action, from })}
          />
          {input(
            'value = new value, …',
            tableText(action.words),
            (text) => ({ ...action, words: tableOf(text) }),
            true,
            230,
          )}
        </div>
      )}
    </>
  );
}
