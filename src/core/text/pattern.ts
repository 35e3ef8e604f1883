import { RE2JS } from 're2js';

/** A pattern that is not taken, with the reason in words. */
export class PatternRefused extends Error {}

/**
 * Patterns that people type: regular expressions in steps and requirement sheets. They run in time that grows with the
 * text and no faster, whatever they are given: by an automaton (re2js), or natively where the pattern is so plain that
 * nothing can be tried twice.
 */
export interface Pattern {
  test(text: string): boolean;
  /** Replaces every match; `$1` stands for the first group, `$$` for a dollar sign. Stops growing at `most` signs. */
  replace(text: string, by: string, most: number): string;
}

/** A pattern longer than this is refused. */
const MAX_PATTERN_LENGTH = 300;
/** An automaton larger than this is refused: counted repetitions of counted repetitions. */
const MAX_PROGRAM = 5000;

/** Why a pattern cannot be used; undefined where it can. */
export function patternTrouble(expression: string): string | undefined {
  if (expression === '') return 'is empty';
  if (expression.length > MAX_PATTERN_LENGTH) return `is longer than ${MAX_PATTERN_LENGTH} characters`;
  try {
    new RegExp(expression, 'gu');
  } catch {
    return 'is not a regular expression';
  }
  try {
    return automaton(expression).programSize() > MAX_PROGRAM
      ? 'repeats repetitions too often to run on a whole catalog'
      : undefined;
  } catch {
    return 'looks ahead, looks behind or refers back to a group, which could run forever; write it without';
  }
}

/** ECMAScript's `\s` takes in the blanks of Unicode; the automaton's does not. */
const translated = (expression: string): string => {
  let inClass = false;
  return RE2JS.translateRegExp(expression).replace(/\\.|[[\]]/gs, (sign) => {
    if (sign === '[') inClass = true;
    if (sign === ']') inClass = false;
    if (sign === '\\s') return inClass ? '\\s\\x{a0}\\x{2000}-\\x{200a}\\x{202f}\\x{3000}' : blank;
    return sign;
  });
};
const blank = '[\\s\\x{a0}\\x{2000}-\\x{200a}\\x{202f}\\x{3000}]';

const automaton = (expression: string): RE2JS => RE2JS.compile(translated(expression));

/**
 * Whether backtracking can try nothing twice: the pattern begins at the text's start, repeats without end at most once,
 * repeats no group, and counts little.
 */
function isPlain(expression: string): boolean {
  if (!expression.startsWith('^')) return false;
  const bare = expression.replace(/\\[pPu]\{[^}]*\}|\\./g, 'a').replace(/\[[^\]]*\]/g, 'a');
  if (/\)[*+{]|\(\?[^:]|[[\]|]/.test(bare)) return false;
  const counted = [...bare.matchAll(/\{(\d+)(,(\d*))?\}/g)];
  const endless =
    (bare.replace(/\{[^}]*\}/g, '').match(/[*+]/g)?.length ?? 0) +
    counted.filter(([, , comma, most]) => comma !== undefined && most === '').length;
  const ways = counted.reduce((product, [, least, , most]) => {
    return most ? product * (Number(most) - Number(least) + 1) : product;
  }, 1);
  const maybe = bare.match(/[^*+}?]\?/g)?.length ?? 0;
  return endless <= 1 && ways * 2 ** maybe <= 256;
}

/**
 * Compiles a pattern.
 * @throws Error where {@link patternTrouble} tells a reason; patterns are refused before they are kept
 */
export function compilePattern(expression: string): Pattern {
  const trouble = patternTrouble(expression);
  if (trouble) throw new PatternRefused(`The pattern /${expression.slice(0, 80)}/ ${trouble}.`);
  const slow = automaton(expression);
  const quick = isPlain(expression) ? new RegExp(expression, 'u') : undefined;
  return {
    test: quick ? (text) => quick.test(text) : (text) => slow.matcher(text).find(),
    replace: (text, by, most) => replaceAll(slow, text, by, most),
  };
}

function replaceAll(expression: RE2JS, text: string, by: string, most: number): string {
  const matcher = expression.matcher(text);
  const groups = expression.groupCount();
  let created = '';
  let end = 0;
  while (matcher.find() && created.length < most) {
    created += text.slice(end, matcher.start());
    created += by.replace(/\$(\$|&|\d)/g, (all, sign: string) => {
      if (sign === '$') return '$';
      const group = sign === '&' ? 0 : Number(sign);
      return group > groups || (sign !== '&' && group === 0) ? all : (matcher.group(group) ?? '');
    });
    end = matcher.end();
  }
  return created + text.slice(end, end + most);
}
