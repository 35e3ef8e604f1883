'use client';
import { Button } from '@mantine/core';
import { useState } from 'react';
import { counted } from '@/core/formatting/formatting';
import { takeWordsFrom } from '@/core/values/suggestions';
import type { ValuesStage, WordLine } from '@/server/stages/values';
import { useAddress } from '../kit/hooks/useAddress';
import { Link } from '../kit/Link';
import { useValueMapping } from './useValueMapping';
import './values.css';
import { Empty } from '../kit/Empty';
import { CheckboxField, SelectField } from '../kit/inputs/inputs';
import { ThresholdSlider } from '../kit/inputs/TakeFrom';

const confidences = [95, 90, 80, 70, 60, 50] as const;

/** The value tables of a feed: every word of the catalog and the choice of the channel that it means. */
export function ValuesStagePage({ stage, feed }: { stage: ValuesStage; feed: string }) {
  const { withChange } = useAddress();
  const [from, setFrom] = useState<number>(takeWordsFrom);
  const { current, lines, sharing } = stage;
  const { draft, share, setShare, shareWords, say: save } = useValueMapping(current, sharing);
  const takeable = lines.flatMap(({ word, choice, suggestions: [best] }) =>
    choice === undefined && best && best.score >= from ? [[word, best.choice] as const] : [],
  );
  if (current === undefined)
    return (
      <Empty title="No field with choices is mapped yet.">
        <Link className="text" href={`/feeds/${feed}/fields`}>
          Map fields first
        </Link>
      </Empty>
    );
  const left = lines.filter(({ choice }) => choice === undefined).length;
  return (
    <>
      <div className="bench-head">
        <h2 className="grow">
          {stage.label}: {left === 0 ? 'all values are mapped' : `${counted(left, 'value')} to map`}
        </h2>
        {shareWords && <CheckboxField name={shareWords} checked={share} onChange={setShare} />}
        <ThresholdSlider
          values={confidences}
          value={from}
          onChange={setFrom}
          count={takeable.length}
          busy={draft.busy}
          onTake={() => save(Object.fromEntries(takeable))}
        />
        <Link className="text" href={`/feeds/${feed}/fields`}>
          Fields
        </Link>
      </div>
      <div className="place-grid" aria-busy={draft.busy}>
        <nav className="place-list" aria-label="Fields with choices">
          {stage.fields.map(({ code, label, open, words }) => (
            <Link
              key={code}
              href={withChange({ field: code })}
              scroll={false}
              aria-current={code === current}
            >
              <span className="top">
                {label} <span>{words} values</span>
              </span>
              <span className={open > 0 ? 'small tone-blocker' : 'small muted'}>
                {open > 0 ? `${open} to map` : 'all mapped'}
              </span>
            </Link>
          ))}
        </nav>
        <div className="place-main">
          {lines.map((line) => (
            <Word
              key={line.word}
              line={line}
              choices={stage.choices}
              onChoose={(choice) => save({ [line.word]: choice })}
            />
          ))}
          {lines.length === 0 && <Empty title="No item has a value here." />}
        </div>
      </div>
    </>
  );
}

interface WordProps {
  line: WordLine;
  choices: ValuesStage['choices'];
  onChoose(choice: string): void;
}

function Word({ line, choices, onChoose }: WordProps) {
  const { shown, count, choice, suggestions } = line;
  return (
    <div className={choice === undefined ? 'word-line open' : 'word-line'}>
      <span className="mono cut" title={shown}>
        {shown}
      </span>
      <Link className="text number" href={line.items}>
        {counted(count, 'item')}
      </Link>
      <SelectField
        name={`${shown} becomes`}
        value={choice ?? ''}
        {...(choice === undefined && { prompt: 'choose …' })}
        options={choices.map(
          ({ code, label }) => [code, label === code ? code : `${label} (${code})`] as const,
        )}
        onChange={onChoose}
      />
      <span className="offers">
        {suggestions.slice(0, 2).map((one) => (
          <span className="offer" key={one.choice} title={one.reason}>
            <Button variant="default" size="compact-xs" onClick={() => onChoose(one.choice)}>
              {one.label}
            </Button>
            <span className="small muted cut">
              <b>{one.score}</b> {one.reason}
            </span>
          </span>
        ))}
        {choice === undefined && suggestions.length === 0 && (
          <span className="small muted">no similar choice</span>
        )}
      </span>
    </div>
  );
}
