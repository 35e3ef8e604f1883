'use client';
import { Button, Popover } from '@mantine/core';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { TextField } from './inputs';

interface DeleteProps {
  label: string;
  /** What goes with it, and what stays. */
  words: string;
  /** What has to be typed, so that nothing is deleted by accident. */
  type: string;
  act(): Promise<{ ok: true } | { ok: false; words: string }>;
  /** Where to go once it is gone; the page itself is drawn again where left out. */
  then?: string;
}

/** A button that says what would go with something, and deletes it once its name is typed. */
export function DeleteButton({ label, words, type, act, then }: DeleteProps) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState('');
  const [refused, setRefused] = useState<string>();
  const [busy, startBusy] = useTransition();
  const right = typed.trim() === type;
  const run = () =>
    startBusy(async () => {
      const answer = await act();
      if (!answer.ok) return setRefused(answer.words);
      setOpen(false);
      if (then) router.push(then);
      router.refresh();
    });
  return (
    <Popover opened={open} onChange={setOpen} position="bottom-start" trapFocus>
      <Popover.Target>
        <Button variant="subtle" color="gray" size="compact-sm" onClick={() => setOpen(!open)}>
          {label}
        </Button>
      </Popover.Target>
      <Popover.Dropdown>
        <div className="small" style={{ display: 'grid', gap: 6, maxWidth: 380 }}>
          <span>{words} It cannot be undone.</span>
          <span className="muted">
            Type <b className="mono">{type}</b> to delete it.
          </span>
          <span className="row">
            <TextField
              name={`Type ${type} to delete it`}
              value={typed}
              onChange={setTyped}
              mono
              width={200}
              onEnter={() => right && run()}
            />
            <Button color="red" size="compact-sm" disabled={!right || busy} onClick={run}>
              Delete
            </Button>
          </span>
          {refused && (
            <span className="tone-blocker" role="alert">
              {refused}
            </span>
          )}
        </div>
      </Popover.Dropdown>
    </Popover>
  );
}
