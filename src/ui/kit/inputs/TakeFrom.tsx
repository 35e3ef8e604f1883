'use client';
import { Button } from '@mantine/core';
import { counted } from '@/core/formatting/formatting';
import { SelectField } from './inputs';

interface ConfidenceProps {
  values: readonly number[];
  value: number;
  name?: string;
  /** Whether its name stands beside it. */
  shown?: boolean;
  onChange(value: number): void;
}

/** The confidence from which on suggestions count. */
export function Confidence({
  values,
  value,
  name = 'from confidence',
  shown = true,
  onChange,
}: ConfidenceProps) {
  return (
    <SelectField
      name={name}
      {...(shown ? { shown: 'beside' } : { title: 'Accept all suggestions from this confidence' })}
      value={String(value)}
      options={values.map((one) => [String(one), shown ? String(one) : `≥ ${one}`] as const)}
      onChange={(text) => onChange(Number(text))}
    />
  );
}

interface TakeFromProps extends ConfidenceProps {
  /** How many suggestions reach it. */
  count: number;
  busy: boolean;
  onTake(): void;
}

/** Takes all suggestions from a confidence on together. */
export function ThresholdSlider({ count, busy, onTake, ...confidence }: TakeFromProps) {
  return (
    <>
      <Confidence {...confidence} />
      <Button variant="default" disabled={count === 0 || busy} onClick={onTake}>
        {count === 0 ? 'No suggestions' : `Accept ${counted(count, 'suggestion')}`}
      </Button>
    </>
  );
}
