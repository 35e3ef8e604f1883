import type { Alternative, Composition } from '@/core/compose/composition';
import { StepChips } from './PartStrip';

const stepsOf = ({ parts, steps }: Alternative) => [
  ...parts.flatMap((part) => ('attribute' in part ? part.steps : [])),
  ...steps,
];

/** A composition on one line: every alternative's parts; steps only as far as there is room for them, else an ellipsis. */
export function CompositionSummary({
  composition,
  labelOf,
}: {
  composition: Composition;
  labelOf(code: string): string;
}) {
  // Spaces are trimmed everywhere: nobody set it, and it says nothing.
  const steps = [...composition.alternatives.flatMap(stepsOf), ...composition.steps].filter(
    ({ step }) => step !== 'trim',
  );
  const room = composition.alternatives.length === 1 ? 1 : 0;
  return (
    <span className="summary">
      {composition.alternatives.map((alternative, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: alternatives are plain data; their place is their identity
        <span key={n} className="summary">
          {n > 0 && <span className="else">or</span>}
          {alternative.parts.map((part, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: parts are plain data; their place is their identity
            <span key={i} className={'attribute' in part ? 'chip attribute' : 'chip text'}>
              {'attribute' in part ? labelOf(part.attribute) : part.text}
            </span>
          ))}
        </span>
      ))}
      <StepChips steps={steps.slice(0, room)} />
      {steps.length > room && <span className="muted">…</span>}
    </span>
  );
}
