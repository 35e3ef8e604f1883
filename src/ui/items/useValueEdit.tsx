import { useState } from 'react';
import type { Press, Told } from '@/actions/action';
import type { Attribute } from '@/core/catalog/attributes';
import type { CatalogActs } from '../kit/hooks/useCatalog';
import { ValueEditor } from './ValueEditor';

interface ValueEditOptions {
  /** The value as it stands. */
  text: string;
  acts: CatalogActs;
  change(next: string, press: Press): Promise<Told<{ words: string; edit?: number }>>;
  /** Whether it is open from the start. */
  start?: boolean;
  onEnd?: (() => void) | undefined;
}

/** A value that is opened, saved and left; what was refused stays in its place, to be mended. */
export function useValueEdit({ text, acts, change, start = false, onEnd }: ValueEditOptions) {
  const [editing, setEditing] = useState(start);
  const [refused, setRefused] = useState<{ text: string; words: string }>();
  const end = () => {
    setEditing(false);
    setRefused(undefined);
    onEnd?.();
  };
  const save = (next: string) => {
    // Left as it was refused, it is not asked for again.
    if (next === refused?.text) return;
    end();
    if (next.trim() === text) return;
    acts.run(
      (press) => change(next, press),
      undefined,
      (words) => {
        setRefused({ text: next, words });
        setEditing(true);
      },
    );
  };
  return { text, editing, refused, open: () => setEditing(true), end, save };
}

/** The editor of such a value, with why it was refused. */
export function ValueEditing({
  edit,
  attribute,
  words,
}: {
  edit: ReturnType<typeof useValueEdit>;
  attribute: Attribute;
  words?: readonly string[] | undefined;
}) {
  const { text, refused, save, end } = edit;
  return (
    <span style={{ display: 'grid', gap: 2, minWidth: 0 }}>
      <ValueEditor
        key={refused?.text}
        attribute={attribute}
        text={refused?.text ?? text}
        {...(words && { words })}
        onSave={save}
        onLeave={end}
      />
      {refused && (
        <span className="small tone-blocker" role="alert">
          {refused.words}
        </span>
      )}
    </span>
  );
}
