import { z } from 'zod';

/** What a setting is called in a form, besides what its type says. */
interface SettingWords {
  readonly label: string;
  /** What its options are called, by value; those that are left out go by their value. */
  readonly options?: Readonly<Record<string, string>>;
  /** What it is called that nothing is chosen, where that is allowed. */
  readonly none?: string;
}

const said = z.registry<SettingWords>();

/** Gives a setting its words in forms. @returns the same type */
export function named<T extends z.ZodType>(
  type: T,
  label: string,
  more: Omit<SettingWords, 'label'> = {},
): T {
  said.add(type, { label, ...more });
  return type;
}

/** One setting of a form, made from its Zod type. */
export interface Setting {
  readonly name: string;
  readonly label: string;
  readonly help: string;
  readonly kind: 'number' | 'decimal' | 'text' | 'choice';
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

/**
 * The settings of a type that is an object, in their order, as inputs of a form.
 * @param without settings that the form does not ask for
 */
export function settingsOf(type: z.ZodObject, without: readonly string[] = []): Setting[] {
  return Object.entries(type.shape as Record<string, z.ZodType>).flatMap(([name, given]): Setting[] => {
    const words = said.get(given);
    if (!words || without.includes(name)) return [];
    const { type: own, open } = inner(given);
    const values = own instanceof z.ZodEnum ? own.options.map(String) : [];
    return [
      {
        name,
        open,
        label: words.label,
        help: given.description ?? own.description ?? '',
        kind:
          own instanceof z.ZodEnum
            ? 'choice'
            : own instanceof z.ZodNumber
              ? own.format === 'safeint'
                ? 'number'
                : 'decimal'
              : 'text',
        choices: [
          ...(open && values.length > 0 ? [['', words.none ?? 'none'] as const] : []),
          ...values.map((value) => [value, words.options?.[value] ?? value] as const),
        ],
      },
    ];
  });
}

/** A thing with one setting as it was written; a number that is none, and what is left open, take the setting away. */
export function withSetting<T extends object>(thing: T, { name, kind, open }: Setting, text: string): T {
  const number = kind === 'decimal' ? Number(text.replace(',', '.')) : Number.parseInt(text, 10);
  const value =
    kind === 'text'
      ? open && text === ''
        ? undefined
        : text
      : kind === 'choice'
        ? text || undefined
        : Number.isFinite(number) && text.trim() !== ''
          ? number
          : undefined;
  return { ...thing, [name]: value };
}
