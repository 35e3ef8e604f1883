/**
 * Endings that a noun's or an adjective's plural has instead of the form that dictionaries list, by language, on folded
 * words. From grammars' usual rules; a rule that does not lead to a listed word does no harm.
 */
const endings: Readonly<Record<string, readonly (readonly [from: string, to: string])[]>> = {
  de: pairs('en:|n:|e:|er:|s:|en:e'),
  es: pairs('s:|es:|ces:z|a:o|as:o|os:a'),
  fr: pairs('s:|x:|aux:al|aux:ail|e:|es:|ere:er|euse:eur'),
  it: pairs('i:o|e:a|i:e|chi:co|ghi:go|che:ca|ghe:ga|i:io|a:o'),
  nl: pairs('en:|s:|n:|e:|jes:je|zen:s|ven:f|pjes:|jes:'),
  pl: pairs('y:a|i:a|e:a|e:|i:|y:|a:o|a:y|e:y|e:i|ki:ka|owie:|ek:ka|a:|u:|ow:|ych:y|nych:ny|na:ny|ne:ny'),
  pt: pairs('s:|es:|oes:ao|aes:ao|ns:m|is:l|eis:el|a:o|as:o'),
  sv: pairs('or:a|ar:e|ar:|er:|n:|r:|na:|en:|et:|or:|ar:el'),
};

function pairs(text: string): [string, string][] {
  return text.split('|').map((pair) => {
    const [from = '', to = ''] = pair.split(':');
    return [from, to];
  });
}

/** The forms that a dictionary may list a folded word under, itself left out; the likelier first. */
export function listedForms(word: string, language: string): string[] {
  const forms: string[] = [];
  for (const [from, to] of endings[language] ?? []) {
    if (!word.endsWith(from) || word.length - from.length < 2) continue;
    const stem = word.slice(0, word.length - from.length);
    forms.push(stem + to);
    if (language !== 'nl' || to !== '') continue;
    // Dutch doubles the consonant after a short vowel and writes a long one once before a syllable's end.
    if (/([bdfgklmnprst])\1$/.test(stem)) forms.push(stem.slice(0, -1));
    const long = /^(.*[^aeiou])([aeou])([^aeiou])$/.exec(stem);
    if (long) forms.push(`${long[1]}${long[2]}${long[2]}${long[3]}`);
  }
  return [...new Set(forms)];
}

/** What a word of any language is in English, the likelier first. */
export type English = (word: string) => readonly string[];
