import { z } from 'zod';

/** What a setting is called in a form, besides what its type says. */
interface SettingWords {
  readonly label: string;
  /** What its options are called, by value; those that are left out go by their value. */
  readonly options?: Readonly<Record<string, string>>;
  /** What it is called that nothing is chosen, where that is allowed. */
  readonly none?: string;
  /** How many signs it usually has, where that is not what its kind says. */
  readonly signs?: number;
  /** The texts it is chosen among, where its type does not say them. */
  readonly among?: readonly string[];
}

const stated = z.registry<SettingWords>();

/** Gives a setting its words in forms. @returns the same type */
export function named<T extends z.ZodType>(
  type: T,
  label: string,
  more: Omit<SettingWords, 'label'> = {},
): T {
  stated.add(type, { label, ...more });
  return type;
}

/** One setting of a form, made from its Zod type. */
export interface Setting {
  /** Its name; inside another with a point between them. */
  readonly name: string;
  readonly label: string;
  readonly help: string;
  /** `words` are texts with commas between. */
  readonly kind: 'number' | 'decimal' | 'text' | 'choice' | 'words' | 'tick';
  /** How many signs it usually has. */
  readonly signs: number;
  /** What stands there while it is empty. */
  readonly hint: string;
  /** Whether it may be left out. */
  readonly open: boolean;
  /** Of a choice; an empty value where it may be left open. */
  readonly choices: readonly (readonly [value: string, words: string])[];
}

/** The type inside what may be left out or has a default. */
function inner(type: z.ZodType): { type: z.ZodType; open: boolean } {
  if (type instanceof z.ZodOptional) return { type: inner(type.unwrap() as z.ZodType).type, open: true };
  if (type instanceof z.ZodDefault) return { type: inner(type.unwrap() as z.ZodType).type, open: false };
  return { type, open: false };
}

function kindOf(type: z.ZodType): Setting['kind'] {
  if (type instanceof z.ZodEnum) return 'choice';
  if (type instanceof z.ZodNumber) return type.format === 'safeint' ? 'number' : 'decimal';
  if (type instanceof z.ZodArray) return 'words';
  return type instanceof z.ZodBoolean ? 'tick' : 'text';
}

/**
 * The settings of a type that is an object, in their order, as inputs of a form; those of an object inside it too.
 * @param without settings that the form does not ask for
 */
export function settingsOf(type: z.ZodObject, without: readonly string[] = []): Setting[] {
  return Object.entries(type.shape as Record<string, z.ZodType>).flatMap(([name, given]): Setting[] => {
    const words = stated.get(given);
    const { type: own, open } = inner(given);
    if (without.includes(name)) return [];
    if (own instanceof z.ZodObject && !words)
      return settingsOf(own).map((setting) => ({ ...setting, name: `${name}.${setting.name}` }));
    if (!words) return [];
    const kind = words.among ? 'choice' : kindOf(own);
    const values = words.among ?? (own instanceof z.ZodEnum ? own.options.map(String) : []);
    return [
      {
        name,
        open,
        kind,
        label: words.label,
        help: given.description ?? own.description ?? '',
        hint: kind === 'choice' ? '' : (words.none ?? ''),
        signs: words.signs ?? (kind === 'text' || kind === 'words' ? 14 : 8),
        choices: [
          ...(open && values.length > 0 ? [['', words.none ?? 'none'] as const] : []),
          ...values.map((value) => [value, words.options?.[value] ?? value] as const),
        ],
      },
    ];
  });
}

/** Words with commas between, as a list; empty ones are none. */
export const listed = (text: string): string[] =>
  text
    .split(',')
    .map((word) => word.trim())
    .filter((word) => word !== '');

/** What a setting has, as it is written in a form. */
export function writtenSetting(thing: object, { name }: Pick<Setting, 'name'>): string {
  const value = name
    .split('.')
    .reduce<unknown>((part, step) => (part as Record<string, unknown> | undefined)?.[step], thing);
  return Array.isArray(value) ? value.join(', ') : String(value ?? '');
}

function readSetting({ kind, open }: Setting, text: string): unknown {
  if (kind === 'text') return open && text === '' ? undefined : text;
  if (kind === 'choice') return text || undefined;
  if (kind === 'tick') return text === 'true';
  if (kind === 'words') return open && listed(text).length === 0 ? undefined : listed(text);
  const number = kind === 'decimal' ? Number(text.replace(',', '.')) : Number.parseInt(text, 10);
  return Number.isFinite(number) && text.trim() !== '' ? number : undefined;
}

/**
 * A thing with one setting as it was written; a number that is none, and what is left open, take the setting away. An object
 * inside it of which nothing is left goes too.
 */
export function withSetting<T extends object>(thing: T, setting: Setting, text: string): T {
  const [name = '', ...inside] = setting.name.split('.');
  if (inside.length === 0) return { ...thing, [name]: readSetting(setting, text) };
  const part = withSetting(
    (thing as Record<string, object | undefined>)[name] ?? {},
    { ...setting, name: inside.join('.') },
    text,
  );
  const empty = Object.values(part).every((value) => value === undefined || value === '');
  return { ...thing, [name]: empty ? undefined : part };
}
