import { type Setting, settingsOf, withSetting } from '../forms/forms';
import { type Field, fieldSchema } from './sheet';

/** The lines of the form of a sheet's field: what each is about, and the settings that stand there, made from the type. */
const lines = {
  Called: ['label', 'code', 'group'],
  Means: ['meaning', 'example'],
  Takes: ['kind', 'role', 'unique', 'stable', 'notForFamilies'],
  Wanted: ['need'],
  Length: ['length.least', 'length.most', 'length.advised', 'length.phone', 'length.measure'],
  Number: ['number.least', 'number.most', 'number.whole'],
  Values: ['values.least', 'values.most', 'units'],
  Form: ['pattern.expression', 'pattern.words', 'synonyms'],
} as const;
export type FieldLine = keyof typeof lines;

const settings = new Map(settingsOf(fieldSchema).map((setting) => [setting.name, setting]));
export const conditionWords = settings.get('because');

/** The lines that a field has, with their settings: bounds of a number stand at numbers alone, units at measures. */
export function fieldLines(field: Field): readonly (readonly [line: FieldLine, settings: Setting[]])[] {
  const requested = (line: FieldLine, name: string) =>
    (line !== 'Number' || field.kind === 'number') &&
    (name !== 'units' || field.kind === 'measure') &&
    (name !== 'pattern.words' || field.pattern !== undefined) &&
    (name !== 'length.measure' || field.length !== undefined);
  return (Object.keys(lines) as FieldLine[]).flatMap((line) => {
    const found = lines[line].flatMap((name) => {
      const setting = settings.get(name);
      return setting && requested(line, name) ? [setting] : [];
    });
    return found.length > 0 ? [[line, found] as const] : [];
  });
}

/** A field with one setting as it was written; what a setting cannot be without is filled in, what says nothing is gone. */
export function withFieldSetting(field: Field, setting: Setting, text: string): Field {
  const { length, values, pattern, number, ...rest } = withSetting(field, setting, text);
  const says = (thing: object | undefined, besides: string) =>
    Object.entries(thing ?? {}).some(([name, value]) => name !== besides && value !== undefined);
  const next: Record<string, unknown> = {
    ...rest,
    group: rest.group || 'Basics',
    ...(length &&
      says(length, 'measure') && { length: { ...length, measure: length.measure ?? 'characters' } }),
    ...(number && (says(number, 'whole') || number.whole) && { number }),
    ...(values && { values: { ...values, most: values.most ?? values.least ?? 1 } }),
    ...(pattern?.expression && {
      pattern: { ...pattern, words: pattern.words || `in the form ${pattern.expression}` },
    }),
  };
  for (const name of Object.keys(next)) if (next[name] === undefined) delete next[name];
  return next as Field;
}
