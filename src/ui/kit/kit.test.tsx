/** @jest-environment jsdom */
import { MantineProvider } from '@mantine/core';
import { useForm } from '@mantine/form';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type ReactNode, useState } from 'react';
import { renderToString } from 'react-dom/server';
import { stepForms } from '@/core/compose/steps';
import { listed, withSetting } from '@/core/forms/forms';
import {
  AutosaveTextField,
  bound,
  CheckboxField,
  SearchField,
  SelectField,
  TextField,
} from './inputs/inputs';
import { PromptButton } from './inputs/PromptButton';
import { Settings } from './inputs/Settings';
import { ThresholdSlider } from './inputs/TakeFrom';

const show = (page: ReactNode) => render(<MantineProvider env="test">{page}</MantineProvider>);

const adjust = stepForms.find(({ name }) => name === 'adjust');
const saved = jest.fn();

function WordsPage({ onEnter, onLeave }: { onEnter(): void; onLeave(): void }) {
  const [text, setText] = useState('');
  return (
    <>
      <TextField
        name="Term"
        value={text}
        among={['ash', 'oak']}
        onChange={setText}
        onEnter={onEnter}
        onLeave={onLeave}
      />
      <p role="status">{text}</p>
    </>
  );
}

function FindPage() {
  const [find, setFind] = useState('');
  return (
    <>
      <SearchField name="Find a field" start={find} onFind={setFind} />
      <button type="button" onClick={() => setFind('')}>
        Show all
      </button>
      <p role="status">{find}</p>
    </>
  );
}

function TakePage({ onTake }: { onTake(): void }) {
  const [from, setFrom] = useState(80);
  const count = [95, 85, 60].filter((score) => score >= from).length;
  return (
    <ThresholdSlider
      values={[90, 80, 60]}
      value={from}
      onChange={setFrom}
      count={count}
      busy={false}
      onTake={onTake}
    />
  );
}

function StepPage() {
  const [step, setStep] = useState(adjust?.fresh ?? { step: 'trim' as const });
  return (
    <>
      <Settings
        of="Change the amount"
        settings={adjust?.settings ?? []}
        values={step}
        onSet={(setting, text) => setStep(withSetting(step, setting, text))}
      />
      <p role="status">{JSON.stringify(step)}</p>
    </>
  );
}

function CodePage() {
  const form = useForm({
    initialValues: { code: '' },
    validate: { code: (code) => (/^[a-z]+$/.test(code) ? null : 'Small letters only') },
  });
  return (
    <form onSubmit={form.onSubmit(saved)}>
      <TextField name="Code" shown="above" {...bound(form, 'code')} />
      <button type="submit">Save</button>
    </form>
  );
}

describe('a choice', () => {
  const options = [
    ['pots', 'Pots'],
    {
      group: 'Lights',
      of: [
        ['lamps', 'Lamps'],
        ['bulbs', 'Bulbs', true],
      ],
    },
    'tiles',
  ] as const;

  test('tells the value that was chosen, in its groups, and leaves out what cannot be chosen', async () => {
    const chosen = jest.fn();
    show(<SelectField name="Kind" value="pots" options={options} onChange={chosen} />);
    const list = screen.getByRole('combobox', { name: 'Kind' });
    expect(list).toHaveProperty('value', 'pots');
    expect(within(list).getByRole('group', { name: 'Lights' })).toBeTruthy();
    await userEvent.selectOptions(list, 'Lamps');
    await userEvent.selectOptions(list, 'tiles');
    expect(chosen.mock.calls).toEqual([['lamps'], ['tiles']]);
    await userEvent.selectOptions(list, 'Bulbs');
    expect(chosen).toHaveBeenCalledTimes(2);
  });

  test('a prompt stands there until something is chosen, and is no answer itself', async () => {
    const chosen = jest.fn();
    show(<SelectField name="Axis" value="" prompt="Add axis" options={['color']} onChange={chosen} />);
    const list = screen.getByRole('combobox', { name: 'Axis' });
    await userEvent.selectOptions(list, 'Add axis');
    expect(chosen).not.toHaveBeenCalled();
    await userEvent.selectOptions(list, 'color');
    expect(chosen).toHaveBeenCalledWith('color');
  });

  test('its name stands above or beside it where it is to be seen', () => {
    show(
      <>
        <SelectField name="Country" shown="above" value="DE" options={['DE']} onChange={jest.fn()} />
        <SelectField name="at" shown="beside" value="4" options={['4']} onChange={jest.fn()} />
      </>,
    );
    expect(screen.getByText('Country').tagName).toBe('LABEL');
    expect(screen.getByRole('combobox', { name: 'at' })).toBeTruthy();
  });
});

