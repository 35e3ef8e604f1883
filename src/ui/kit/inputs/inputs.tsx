'use client';
import { Checkbox, NativeSelect, Textarea, TextInput, type TextInputProps } from '@mantine/core';
import type { UseFormReturnType } from '@mantine/form';
import {
  type FocusEvent,
  type KeyboardEvent,
  type ReactNode,
  type RefObject,
  useEffect,
  useId,
  useRef,
  useState,
} from 'react';

interface Named {
  /** What it is called: seen where `shown` says so, told to screen readers in any case. */
  name: string;
  shown?: 'above' | 'beside';
}

/**
 * What a person chose before the page came alive counts: the input shows it, so it is told once the page is there.
 * @param early what the input shows where it is not what the page was drawn with
 */
function usePreHydrationValue<E extends Element, V>(
  early: (input: E) => V | undefined,
  tell: (value: V) => void,
) {
  const input = useRef<E>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only what was there before the first drawing is early
  useEffect(() => {
    const value = input.current ? early(input.current) : undefined;
    if (value !== undefined) tell(value);
  }, []);
  return input;
}

/** An input with its name before it, or as it is. */
function InlineLabel({ name, shown, children }: Named & { children: ReactNode }) {
  return shown === 'beside' ? (
    // biome-ignore lint/a11y/noLabelWithoutControl: its control is what it is given
    <label className="row small muted">
      {name}
      {children}
    </label>
  ) : (
    children
  );
}

const naming = ({ name, shown }: Named) =>
  shown === 'above' ? { label: name } : shown === 'beside' ? {} : { 'aria-label': name };

export type Option<T extends string> = T | readonly [value: T, words: string, disabled?: boolean];
export interface OptionGroup<T extends string> {
  readonly group: string;
  readonly of: readonly Option<T>[];
}

const item = <T extends string>(option: Option<T>) => {
  if (typeof option === 'string') return { value: option, label: option };
  const [value, label, disabled = false] = option;
  return { value, label, disabled };
};

/** Options for things with a code and a label. */
export const coded = (things: readonly { readonly code: string; readonly label: string }[]) =>
  things.map(({ code, label }) => [code, label] as const);

interface ChoiceProps<T extends string> extends Named {
  value: NoInfer<T> | '';
  options: readonly (Option<T> | OptionGroup<T>)[];
  /** What stands there as long as nothing is chosen; it cannot be chosen itself. */
  prompt?: string;
  disabled?: boolean;
  title?: string | undefined;
  error?: ReactNode;
  width?: number | string;
  autoFocus?: boolean;
  onChange(value: T): void;
  onBlur?(): void;
}

/** One of several, in a list that opens. */
export function SelectField<T extends string>({
  name,
  shown,
  value,
  options,
  prompt,
  onChange,
  width,
  ...rest
}: ChoiceProps<T>) {
  const data = options.map((option) =>
    typeof option === 'object' && 'group' in option
      ? { group: option.group, items: option.of.map(item) }
      : item(option),
  );
  const input = usePreHydrationValue<HTMLSelectElement, string>(
    ({ options, selectedOptions: [shown], value: early }) =>
      shown && !shown.defaultSelected && [...options].some((option) => option.defaultSelected)
        ? early
        : undefined,
    (early) => {
      if (prompt === undefined || early !== '') onChange(early as T);
    },
  );
  return (
    <InlineLabel name={name} {...(shown && { shown })}>
      <NativeSelect
        ref={input}
        {...naming({ name, ...(shown && { shown }) })}
        value={value}
        data={prompt === undefined ? data : [{ value: '', label: prompt }, ...data]}
        w={width ?? 'auto'}
        onChange={({ currentTarget }) => {
          // React tells of an early choice once more, after it has put back what the page was drawn with: that is no choice.
          const next = currentTarget.value;
          if (next !== value && (prompt === undefined || next !== '')) onChange(next as T);
        }}
        {...rest}
      />
    </InlineLabel>
  );
}

interface TextProps
  extends Named,
    Pick<
      TextInputProps,
      'placeholder' | 'disabled' | 'title' | 'type' | 'autoFocus' | 'pattern' | 'required' | 'error'
    > {
  mono?: boolean;
  width?: number | string;
  /** Several lines; Enter makes a new one. */
  rows?: number;
  /** Words to pick from, besides any other. */
  among?: readonly string[];
  /** Looks of its own, by a class of the page. */
  className?: string;
  /** Beside a date or a number. */
  min?: number;
  max?: number;
}

interface Handlers {
  input?: RefObject<HTMLInputElement | HTMLTextAreaElement | null>;
  value?: string;
  defaultValue?: string;
  onChange?(event: { currentTarget: { value: string } }): void;
  onFocus?(): void;
  onBlur?(event: FocusEvent<HTMLInputElement | HTMLTextAreaElement>): void;
  onKeyDown?(event: KeyboardEvent<HTMLInputElement | HTMLTextAreaElement>): void;
}

