'use client';
import { Button } from '@mantine/core';
import { useRouter } from 'next/navigation';
import { useId, useState } from 'react';
import { addItem } from '@/actions/catalog/items';
import { kindFacts } from '@/core/catalog/attributeKinds';
import { type Attribute, isList } from '@/core/catalog/attributes';
import { readValue } from '@/core/catalog/reading';
import { pageLimits } from '@/core/catalog/sections';
import { InputError } from '@/core/errors/inputError';
import { counted } from '@/core/formatting/formatting';
import { checkDigit, readIdentifier } from '@/core/identifiers/gtin';
import { Gauge } from '../kit/display/Gauge';
import { useCatalog } from '../kit/hooks/useCatalog';
import { DateField } from '../kit/inputs/DateField';
import { SelectField, TextField } from '../kit/inputs/inputs';
import './item.css';

interface NewItemField {
  attribute: Attribute;
  /** Words that other items have there. */
  words: readonly string[];
}

interface NewItemProps {
  families: readonly { code: string; name: string }[];
  groups: readonly { name: string; fields: readonly NewItemField[] }[];
}

const pictures: Attribute = { code: 'image', label: 'Picture addresses', kind: 'pictures', synonyms: [] };

/** Why a text cannot be the attribute's value; undefined where it can. */
function refusalOf(attribute: Attribute, text: string): string | undefined {
  try {
    readValue(attribute, text);
  } catch (error) {
    if (error instanceof InputError) return error.message;
    throw error;
  }
  if (attribute.code === 'gtin' && text.trim() !== '') {
    const digits = text.replace(/\D/g, '');
    if (readIdentifier(text).verdict === 'checkdigit')
      return `The check digit is wrong: ${checkDigit(digits.slice(0, -1))} would be right.`;
  }
  return undefined;
}

/** All values of a new item in their groups. Each is read as it is left, and what is wrong stands at its field. */
export function NewItem({ families, groups }: NewItemProps) {
  const acts = useCatalog();
  const router = useRouter();
  const [texts, setTexts] = useState<Readonly<Record<string, string>>>({});
  const [wrong, setWrong] = useState<Readonly<Record<string, string>>>({});
  const [refusal, setRefusal] = useState<string>();
  const of = (code: string) => texts[code] ?? '';
  const family = of('family').trim();
  const put = (code: string, text: string) => {
    setTexts((before) => ({ ...before, [code]: text }));
    setWrong(({ [code]: _, ...others }) => others);
  };
  const judge = (attribute: Attribute, text: string) => {
    const why = refusalOf(attribute, text);
    if (why !== undefined) setWrong((before) => ({ ...before, [attribute.code]: why }));
  };
  const faults = Object.keys(wrong).length;
  const add = () => {
    setRefusal(undefined);
    const { sku = '', family: _, ...values } = texts;
    const given = Object.fromEntries(Object.entries(values).filter(([, text]) => text.trim() !== ''));
    acts.run(
      (press) => addItem(sku, given, family || null, press),
      () => router.push(`/items/${encodeURIComponent(sku.trim())}`),
      setRefusal,
    );
  };
  const field = ({ attribute, words }: NewItemField) => (
    <NewValue
      key={attribute.code}
      attribute={attribute}
      words={words}
      text={of(attribute.code)}
      error={wrong[attribute.code]}
      onChange={(text) => put(attribute.code, text)}
      onLeave={() => judge(attribute, of(attribute.code))}
    />
  );
  return (
    <form
      className="new-form"
      onSubmit={(event) => {
        event.preventDefault();
        add();
      }}
    >
      <div className="new-groups">
        {groups
          .filter(({ name }) => name !== 'Import')
          .map(({ name, fields }, at) => (
            <section key={name} className="panel" aria-label={name}>
              <h2>{name}</h2>
              {at === 0 && (
                <>
                  <NewText
                    label="SKU"
                    text={of('sku')}
                    hint="unique to this item"
                    onChange={(sku) => put('sku', sku)}
                  />
                  <NewText
                    label="Family"
                    text={of('family')}
                    among={families.map(({ code }) => code)}
                    hint={families.find(({ code }) => code === family)?.name ?? 'only for a variant'}
                    onChange={(code) => put('family', code)}
                  />
                </>
              )}
              {fields.map(field)}
              {at === 0 && field({ attribute: pictures, words: [] })}
            </section>
          ))}
      </div>
      <div className="row new-act">
        <Button
          type="submit"
          disabled={
            of('sku').trim() === '' || (of('name').trim() === '' && family === '') || faults > 0 || acts.busy
          }
        >
          Add item
        </Button>
        <span role="alert" className="tone-blocker">
          {refusal ?? (faults > 0 ? `${counted(faults, 'value')} cannot be read` : '')}
        </span>
      </div>
    </form>
  );
}

interface NewTextProps {
  label: string;
  text: string;
  hint?: string | undefined;
  error?: string | undefined;
  among?: readonly string[];
  rows?: number;
  /** The unit of a number without one. */
  placeholder?: string;
  onChange(text: string): void;
  onLeave?(): void;
}

function NewText({ label, text, hint, error, among, rows, placeholder, onChange, onLeave }: NewTextProps) {
  return (
    <div className="form-row">
      <span aria-hidden>{label}</span>
      <span className="new-value">
        <TextField
          name={label}
          width="100%"
          {...(among && { among })}
          {...(rows && { rows })}
          {...(placeholder && { placeholder })}
          {...(error && { error })}
          value={text}
          onChange={onChange}
          {...(onLeave && { onBlur: onLeave })}
        />
        {hint && <span className="small muted">{hint}</span>}
      </span>
    </div>
  );
}

interface NewValueProps extends NewItemField {
  text: string;
  error: string | undefined;
  onChange(text: string): void;
  onLeave(): void;
}

function NewValue({ attribute, words, text, error, onChange, onLeave }: NewValueProps) {
  const id = useId();
  const { editor } = kindFacts[attribute.kind];
  const { label } = attribute;
  if (editor === 'yesNo' || editor === 'date')
    return (
      <div className="form-row">
        <span aria-hidden id={id}>
          {label}
        </span>
        {editor === 'date' ? (
          <DateField name={label} width={150} value={text} onSave={onChange} />
        ) : (
          <SelectField
            name={label}
            value={text}
            options={[['', 'not set'], 'yes', 'no']}
            onChange={onChange}
          />
        )}
      </div>
    );
  const limit = pageLimits[attribute.code];
  const list = isList(attribute);
  const long = editor === 'richText' || list || attribute.code === 'warning' || limit === 320;
  return (
    <>
      <NewText
        label={label}
        text={text}
        error={error}
        {...(words.length > 0 && { among: words })}
        {...(long && { rows: 2 })}
        {...(attribute.unit && { placeholder: attribute.unit })}
        hint={list ? 'one entry a line' : undefined}
        onChange={onChange}
        onLeave={onLeave}
      />
      {limit !== undefined && text !== '' && <Gauge length={[...text].length} most={limit} />}
    </>
  );
}
