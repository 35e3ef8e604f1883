/** Whether a sign is part of a word. */
export const isWord = (sign: string | undefined): boolean => sign !== undefined && /[\p{L}\p{N}]/u.test(sign);

/** Words that lead over to what follows; a name does not end with one. English, German, French, Spanish, Italian, Dutch, Polish. */
const leadsOver =
  /[\s,;:([/–-]+(?:in|for|with|of|and|für|mit|und|aus|pour|avec|et|en|de|con|para|y|per|e|met|voor|z|dla|i)$/iu;

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\/-]/g, '\\$&');

/**
 * A name or title without some words or phrases, and without the marks and the words between that then lead nowhere.
 * @param words as whole words, letter case aside; of one sign, or without a letter, they stay
 */
export function withoutWords(text: string, words: Iterable<string>): string {
  let left = text;
  for (const word of [...new Set(words)].sort((a, b) => b.length - a.length))
    if (word.length > 1 && /\p{L}/u.test(word))
      left = left.replace(new RegExp(`(?<![\\p{L}\\p{N}])${escaped(word)}(?![\\p{L}\\p{N}])`, 'giu'), ' ');
  left = left
    .replace(/\(\s*\)|\[\s*\]/g, ' ')
    .replace(/\s+([,;.])/g, '$1')
    .replace(/([,;])(?:\s*[,;])+/g, '$1');
  for (let before = ''; before !== left; ) {
    before = left;
    left = left
      .replace(/\s+/g, ' ')
      .replace(/^[\s,;:/–|·-]+|[\s,;:/–|·([-]+$/g, '')
      .replace(leadsOver, '');
  }
  return left;
}