function TextInputBase({
  name,
  shown,
  mono = false,
  width,
  rows,
  among,
  className,
  input,
  ...rest
}: TextProps & Handlers) {
  const list = useId();
  const common = {
    ...naming({ name, ...(shown && { shown }) }),
    ...rest,
    ...(width === undefined ? {} : { w: width }),
    className: className ?? '',
    ...(mono ? { classNames: { input: 'mono' } } : {}),
  };
  return (
    <InlineLabel name={name} {...(shown && { shown })}>
      {rows ? (
        <Textarea {...common} ref={input as RefObject<HTMLTextAreaElement>} rows={rows} spellCheck={!mono} />
      ) : (
        <TextInput
          {...common}
          ref={input as RefObject<HTMLInputElement>}
          {...(among && among.length > 0 ? { list } : {})}
        />
      )}
      {among && among.length > 0 && (
        <datalist id={list}>
          {among.map((word) => (
            <option key={word} value={word} />
          ))}
        </datalist>
      )}
    </InlineLabel>
  );
}

interface WordsProps extends TextProps {
  value: string;
  onChange(text: string): void;
  onEnter?(): void;
  /** Escape. */
  onLeave?(): void;
  onBlur?(): void;
  /** Whether its keys are told to nothing around it, as in a menu or a grid. */
  quiet?: boolean;
}

/** A text that is known letter by letter. */
export function TextField({ onChange, onEnter, onLeave, onBlur, quiet = false, ...rest }: WordsProps) {
  const input = usePreHydrationValue<HTMLInputElement | HTMLTextAreaElement, string>(
    (box) => (box.value === box.defaultValue ? undefined : box.value),
    onChange,
  );
  return (
    <TextInputBase
      {...rest}
      input={input}
      onChange={({ currentTarget }) => onChange(currentTarget.value)}
      {...(onBlur && { onBlur })}
      onKeyDown={(event) => {
        if (quiet) event.stopPropagation();
        if (event.key === 'Enter' && onEnter) {
          event.preventDefault();
          onEnter();
        }
        if (event.key === 'Escape') onLeave?.();
      }}
    />
  );
}

interface SavedWordsProps extends TextProps {
  value: string;
  /** Whether it must not become empty: then it goes back to what it was. */
  needed?: boolean;
  /** Whether blanks at its ends count. */
  exact?: boolean;
  onSave(text: string): void;
}

/** A text that is saved when it is left or Enter is pressed; Escape takes back what was typed. What is refused stays. */
export function AutosaveTextField({
  value,
  needed = false,
  exact = false,
  onSave,
  ...rest
}: SavedWordsProps) {
  return (
    <TextInputBase
      {...rest}
      key={value}
      defaultValue={value}
      onBlur={({ currentTarget }) => {
        const text = exact ? currentTarget.value : currentTarget.value.trim();
        if (needed && text === '') currentTarget.value = value;
        else if (text !== value) onSave(text);
      }}
      onKeyDown={({ key, currentTarget }) => {
        if (key === 'Escape') currentTarget.value = value;
        if (key === 'Escape' || (key === 'Enter' && !rest.rows)) currentTarget.blur();
      }}
    />
  );
}

interface FindBoxProps extends TextProps {
  /** What is looked for at first; what is typed is told letter by letter. */
  start?: string;
  onFind(text: string): void;
}

/** A box that narrows a list as one types; Escape empties it. */
export function SearchField({ start = '', name, width = 150, onFind, ...rest }: FindBoxProps) {
  const [text, setText] = useState(start);
  const typing = useRef(false);
  // What is cleared elsewhere is cleared here too; what is being typed stays.
  useEffect(() => {
    if (!typing.current) setText(start);
  }, [start]);
  return (
    <TextInputBase
      name={name}
      width={width}
      placeholder={name}
      {...rest}
      type="search"
      value={text}
      onFocus={() => {
        typing.current = true;
      }}
      onBlur={() => {
        typing.current = false;
      }}
      onChange={({ currentTarget }) => {
        setText(currentTarget.value);
        onFind(currentTarget.value);
      }}
      onKeyDown={(event) => event.stopPropagation()}
    />
  );
}

interface TickProps {
  name: string;
  /** Words to see where the name alone is not what should stand there; false where nothing should. */
  words?: ReactNode | false;
  checked: boolean;
  /** Some of what it stands for, not all. */
  some?: boolean;
  disabled?: boolean;
  title?: string;
  onChange(on: boolean): void;
}

/** A box to tick. */
export function CheckboxField({
  name,
  words = name,
  checked,
  some = false,
  disabled = false,
  title,
  onChange,
}: TickProps) {
  const input = usePreHydrationValue<HTMLInputElement, boolean>(
    (box) => (box.checked === box.defaultChecked ? undefined : box.checked),
    onChange,
  );
  return (
    <Checkbox
      ref={input}
      size="xs"
      checked={checked}
      indeterminate={some}
      disabled={disabled}
      title={title}
      {...(words === false ? { 'aria-label': name } : { label: words })}
      // What it was drawn with is no choice, see Choice.
      onChange={({ currentTarget }) => currentTarget.checked !== checked && onChange(currentTarget.checked)}
    />
  );
}

/** A setting of a form, for the value, changes and complaint of its input. */
export function bound<V extends object, K extends keyof V & string>(form: UseFormReturnType<V>, name: K) {
  return {
    value: form.values[name],
    onChange: (value: V[K]) => form.setFieldValue(name, value as never),
    error: form.errors[name],
  };
}