describe('a saved text', () => {
  const begin = (given: Partial<Parameters<typeof AutosaveTextField>[0]> = {}) => {
    const onSave = jest.fn();
    show(<AutosaveTextField name="Label" value="Ridge pot" onSave={onSave} {...given} />);
    return { onSave, input: screen.getByRole('textbox', { name: 'Label' }) as HTMLInputElement };
  };

  test('is saved by Enter and by leaving, once, without the blanks at its ends', async () => {
    const { onSave, input } = begin();
    await userEvent.clear(input);
    await userEvent.type(input, ' Ridge bowl {Enter}');
    await userEvent.tab();
    expect(onSave.mock.calls).toEqual([['Ridge bowl']]);
  });

  test('is not saved where nothing changed', async () => {
    const { onSave, input } = begin();
    await userEvent.click(input);
    await userEvent.keyboard('{Enter}');
    expect(onSave).not.toHaveBeenCalled();
  });

  test('Escape takes back what was typed', async () => {
    const { onSave, input } = begin();
    await userEvent.type(input, ' of clay{Escape}');
    expect(input.value).toBe('Ridge pot');
    expect(onSave).not.toHaveBeenCalled();
  });

  test('goes back to what it was where it must not be empty', async () => {
    const { onSave, input } = begin({ needed: true });
    await userEvent.clear(input);
    await userEvent.tab();
    expect(input.value).toBe('Ridge pot');
    expect(onSave).not.toHaveBeenCalled();
  });

  test('keeps its blanks where they count', async () => {
    const { onSave, input } = begin({ value: ',', exact: true });
    await userEvent.type(input, ' {Enter}');
    expect(onSave).toHaveBeenCalledWith(', ');
  });

  test('what was refused stays to be mended', async () => {
    const { input } = begin({ onSave: () => undefined });
    await userEvent.clear(input);
    await userEvent.type(input, '1l Kanne{Enter}');
    expect(input.value).toBe('1l Kanne');
  });

  test('shows what somebody else saved', () => {
    const page = (value: string) => (
      <MantineProvider env="test">
        <AutosaveTextField name="Label" value={value} onSave={jest.fn()} />
      </MantineProvider>
    );
    const { rerender } = render(page('Ridge pot'));
    rerender(page('Ridge bowl'));
    expect(screen.getByRole('textbox', { name: 'Label' })).toHaveProperty('value', 'Ridge bowl');
  });

  test('of several lines takes Enter as a line', async () => {
    const { onSave, input } = begin({ rows: 4, value: 'a' });
    await userEvent.type(input, '{Enter}b');
    expect(onSave).not.toHaveBeenCalled();
    await userEvent.tab();
    expect(onSave).toHaveBeenCalledWith('a\nb');
  });
});

describe('a text known letter by letter', () => {
  test('tells each letter, Enter and Escape, and offers words', async () => {
    const [onEnter, onLeave] = [jest.fn(), jest.fn()];
    show(<WordsPage onEnter={onEnter} onLeave={onLeave} />);
    await userEvent.type(screen.getByRole('combobox', { name: 'Term' }), 'el{Enter}m{Escape}');
    expect(screen.getByRole('status').textContent).toBe('elm');
    expect([onEnter.mock.calls.length, onLeave.mock.calls.length]).toEqual([1, 1]);
    expect(document.querySelectorAll('datalist option')).toHaveLength(2);
  });
});

describe('a find box', () => {
  test('narrows as one types, and is cleared from elsewhere', async () => {
    show(<FindPage />);
    const box = screen.getByRole('searchbox', { name: 'Find a field' });
    await userEvent.type(box, 'gla');
    expect(screen.getByRole('status').textContent).toBe('gla');
    await userEvent.click(screen.getByRole('button', { name: 'Show all' }));
    expect(box).toHaveProperty('value', '');
  });

  test('what is being typed stays where the page lags behind', async () => {
    const page = (start: string) => (
      <MantineProvider env="test">
        <SearchField name="Find" start={start} onFind={jest.fn()} />
      </MantineProvider>
    );
    const { rerender } = render(page(''));
    const box = screen.getByRole('searchbox', { name: 'Find' });
    await userEvent.type(box, 'glaze');
    rerender(page('gla'));
    expect(box).toHaveProperty('value', 'glaze');
  });

  test('its keys are not taken for those of the page', async () => {
    const key = jest.fn();
    show(
      // biome-ignore lint/a11y/noStaticElementInteractions: stands for a page with keys of its own
      <div onKeyDown={key}>
        <SearchField name="Find" onFind={jest.fn()} />
      </div>,
    );
    await userEvent.type(screen.getByRole('searchbox', { name: 'Find' }), 'k');
    expect(key).not.toHaveBeenCalled();
  });
});

test('a box to tick tells on and off, shows some, and cannot be changed where it is locked', async () => {
  const reported = jest.fn();
  show(
    <>
      <CheckboxField name="Brand once" checked onChange={reported} />
      <CheckboxField name="All new" words={false} checked={false} some onChange={reported} />
      <CheckboxField name="Locked" checked={false} disabled onChange={reported} />
    </>,
  );
  expect(screen.getByRole('checkbox', { name: 'All new' })).toHaveProperty('indeterminate', true);
  await userEvent.click(screen.getByText('Brand once'));
  await userEvent.click(screen.getByRole('checkbox', { name: 'All new' }));
  await userEvent.click(screen.getByText('Locked'));
  expect(reported.mock.calls).toEqual([[false], [true]]);
});

