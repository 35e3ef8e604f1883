'use client';
import { Button, Popover } from '@mantine/core';
import { useState } from 'react';
import { TextField } from './inputs';

interface AskWordProps {
  label: string;
  ask: string;
  /** Whether an empty answer is one. */
  optional?: boolean;
  disabled?: boolean;
  start?: string;
  /** @returns a promise of why it is refused, where it may be: that stands at the field then, and what was typed stays */
  onAnswer(word: string): unknown;
}

/** A button that asks for one word before it acts. */
export function PromptButton({
  label,
  ask,
  optional = false,
  disabled = false,
  start = '',
  onAnswer,
}: AskWordProps) {
  const [open, setOpen] = useState(false);
  const [word, setWord] = useState(start);
  const [refused, setRefused] = useState<string>();
  const [busy, setBusy] = useState(false);
  const answer = async () => {
    if (busy || (!optional && word.trim() === '')) return;
    const outcome = onAnswer(word.trim());
    if (outcome instanceof Promise) {
      setBusy(true);
      const words: unknown = await outcome.finally(() => setBusy(false));
      setRefused(typeof words === 'string' ? words : undefined);
      if (typeof words === 'string') return;
    }
    setOpen(false);
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
            <TextField
              name={ask}
              value={word}
              onChange={setWord}
              mono
              width={220}
              onEnter={() => void answer()}
            />
            <Button onClick={() => void answer()} disabled={busy}>
              {label}
            </Button>
          </span>
          {refused !== undefined && (
            <span className="tone-blocker" role="alert">
              {refused}
            </span>
          )}
        </div>
      </Popover.Dropdown>
    </Popover>
  );
}
