'use client';
import { MultiSelect } from '@mantine/core';
import { fixedText } from '@/core/compose/composition';
import type { CategoryVariant } from '@/core/plans/plan';
import type { FieldRow, FieldsStage } from '@/server/stages/fields';
import { CompositionEditor } from '../composition/CompositionEditor';
import { useDraft } from '../draft/useDraft';
import { TextButton } from '../kit/inputs/TextButton';

/** How a field is filled in some of the merchant's categories, where that differs from everywhere else. */
export function PerCategory({ row, stage }: { row: FieldRow; stage: FieldsStage }) {
  const draft = useDraft();
  const save = (variants: CategoryVariant[]) =>
    void draft.save({ edit: 'perCategory', field: row.code, variants });
  const put = (at: number, variant: CategoryVariant) =>
    save(row.perCategory.map((old, i) => (i === at ? variant : old)));
  const taken = new Set(row.perCategory.flatMap(({ categories }) => categories));
  const free = stage.categories.find((category) => !taken.has(category));
  return (
    <>
      {row.perCategory.map((variant, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: variants are plain data; their place is their identity
        <div className="per-category" key={at}>
          <div className="editor-line">
            <span className="label">only in</span>
            <MultiSelect
              aria-label={`Categories where ${row.label} has another source`}
              data={[...new Set([...stage.categories, ...variant.categories])]}
              value={variant.categories}
              searchable
              comboboxProps={{ withinPortal: false }}
              onChange={(categories) =>
                categories.length > 0
                  ? put(at, { ...variant, categories })
                  : save(row.perCategory.filter((_, i) => i !== at))
              }
            />
          </div>
          <CompositionEditor
            composition={variant.composition}
            attributes={stage.attributes}
            absent={new Set(stage.absent)}
            onChange={(composition) =>
              composition
                ? put(at, { ...variant, composition })
                : save(row.perCategory.filter((_, i) => i !== at))
            }
          />
        </div>
      ))}
      {free !== undefined && (
        <div className="editor-line">
          <span className="label" />
          <TextButton
            style={{ justifySelf: 'start' }}
            onClick={() =>
              save([
                ...row.perCategory,
                { categories: [free], composition: row.composition ?? fixedText('') },
              ])
            }
          >
            Use another source in some categories
          </TextButton>
        </div>
      )}
    </>
  );
}
