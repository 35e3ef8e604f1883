/** A piece of text and whether it stands in both versions, only before, or only after. */
export interface Piece {
  readonly kind: 'same' | 'gone' | 'new';
  readonly text: string;
}

const tokens = (text: string): string[] => text.match(/\s+|[\p{L}\p{N}]+|[^\s\p{L}\p{N}]/gu) ?? [];
/** Longer texts are compared as wholes: the table below grows with the product of both lengths. */
const MAX_TOKENS = 600;

/** The difference of two texts by words, as pieces in reading order (longest common subsequence). */
export function wordDifference(before: string, after: string): Piece[] {
  const [a, b] = [tokens(before), tokens(after)];
  if (before === after) return before === '' ? [] : [{ kind: 'same', text: before }];
  if (a.length > MAX_TOKENS || b.length > MAX_TOKENS)
    return [
      { kind: 'gone', text: before },
      { kind: 'new', text: after },
    ];
  const width = b.length + 1;
  const table = new Uint16Array((a.length + 1) * width);
  for (let i = a.length - 1; i >= 0; i--)
    for (let j = b.length - 1; j >= 0; j--)
      table[i * width + j] =
        a[i] === b[j]
          ? (table[(i + 1) * width + j + 1] ?? 0) + 1
          : Math.max(table[(i + 1) * width + j] ?? 0, table[i * width + j + 1] ?? 0);
  const pieces: { kind: Piece['kind']; text: string }[] = [];
  const add = (kind: Piece['kind'], text: string) => {
    const last = pieces.at(-1);
    if (last?.kind === kind) last.text += text;
    else pieces.push({ kind, text });
  };
  let [i, j] = [0, 0];
  while (i < a.length || j < b.length) {
    if (i < a.length && j < b.length && a[i] === b[j]) {
      add('same', a[i] as string);
      i++;
      j++;
    } else if (
      j >= b.length ||
      (i < a.length && (table[(i + 1) * width + j] ?? 0) >= (table[i * width + j + 1] ?? 0))
    )
      add('gone', a[i++] as string);
    else add('new', b[j++] as string);
  }
  return pieces;
}
