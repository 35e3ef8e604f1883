'use client';
import type { Attribute } from '@/core/catalog/attributes';
import { codeInLanguage, languageInCode } from '@/core/catalog/value';
import { languageName } from '@/core/locale/languages';
import { useAddress } from '../hooks/useAddress';
import { SelectField } from './inputs';

/** The languages that texts of some attributes are kept in, beside the catalog's own. */
export const languagesOf = (attributes: readonly Attribute[]): string[] =>
  [...new Set(attributes.flatMap(({ code }) => languageInCode(code)?.language ?? []))].sort();

/** The code that holds an attribute's text in a language, where there is one; else its own. */
export const inLanguage = (code: string, language: string, known: { has(code: string): boolean }): string =>
  language !== '' && known.has(codeInLanguage(code, language)) ? codeInLanguage(code, language) : code;

/** In which language texts are shown that are kept in several; the address keeps it. */
export function TextsIn({ languages, all }: { languages: readonly string[]; all: string }) {
  const { query, go } = useAddress();
  if (languages.length === 0) return null;
  return (
    <SelectField
      name="Texts in"
      shown="beside"
      value={query.get('language') ?? ''}
      options={[['', all] as const, ...languages.map((one) => [one, languageName(one)] as const)]}
      onChange={(language) => go({ language: language || undefined })}
    />
  );
}
