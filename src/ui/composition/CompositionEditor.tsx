'use client';
import { type Alternative, type Composition, fixedText, fromAttribute } from '@/core/compose/composition';
import { TextButton } from '../kit/inputs/TextButton';
import { type AttributeOption, PartStrip } from './PartStrip';
import { StepsEditor } from './StepsEditor';
import { useSample } from './useSample';

interface CompositionEditorProps {
  composition: Composition | undefined;
  attributes: readonly AttributeOption[];
  absent?: ReadonlySet<string>;
  onChange(composition: Composition | null): void;
}

/** A fallback chain: alternatives tried in order, each of parts and steps, then steps on whatever came out. */
export function CompositionEditor({ composition, attributes, absent, onChange }: CompositionEditorProps) {
  const sample = useSample();
  if (!composition)
    return (
      <div className="editor-line">
        <span className="label">first</span>
        <PartStrip
          parts={[]}
          attributes={attributes}
          addLabel="Add a source: an attribute or fixed text"
          onChange={([part]) =>
            part && onChange('attribute' in part ? fromAttribute(part.attribute) : fixedText(part.text))
          }
        />
      </div>
    );
  const put = (at: number, alternative: Alternative) =>
    onChange({
      ...composition,
      alternatives: composition.alternatives.map((old, i) => (i === at ? alternative : old)),
    });
  const remove = (at: number) =>
    onChange(
      composition.alternatives.length === 1
        ? null
        : { ...composition, alternatives: composition.alternatives.filter((_, i) => i !== at) },
    );
  return (
    <>
      {composition.alternatives.map((alternative, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: alternatives are plain data; their place is their identity
        <div className="editor-line" key={at}>
          <span className="label">{at === 0 ? 'first' : 'if empty'}</span>
          <div>
            <div className="row" style={{ flexWrap: 'wrap' }}>
              <PartStrip
                parts={alternative.parts}
                attributes={attributes}
                {...(absent ? { absent } : {})}
                onChange={(parts) => put(at, { ...alternative, parts })}
              />
              <TextButton onClick={() => remove(at)}>
                {composition.alternatives.length === 1 ? 'Leave empty' : 'Remove'}
              </TextButton>
            </div>
            <AlternativeSteps alternative={alternative} onChange={(changed) => put(at, changed)} />
          </div>
        </div>
      ))}
      <div className="editor-line">
        <span className="label">result</span>
        <div className="row" style={{ flexWrap: 'wrap' }}>
          <StepsEditor
            steps={composition.steps}
            input={sample?.made(composition.alternatives)}
            onChange={(steps) => onChange({ ...composition, steps })}
            label="Add a step for the result"
          />
          <TextButton
            onClick={() =>
              onChange({
                ...composition,
                alternatives: [...composition.alternatives, { parts: [{ text: '', glue: ' ' }], steps: [] }],
              })
            }
          >
            Add fallback
          </TextButton>
        </div>
      </div>
    </>
  );
}

/** The steps of the only part of an alternative stand open; several parts have theirs inside their chips. */
function AlternativeSteps({
  alternative,
  onChange,
}: {
  alternative: Alternative;
  onChange(alternative: Alternative): void;
}) {
  const sample = useSample();
  const [part] = alternative.parts;
  if (alternative.parts.length === 1 && part && 'attribute' in part)
    return (
      <StepsEditor
        steps={part.steps}
        input={sample?.attribute(part.attribute)}
        onChange={(steps) => onChange({ ...alternative, parts: [{ ...part, steps }] })}
      />
    );
  return (
    <StepsEditor
      steps={alternative.steps}
      input={sample?.made([{ ...alternative, steps: [] }])}
      onChange={(steps) => onChange({ ...alternative, steps })}
    />
  );
}
