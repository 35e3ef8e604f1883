'use client';
import { Button } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import { useRef, useState } from 'react';
import { counted } from '@/core/formatting/formatting';
import type { CandidateMatchView, ProductView } from '@/server/items/products';
import { Empty } from '../kit/Empty';
import { TextButton } from '../kit/inputs/TextButton';
import { Picture } from '../kit/Picture';
import './matching.css';

interface DoubtsProps {
  doubts: readonly CandidateMatchView[];
  busy: boolean;
  /** What stands above what an item may be. */
  theirs: string;
  /** What an amount of theirs is. */
  money: 'price' | 'cost';
  /** What is said where nothing is in doubt. */
  none: string;
  /** @param same null takes back what was settled */
  onSettle(
    sku: string,
    variant: CandidateMatchView['candidates'][number]['variant'],
    same: boolean | null,
  ): void;
}

/** One doubt after another: the item, and beside it what it may be, with what speaks for and against each. */
export function CandidateMatches({ doubts, busy, theirs, money, none, onSettle }: DoubtsProps) {
  const [skipped, setSkipped] = useState<readonly string[]>([]);
  const [at, setAt] = useState(0);
  const done = useRef<{ sku: string; variant: ProductView }[]>([]);
  const waiting = doubts.filter(({ item }) => !skipped.includes(item.code));
  const doubt = waiting[0] ?? doubts[0];
  const chosen = doubt?.candidates[Math.min(at, doubt.candidates.length - 1)];
  const say = (same: boolean) => {
    if (!doubt || !chosen || busy) return;
    done.current.push({ sku: doubt.item.code, variant: chosen.variant });
    onSettle(doubt.item.code, chosen.variant, same);
    setAt(0);
  };
  const skip = () => {
    if (!doubt) return;
    setSkipped(waiting.length > 1 ? [...skipped, doubt.item.code] : []);
    setAt(0);
  };
  const back = () => {
    const last = done.current.pop();
    if (last) onSettle(last.sku, last.variant, null);
  };
  const move = (by: number) =>
    setAt((known) => Math.max(0, Math.min((doubt?.candidates.length ?? 1) - 1, known + by)));
  useHotkeys([
    ['ArrowDown', () => move(1)],
    ['ArrowUp', () => move(-1)],
    // A button that has the focus is what is pressed.
    ['Enter', () => document.activeElement?.tagName !== 'BUTTON' && say(true)],
    ['n', () => say(false)],
    ['s', skip],
    ['u', back],
  ]);
  if (!doubt || !chosen)
    return (
      <div className="panel">
        <Empty title="No uncertain matches.">
          <span>{none}</span>
        </Empty>
      </div>
    );
  return (
    <div className="panel doubts">
      <div className="doubt-head small muted">
        <span className="grow" aria-live="polite">
          {counted(doubts.length, 'match', 'matches')} to decide
        </span>
        <span>
          <kbd>↑</kbd> <kbd>↓</kbd> choose · <kbd>Enter</kbd> accept · <kbd>N</kbd> reject · <kbd>S</kbd> skip
          · <kbd>U</kbd> back
        </span>
      </div>
      <div className="doubt-grid">
        <section aria-label="Your item">
          <h2>Your item</h2>
          <ProductCard ware={doubt.item} money="price" />
        </section>
        <section aria-label="Possible matches">
          <h2>{theirs}</h2>
          <div className="candidates">
            {doubt.candidates.map((one, n) => (
              <button
                key={one.variant.code}
                type="button"
                aria-pressed={one === chosen}
                onClick={() => setAt(n)}
              >
                <ProductCard ware={one.variant} money={money} />
                <span className="speaks small">
                  {one.supports.map((words) => (
                    <span key={words} className="for">
                      {words}
                    </span>
                  ))}
                  {one.objects.map((words) => (
                    <span key={words} className="against">
                      {words}
                    </span>
                  ))}
                </span>
              </button>
            ))}
          </div>
          <div className="row">
            <Button disabled={busy} onClick={() => say(true)}>
              Accept {chosen.variant.code}
            </Button>
            <Button variant="default" disabled={busy} onClick={() => say(false)}>
              Reject
            </Button>
            <TextButton onClick={skip}>Skip</TextButton>
          </div>
        </section>
      </div>
    </div>
  );
}

function ProductCard({ ware, money }: { ware: ProductView; money: 'price' | 'cost' }) {
  return (
    <div className="ware">
      {ware.picture && <Picture file={ware.picture} name={ware.name} size={56} />}
      <span>
        <b>{ware.name}</b>
        <span className="mono small muted">{ware.code}</span>
        <span>{ware.axes.join(', ') || <span className="muted">has no colour or size</span>}</span>
        {ware.price && (
          <span className="small muted">
            {money} {ware.price}
            {ware.stock && `, ${ware.stock} in stock`}
          </span>
        )}
      </span>
    </div>
  );
}
