/** Whether a character is part of a word. */
export const isWord = (character: string | undefined): boolean =>
  character !== undefined && /[\p{L}\p{N}]/u.test(character);

/** Words at the end of a name that lead on to a word after them. English, German, French, Spanish, Italian, Dutch, Polish. */
const connecting =
  /[\s,;:([/–-]+(?:in|for|with|of|and|für|mit|und|aus|pour|avec|et|en|de|con|para|y|per|e|met|voor|z|dla|i)$/iu;

/**
 * The source of a regular expression that matches any of some words or phrases as whole words, the longest first.
 * @param words not empty
 */
export const anyWordOf = (words: Iterable<string>): string => {
  const list = [...new Set(words)]
    .sort((a, b) => b.length - a.length)
    .map((word) => word.replace(/[.*+?^${}()|[\]\\]/g, '\\$&').replace(/\s+/g, ' '));
  return `(?<![\\p{L}\\p{N}])(?:${list.join('|')})(?![\\p{L}\\p{N}])`;
};

/**
 * A name or title without some words or phrases. Brackets, commas and connecting words that would be left over go too.
 * @param words as whole words, letter case aside; single characters and words without a letter stay
 */
export function withoutWords(text: string, words: Iterable<string>): string {
  const wanted = [...words].filter((word) => word.length > 1 && /\p{L}/u.test(word));
  let left = text;
  if (wanted.length > 0) left = left.replace(new RegExp(anyWordOf(wanted), 'giu'), ' ');
  left = left
    .replace(/\(\s*\)|\[\s*\]/g, ' ')
    .replace(/\s+([,;.])/g, '$1')
    .replace(/([,;])(?:\s*[,;])+/g, '$1');
  for (let before = ''; before !== left; ) {
    before = left;
    left = left
      .replace(/\s+/g, ' ')
      .replace(/^[\s,;:/–|·-]+|[\s,;:/–|·([-]+$/g, '')
      .replace(connecting, '');
  }
  return left;
}
