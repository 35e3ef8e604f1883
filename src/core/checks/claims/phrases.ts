/** So many letters of a phrase's beginning are looked up before its pattern is tried. */
const BEGINNING = 6;
/** Small letters and digits of ASCII, and what Unicode has from Latin-1 on but for its general punctuation. */
const isLetter = (code: number): boolean =>
  (code >= 97 && code <= 122) ||
  (code >= 48 && code <= 57) ||
  (code >= 0xc0 && (code < 0x2000 || code > 0x206f));

interface Words {
  readonly text: string;
  readonly small: string;
  /** Where words begin, 0 is the first letter. */
  readonly starts: readonly number[];
}
/** A word's first two letters as a place in a table; letters beyond Latin-1 share places. */
const placeOf = (text: string, at: number): number =>
  ((text.charCodeAt(at) & 0xff) << 8) | (text.charCodeAt(at + 1) & 0xff);

/** The text that was looked at last: several checks ask for the same one after another. */
let last: Words = { text: '', small: '', starts: [] };

function wordsIn(text: string): Words {
  if (last.text === text) return last;
  const small = text.toLowerCase();
  const starts: number[] = [];
  let within = false;
  for (let at = 0; at < small.length; at++) {
    const letter = isLetter(small.charCodeAt(at));
    if (letter && !within) starts.push(at);
    within = letter;
  }
  last = { text, small, starts };
  return last;
}

/**
 * Finds phrases that stand by themselves in a text. Texts are many and phrases rare: the beginnings of the text's words are looked up in
 * those of the phrases first, which costs a twentieth of trying the patterns.
 * @param phrases patterns in small letters: letters, groups, classes, and `?` behind any of them
 * @throws where a phrase may be shorter than a beginning
 */
export function phraseFinder(phrases: readonly string[]): (text: string) => string | undefined {
  const begins = new Set(phrases.flatMap((phrase) => beginningsOf(phrase)));
  for (const one of begins) if (one.length < BEGINNING) throw new Error(`“${one}” is too short for a phrase`);
  // Most words are ruled out by their first two letters, without a text being made of them.
  const begun = new Uint8Array(0x10000);
  for (const one of begins) begun[placeOf(one, 0)] = 1;
  const here = new RegExp(`(?:${phrases.join('|')})(?![\\p{L}\\p{N}])`, 'iuy');
  return (text) => {
    const { small, starts } = wordsIn(text);
    // A few capitals have small letters of two characters: then the small text itself is searched.
    const looked = text.length === small.length ? text : small;
    for (const at of starts) {
      if (begun[placeOf(small, at)] === 0 || !begins.has(small.slice(at, at + BEGINNING))) continue;
      here.lastIndex = at;
      const found = here.exec(looked)?.[0];
      if (found !== undefined) return found;
    }
    return undefined;
  };
}

/** The first letters of all that a pattern can find. @throws where the pattern begins with something else than letters */
export function beginningsOf(pattern: string): string[] {
  const [whole = []] = [alternatives(pattern, 0).found];
  return [...new Set(whole.map((text) => text.slice(0, BEGINNING)))];
}

/** What the alternatives from a place on can begin with, up to the end of their group. */
function alternatives(pattern: string, from: number): { found: string[]; end: number } {
  const found: string[] = [];
  let open: string[] = [''];
  let at = from;
  const add = (choices: readonly string[], optional: boolean) => {
    open = [
      ...new Set(
        open.flatMap((before) =>
          before.length >= BEGINNING
            ? [before]
            : [...choices.map((one) => (before + one).slice(0, BEGINNING)), ...(optional ? [before] : [])],
        ),
      ),
    ];
  };
  while (at < pattern.length && pattern[at] !== ')') {
    let choices: string[];
    if (pattern[at] === '|') {
      found.push(...open);
      open = [''];
      at++;
      continue;
    }
    if (pattern.startsWith('(?:', at)) {
      const inner = alternatives(pattern, at + 3);
      choices = inner.found;
      at = inner.end + 1;
    } else if (pattern[at] === '[') {
      const end = pattern.indexOf(']', at);
      choices = [...pattern.slice(at + 1, end)];
      at = end + 1;
    } else if (pattern[at] === '\\') {
      choices = pattern[at + 1] === 'd' ? [...'0123456789'] : [pattern[at + 1] ?? ''];
      at += 2;
    } else choices = [pattern[at++] ?? ''];
    const optional = pattern[at] === '?' || pattern[at] === '*';
    if (optional || pattern[at] === '+') at++;
    add(choices, optional);
  }
  return { found: [...found, ...open], end: at };
}
