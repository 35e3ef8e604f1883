const names = new Intl.DisplayNames('en', { type: 'language' });

/** A language's name as people read it. @param tag BCP 47 */
export const languageName = (tag: string): string => names.of(tag) ?? tag;

/** Languages that catalogs are commonly written in; ISO 639-1. */
export const commonLanguages: readonly string[] =
  'en de fr es it nl pl pt sv da nb fi cs sk hu ro bg el hr sl et lv lt tr uk ja ko zh ar'.split(' ');