test('what was chosen before the page came alive counts', async () => {
  const reported = jest.fn();
  const page = (
    <MantineProvider env="test">
      <SelectField name="Kind" value="pots" options={['pots', 'lamps']} onChange={reported} />
      <TextField name="Term" value="" onChange={reported} />
      <CheckboxField name="Brand once" checked onChange={reported} />
      <SelectField name="Untouched" value="gone" options={['pots', 'lamps']} onChange={reported} />
    </MantineProvider>
  );
  const place = document.createElement('div');
  document.body.append(place);
  place.innerHTML = renderToString(page);
  const [kind] = place.querySelectorAll('select');
  const term = place.querySelector<HTMLInputElement>('input[type=text], input:not([type])');
  const once = place.querySelector<HTMLInputElement>('input[type=checkbox]');
  if (!kind || !term || !once) throw new Error('not drawn');
  kind.value = 'lamps';
  term.value = 'elm';
  once.checked = false;
  render(page, { container: place, hydrate: true });
  expect(reported.mock.calls.map(([value]) => value)).toEqual(['lamps', 'elm', false]);
});

test('suggestions are taken from a confidence on', async () => {
  const onTake = jest.fn();
  show(<TakePage onTake={onTake} />);
  const list = screen.getByRole('combobox', { name: 'from confidence' });
  expect(screen.getByRole('button').textContent).toBe('Accept 2 suggestions');
  await userEvent.selectOptions(list, '90');
  expect(screen.getByRole('button').textContent).toBe('Accept 1 suggestion');
  await userEvent.selectOptions(list, '60');
  await userEvent.click(screen.getByRole('button', { name: 'Accept 3 suggestions' }));
  expect(onTake).toHaveBeenCalledTimes(1);
});

test('the form of a step is made from its type: labels, choices, help, and what a setting may not be', async () => {
  show(<StepPage />);
  const stated = () => JSON.parse(screen.getByRole('status').textContent ?? '');
  const percent = screen.getByRole('textbox', { name: 'Change the amount: %' });
  expect(percent.title).toContain('added first');
  await userEvent.clear(percent);
  await userEvent.type(percent, '-2,5{Enter}');
  expect(stated()).toMatchObject({ step: 'adjust', percent: -2.5 });
  const ending = screen.getByRole('combobox', { name: 'Change the amount: ending in' });
  expect(
    within(ending)
      .getAllByRole('option')
      .map((option) => option.textContent),
  ).toEqual(['anything', '.99', '.95', '.90']);
  await userEvent.selectOptions(ending, '.95');
  expect(stated()).toMatchObject({ ending: '0.95' });
  await userEvent.selectOptions(ending, 'anything');
  expect(stated()).not.toHaveProperty('ending');
});

test('a form complains at the field it concerns', async () => {
  show(<CodePage />);
  const code = screen.getByRole('textbox', { name: 'Code' });
  await userEvent.type(code, 'A1');
  await userEvent.click(screen.getByRole('button', { name: 'Save' }));
  expect(screen.getByText('Small letters only')).toBeTruthy();
  expect(saved).not.toHaveBeenCalled();
  await userEvent.clear(code);
  await userEvent.type(code, 'a');
  await userEvent.click(screen.getByRole('button', { name: 'Save' }));
  expect(saved.mock.calls[0]?.[0]).toEqual({ code: 'a' });
});

test('words with commas between become a list, without empty ones', () => {
  expect(listed(' moss, , sage,  fern green ,')).toEqual(['moss', 'sage', 'fern green']);
  expect(listed('')).toEqual([]);
});

test('what is asked for and refused stays typed, with the reason at its field', async () => {
  const answers = ['POT-2 is used already.', undefined];
  const requested: string[] = [];
  show(
    <PromptButton
      label="Copy"
      ask="SKU of the copy"
      start="POT-1-COPY"
      onAnswer={async (word) => {
        requested.push(word);
        return answers.shift();
      }}
    />,
  );
  const user = userEvent.setup();
  await user.click(screen.getByRole('button', { name: 'Copy' }));
  const field = await screen.findByRole('textbox', { name: 'SKU of the copy' });
  await user.clear(field);
  await user.type(field, 'POT-2{Enter}');
  expect(await screen.findByRole('alert')).toHaveProperty('textContent', 'POT-2 is used already.');
  expect(screen.getByRole('textbox', { name: 'SKU of the copy' })).toHaveProperty('value', 'POT-2');
  await user.type(screen.getByRole('textbox', { name: 'SKU of the copy' }), 'B{Enter}');
  expect(requested).toEqual(['POT-2', 'POT-2B']);
});
