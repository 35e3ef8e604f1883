import type { Piece } from '@/core/text/difference';

/** A text with what went and what came marked inside it. */
export function Marked({ pieces, only }: { pieces: readonly Piece[]; only?: 'before' | 'after' }) {
  let offset = 0;
  return (
    <>
      {pieces.map(({ kind, text }) => {
        const key = `${kind}${offset}`;
        offset += text.length;
        if (kind === 'same') return <span key={key}>{text}</span>;
        if (kind === 'gone')
          return only === 'after' ? null : (
            <mark key={key} className="gone">
              {text}
            </mark>
          );
        return only === 'before' ? null : (
          <mark key={key} className="new">
            {text}
          </mark>
        );
      })}
    </>
  );
}
