'use client';
import { Button } from '@mantine/core';
import { useForm } from '@mantine/form';
import { useRouter } from 'next/navigation';
import { storeAttribute } from '@/actions/catalog/attributes';
import { attributeKinds } from '@/core/catalog/attributeKinds';
import { type Attribute, attributeSchema, attributeSettings } from '@/core/catalog/attributes';
import { settingsOf, withSetting, writtenSetting } from '@/core/forms/forms';
import { useCatalog } from '../kit/hooks/useCatalog';
import { FormSettings } from '../kit/inputs/Settings';

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

/** The definition of an attribute, new or known; its inputs are made from its type. */
export function AttributeForm({ attribute, families, filled = 0, onDone }: AttributeFormProps) {
  const acts = useCatalog();
  const router = useRouter();
  const begun: Attribute = attribute ?? { code: '', label: '', kind: 'text', synonyms: [] };
  /** The attribute as it is written in the form. */
  const written = (values: Record<string, string>): Attribute => {
    const settings = attributeSettings(attributeKinds.find((kind) => kind === values.kind) ?? 'text');
    // What this kind is not asked for, it does not have.
    const { unit: _unit, languages: _languages, ...rest } = begun;
    const read = settings.reduce(
      (thing, setting) => withSetting(thing, setting, values[setting.name] ?? ''),
      rest as Attribute,
    );
    return { ...read, label: read.label.trim(), code: read.code || codeOf(read.label) };
  };
  const form = useForm({
    initialValues: Object.fromEntries(
      settingsOf(attributeSchema).map((setting) => [setting.name, writtenSetting(begun, setting)]),
    ),
    validate: (values) =>
      Object.fromEntries(
        attributeSchema
          .safeParse(written(values))
          .error?.issues.map(({ path, message }) => [String(path[0]), message]) ?? [],
      ),
  });
  const next = written(form.values);
  const save = () =>
    acts.run(
      (press) => storeAttribute(attributeSchema.parse(next), attribute === undefined, press),
      () => {
        onDone?.();
        if (!attribute) router.push(`/attributes/${next.code}`);
      },
    );
  return (
    <form className="panel attribute-form" onSubmit={form.onSubmit(save)}>
      <FormSettings
        settings={attributeSettings(next.kind)}
        form={form}
        more={{
          code: { mono: true, disabled: attribute !== undefined, value: next.code },
          kind: {
            disabled: filled > 0,
            title: filled > 0 ? `${filled} items have a value, so the kind stays` : undefined,
          },
          family: { mono: true, among: families },
        }}
      />
      <Button type="submit" disabled={next.label === '' || next.code === '' || acts.busy}>
        {attribute ? 'Save' : 'Add attribute'}
      </Button>
    </form>
  );
}
