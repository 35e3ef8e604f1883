/** A text without some signs at its end, and at its beginning where `both`; in one walk, however long their runs are. */
export function trimCharacters(text: string, signs: ReadonlySet<string>, both = true): string {
  let [begin, end] = [0, text.length];
  while (both && begin < end && signs.has(text[begin] as string)) begin++;
  while (end > begin && signs.has(text[end - 1] as string)) end--;
  return text.slice(begin, end);
}
