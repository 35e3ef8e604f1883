'use client';
import { Button } from '@mantine/core';
import { type ReactNode, useState } from 'react';
import { counted } from '@/core/formatting/formatting';
import type { CategoryOption } from '@/server/fixes/categorySuggestions';
import { RestrictedMark } from './CategoryChooser';
import './categories.css';
import { CheckboxField } from '../kit/inputs/inputs';
import { Confidence } from '../kit/inputs/TakeFrom';
import { TextButton } from '../kit/inputs/TextButton';

const confidences = [30, 50, 70, 80, 90, 95, 98] as const;

export interface ReviewProps {
  title: string;
  /** What is to be placed, each with its best place. */
  lines: readonly (CategoryOption & { key: string; beside: string })[];
  /** The confidence from which lines are chosen at first. */
  from: number;
  /** What the lines are, one and several. */
  of: readonly [one: string, many: string];
  onPlace(placements: Record<string, { category: string }>): Promise<unknown>;
  onDone?(): void;
  /** What stands beside the buttons. */
  more?: ReactNode;
}

/** The best place of everything that has none, from a chosen confidence on, to be placed together. */
export function Review({ title, lines, from: start, of, onPlace, onDone, more }: ReviewProps) {
  const [from, setFrom] = useState(start);
  const [turned, setTurned] = useState<ReadonlySet<string>>(new Set());
  const isOn = ({ key, score }: ReviewProps['lines'][number]) => score >= from !== turned.has(key);
  const chosen = lines.filter(isOn);
  const toggle = (key: string) => {
    const next = new Set(turned);
    if (!next.delete(key)) next.add(key);
    setTurned(next);
  };
  return (
    <div style={{ padding: '9px 14px', display: 'grid', gap: 8 }}>
      <div className="row">
        <h2 className="grow">{title}</h2>
        <Confidence
          name="preselected from confidence"
          values={confidences}
          value={from}
          onChange={(next) => {
            setFrom(next);
            setTurned(new Set());
          }}
        />
      </div>
      <table className="plain">
        <tbody>
          {lines.map((one) => (
            <tr key={one.key}>
              <td className="nowrap">
                <CheckboxField name={one.key} checked={isOn(one)} onChange={() => toggle(one.key)} />
              </td>
              <td className="muted nowrap">{one.beside}</td>
              <td>
                {one.path}
                {one.restricted && <RestrictedMark restricted={one.restricted} />}
                <div className="small muted">
                  {one.learned ? `as in ${one.learned}` : `matched: ${one.matched.join(', ')}`}
                </div>
              </td>
              <td className="muted number nowrap">{one.score} %</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="row">
        <Button
          disabled={chosen.length === 0}
          onClick={() =>
            void onPlace(Object.fromEntries(chosen.map(({ key, code }) => [key, { category: code }]))).then(
              onDone,
            )
          }
        >
          Map {counted(chosen.length, ...of)}
        </Button>
        {onDone && <TextButton onClick={onDone}>Close</TextButton>}
        {more}
      </div>
    </div>
  );
}
