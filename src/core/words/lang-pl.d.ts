/** What is used of a package that has no types of its own. */
declare module '@nlpjs/lang-pl' {
  export class StemmerPl {
    /** @param word in small letters */
    stemWord(word: string): string;
  }
}
