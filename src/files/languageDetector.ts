/** Tells the language of a text by n-grams of its letters: its ISO 639-1 code, undefined where it is not sure. */
export type LanguageDetector = (text: string) => string | undefined;

/** What is longer says no more of its language. */
const MAX_CHARACTERS = 1500;

let loading: Promise<LanguageDetector> | undefined;

/** The detector; its tables take a moment to load and are loaded once, when first asked for. */
export function languageDetector(): Promise<LanguageDetector> {
  loading ??= import('eld/extrasmall').then(({ eld }) => (text) => {
    const found = eld.detect(text.slice(0, MAX_CHARACTERS));
    return found.language !== '' && found.isReliable() ? found.language : undefined;
  });
  return loading;
}
