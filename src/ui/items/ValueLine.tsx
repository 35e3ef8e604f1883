'use client';
import { notifications } from '@mantine/notifications';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { setItemValue } from '@/app/actions';

interface ValueLineProps {
  sku: string;
  code: string;
  label: string;
  text: string;
  shared: boolean;
  origin: string;
  long: boolean;
}

/** One value of an item; a click edits it in place, Escape leaves it as it was. */
export function ValueLine({ sku, code, label, text, shared, origin, long }: ValueLineProps) {
  const router = useRouter();
  const [editing, setEditing] = useState(false);
  const [busy, startBusy] = useTransition();
  const save = (next: string) => {
    setEditing(false);
    if (next.trim() === text) return;
    startBusy(async () => {
      const { ok, words } = await setItemValue(sku, code, next);
      notifications.show({ message: words, ...(ok ? { autoClose: 2000 } : { color: 'red' }) });
      router.refresh();
    });
  };
  const common = {
    className: 'cell',
    style: { width: '100%', boxSizing: 'border-box' as const },
    defaultValue: text,
    'aria-label': label,
    autoFocus: true,
  };
  return (
    <div className="line" aria-busy={busy}>
      <span className="muted">{label}</span>
      {editing ? (
        long ? (
          <textarea
            {...common}
            rows={5}
            onBlur={(event) => save(event.target.value)}
            onKeyDown={(event) => event.key === 'Escape' && setEditing(false)}
          />
        ) : (
          <input
            {...common}
            onBlur={(event) => save(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Enter') event.currentTarget.blur();
              if (event.key === 'Escape') setEditing(false);
            }}
          />
        )
      ) : (
        <button
          type="button"
          className="plain value"
          onClick={() => setEditing(true)}
          aria-label={`Change ${label}`}
        >
          {text === '' ? (
            <span className="muted">–</span>
          ) : text.length > 300 ? (
            `${text.slice(0, 300)} …`
          ) : (
            text
          )}
        </button>
      )}
      <span className="small muted cut" title={origin}>
        {text === '' ? '' : shared ? `from the family${origin && `, ${origin}`}` : origin || 'entered here'}
      </span>
    </div>
  );
}
