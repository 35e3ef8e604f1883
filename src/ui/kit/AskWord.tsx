'use client';
import { Button, Popover } from '@mantine/core';
import { useState } from 'react';
import { Words } from './inputs';

interface AskWordProps {
  label: string;
  ask: string;
  /** Whether an empty answer is one. */
  optional?: boolean;
  disabled?: boolean;
  start?: string;
  onAnswer(word: string): void;
}

/** A button that asks for one word before it acts. */
export function AskWord({
  label,
  ask,
  optional = false,
  disabled = false,
  start = '',
  onAnswer,
}: AskWordProps) {
  const [open, setOpen] = useState(false);
  const [word, setWord] = useState(start);
  const answer = () => {
    if (!optional && word.trim() === '') return;
    setOpen(false);
    onAnswer(word.trim());
    setWord(start);
  };
  return (
    <Popover opened={open} onChange={setOpen} position="bottom-start" trapFocus>
      <Popover.Target>
        <Button variant="default" disabled={disabled} onClick={() => setOpen(!open)}>
          {label}
        </Button>
      </Popover.Target>
      <Popover.Dropdown>
        <div className="small muted" style={{ display: 'grid', gap: 4 }}>
          {ask}
          <span className="row">
            <Words name={ask} value={word} onChange={setWord} mono width={220} onEnter={() => answer()} />
            <Button onClick={answer}>{label}</Button>
          </span>
        </div>
      </Popover.Dropdown>
    </Popover>
  );
}
