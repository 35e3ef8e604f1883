'use client';
import { Button } from '@mantine/core';
import { useForm } from '@mantine/form';
import { useRouter } from 'next/navigation';
import { storeAttribute } from '@/actions/catalog';
import { type Attribute, attributeKinds, writtenKinds } from '@/core/catalog/attributes';
import { unitNames } from '@/core/measures/units';
import { bound, Choice, listed, Words } from '../kit/inputs';
import { useCatalog } from '../kit/useCatalog';

export const kindNames: Record<Attribute['kind'], string> = {
  text: 'text',
  richText: 'rich text',
  number: 'number',
  measure: 'measure',
  money: 'money',
  yesNo: 'yes or no',
  choice: 'choice',
  date: 'date',
  link: 'link',
  pictures: 'pictures',
  identifier: 'identifier',
};

interface AttributeFormProps {
  attribute?: Attribute;
  families: readonly string[];
  /** How many items have a value, which keeps the kind as it is. */
  filled?: number;
  onDone?(): void;
}

/** A code from a label: "Sow-by date" → "sowByDate". */
export const codeOf = (label: string): string =>
  label
    .normalize('NFKD')
    .replace(/[^\p{L}\p{N} ]/gu, ' ')
    .replace(/[^\x20-\x7e]/g, '')
    .trim()
    .split(/\s+/)
    .map((word, i) =>
      i === 0 ? word.toLowerCase() : word.charAt(0).toUpperCase() + word.slice(1).toLowerCase(),
    )
    .join('')
    .replace(/^\d+/, '');

/** The definition of an attribute, new or known. */
export function AttributeForm({ attribute, families, filled = 0, onDone }: AttributeFormProps) {
  const acts = useCatalog();
  const router = useRouter();
  const form = useForm({
    initialValues: {
      code: attribute?.code ?? '',
      label: attribute?.label ?? '',
      kind: attribute?.kind ?? ('text' as Attribute['kind']),
      unit: attribute?.unit ?? '',
      synonyms: attribute?.synonyms.join(', ') ?? '',
      family: attribute?.family ?? '',
      languages: attribute?.languages?.join(', ') ?? '',
    },
    validate: {
      label: (label) => (label.trim() === '' ? 'It needs a label' : null),
      languages: (languages) =>
        listed(languages).every((tag) => /^[a-z]{2,3}$/i.test(tag))
          ? null
          : 'Tags of languages with commas between, such as de, fr',
      code: (given, { label }) =>
        /^[A-Za-z][A-Za-z0-9]*$/.test(given || codeOf(label))
          ? null
          : 'Letters and digits, beginning with a letter',
    },
  });
  const { values } = form;
  const code = values.code || codeOf(values.label);
  const save = () =>
    acts.run(
      () =>
        storeAttribute(
          {
            code,
            label: values.label.trim(),
            kind: values.kind,
            ...(values.kind === 'measure' && values.unit ? { unit: values.unit } : {}),
            synonyms: listed(values.synonyms),
            ...(values.family ? { family: values.family } : {}),
            ...(attribute?.terms ? { terms: attribute.terms } : {}),
            ...(writtenKinds.has(values.kind) && listed(values.languages).length > 0
              ? { languages: listed(values.languages).map((tag) => tag.toLowerCase()) }
              : {}),
          },
          attribute === undefined,
        ),
      () => {
        onDone?.();
        if (!attribute) router.push(`/attributes/${code}`);
      },
    );
  return (
    <form className="panel attribute-form" onSubmit={form.onSubmit(save)}>
      <Words name="Label" shown="above" {...bound(form, 'label')} />
      <Words
        name="Code"
        shown="above"
        mono
        disabled={attribute !== undefined}
        {...bound(form, 'code')}
        value={code}
      />
      <Choice
        name="Kind"
        shown="above"
        options={attributeKinds.map((kind) => [kind, kindNames[kind]] as const)}
        disabled={filled > 0}
        title={filled > 0 ? `${filled} items have a value, so the kind stays` : undefined}
        {...bound(form, 'kind')}
      />
      {values.kind === 'measure' && (
        <Choice
          name="Unit where none is written"
          shown="above"
          options={[['', 'none'], ...unitNames]}
          {...bound(form, 'unit')}
        />
      )}
      <Words
        name="For"
        shown="above"
        mono
        among={families}
        placeholder="all items"
        {...bound(form, 'family')}
      />
      {writtenKinds.has(values.kind) && (
        <Words name="Also written in" shown="above" placeholder="de, fr" {...bound(form, 'languages')} />
      )}
      <Words
        name="Other names that sources use, with commas between"
        shown="above"
        className="wide"
        {...bound(form, 'synonyms')}
      />
      <Button type="submit" disabled={values.label.trim() === '' || code === '' || acts.busy}>
        {attribute ? 'Save' : 'Add attribute'}
      </Button>
    </form>
  );
}
