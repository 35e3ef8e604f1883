import { fold } from '../text/folding';

/**
 * Words and marks for yes and no in English, German, French, Spanish, Italian, Dutch, Polish, Portuguese and Swedish, and
 * what spreadsheets write. Common practice, no source.
 */
const yes = new Set(
  'yes y true t 1 x on ja j wahr richtig oui o vrai si s verdadero vero waar tak t prawda sim verdadeiro sant'.split(
    ' ',
  ),
);
const no = new Set(
  'no n false f 0 off nein falsch non faux falso nee onwaar nie falsz nao nej falskt none kein keine'.split(
    ' ',
  ),
);
const marks: Readonly<Record<string, 'true' | 'false'>> = {
  '✓': 'true',
  '✔': 'true',
  '☑': 'true',
  '✅': 'true',
  '✗': 'false',
  '✘': 'false',
  '❌': 'false',
  '☐': 'false',
};

/** The one form in which yes and no are kept: `true` or `false`; undefined where the text says neither. */
export function readYesNo(text: string): 'true' | 'false' | undefined {
  const trimmed = text.trim();
  const mark = marks[trimmed.replace(/\ufe0f/g, '')];
  if (mark) return mark;
  const word = fold(trimmed);
  return yes.has(word) ? 'true' : no.has(word) ? 'false' : undefined;
}
