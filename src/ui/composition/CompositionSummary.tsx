import type { Composition } from '@/core/compose/composition';
import { StepChips } from './PartStrip';

/** A composition on one line, as far as there is room. */
export function CompositionSummary({
  composition,
  labelOf,
}: {
  composition: Composition;
  labelOf(code: string): string;
}) {
  return (
    <span className="summary">
      {composition.alternatives.map((alternative, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: alternatives are plain data; their place is their identity
        <span key={n} className="summary">
          {n > 0 && <span className="else">else</span>}
          {alternative.parts.map((part, i) =>
            'attribute' in part ? (
              // biome-ignore lint/suspicious/noArrayIndexKey: parts are plain data; their place is their identity
              <span key={i} className="summary">
                <span className="chip attribute">{labelOf(part.attribute)}</span>
                <StepChips steps={part.steps} />
              </span>
            ) : (
              // biome-ignore lint/suspicious/noArrayIndexKey: parts are plain data; their place is their identity
              <span key={i} className="chip text">
                {part.text}
              </span>
            ),
          )}
          <StepChips steps={alternative.steps} />
        </span>
      ))}
      <StepChips steps={composition.steps} />
    </span>
  );
}
