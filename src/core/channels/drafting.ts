import { type Attribute, startingAttributes } from '../catalog/attributes';
import { guessAttribute } from '../catalog/quality/survey';
import { InputError } from '../errors/inputError';
import { fold, foldAlike } from '../text/folding';
import { spokenName } from '../text/similarity';
import { readJson } from './bundle';
import { deliverySchema } from './delivery';
import { roleAttributes } from './roles';
import type { Field, FieldKind, FieldRole, Sheet } from './sheet';

/** What is known of a channel before its sheet is: its name and one market. */
export interface ChannelHead {
  readonly code: string;
  readonly name: string;
  readonly country: string;
  readonly language: string;
  readonly currency: string;
  /** RFC 3339 date from which the first version counts. */
  readonly effective: string;
}

const fieldDefaults = {
  group: 'Basics',
  need: 'may',
  synonyms: [],
  unique: false,
  stable: false,
  notForFamilies: false,
} as const satisfies Partial<Field>;

/** A name as a code: lower case letters, digits and `glue`, beginning with a letter. */
export function codeFrom(name: string, glue: '_' | '-' = '_'): string {
  const code = fold(spokenName(name))
    .normalize('NFKD')
    .replace(/[^a-z0-9]+/g, ' ')
    .trim()
    .replace(/ /g, glue);
  return code === '' ? 'field' : /^[a-z]/.test(code) ? code : `f${glue}${code}`;
}

/** The same name with a number behind it where it is taken already. */
export function freeName(name: string, taken: ReadonlySet<string>, glue: '_' | '-'): string {
  for (let n = 1; ; n++) {
    const tried = n === 1 ? name : `${name}${glue}${n}`;
    if (!taken.has(tried)) return tried;
  }
}

const attributeOfRole = new Map(
  Object.entries(roleAttributes).map(([role, code]) => [
    role,
    startingAttributes.find((attribute) => attribute.code === code),
  ]),
);

/** Whether a name is one of the words for an attribute, in any language the starting attributes know. */
const isWordFor = (name: string, attribute: Attribute | undefined): boolean =>
  attribute !== undefined &&
  [attribute.label, spokenName(attribute.code), ...attribute.synonyms].some((word) => foldAlike(word, name));

/** What a field with a job is, whatever a few of its values look like. */
const kindOfRole: Partial<Record<FieldRole, FieldKind>> = {
  id: 'text',
  title: 'text',
  description: 'text',
  brand: 'text',
  mpn: 'text',
  gtin: 'identifier',
  price: 'money',
  link: 'link',
  image: 'pictures',
};

const idWords = new Set([
  'id',
  'sku',
  'item id',
  'offer id',
  'product id',
  'article number',
  'artikelnummer',
]);

function roleOf(name: string): FieldRole | undefined {
  if (idWords.has(fold(name))) return 'id';
  for (const [role, attribute] of attributeOfRole) if (isWordFor(name, attribute)) return role as FieldRole;
  return undefined;
}

/** Gives each role to the first field that asks for it, and makes sure that one field is the id. */
function withRoles(fields: readonly (Field & { values?: Field['values'] })[], idAt: number): Field[] {
  const given = new Set<FieldRole>();
  const named = fields.map((field): Field => {
    const role = roleOf(field.label) ?? roleOf(field.code.replace(/_/g, ' '));
    if (!role || given.has(role)) return field;
    given.add(role);
    return { ...field, role };
  });
  const musts = new Set<FieldRole>(['id', 'title', 'price']);
  return named.map((field, at): Field => {
    const role: FieldRole | undefined = field.role ?? (!given.has('id') && at === idAt ? 'id' : undefined);
    if (role === undefined) return field;
    return {
      ...field,
      role,
      need: musts.has(role) ? 'must' : field.need,
      unique: field.unique || role === 'id',
      stable: field.stable || role === 'id',
    };
  });
}

const sheetOf = (head: ChannelHead, about: string, fields: Field[]): Sheet => ({
  format: 'lively-cart/sheet@1',
  code: head.code,
  name: head.name,
  about,
  version: 1,
  effective: head.effective,
  markets: [{ country: head.country, languages: [head.language], currency: head.currency }],
  fields,
  demands: [],
  branches: [],
  merchant: [],
  answers: [],
  makesPages: false,
  delivery: deliverySchema.parse({ manner: 'byHand', format: 'csv' }),
});

/** A column with few words that repeat is a choice among them; eight rows are the least to tell. */
function choicesIn(values: readonly string[]): string[] | undefined {
  const distinct = [...new Set(values)];
  return values.length >= 8 && distinct.length <= 12 && distinct.length * 3 <= values.length
    ? distinct
    : undefined;
}

/**
 * A first sheet from the heading row of a channel's own template or of a file that it took before.
 * @param headings the columns' names @param rows rows below, which tell kinds and choices; may be none
 * @throws InputError where no column has a name
 */
export function sheetFromHeadings(
  head: ChannelHead,
  headings: readonly string[],
  rows: readonly (readonly string[])[],
): Sheet {
  const columns = headings
    .map((heading, at) => ({
      heading: heading.replace(/\s+/g, ' ').trim(),
      values: rows.map((row) => (row[at] ?? '').trim()).filter((value) => value !== ''),
    }))
    .filter(({ heading }) => heading !== '');
  if (columns.length === 0) throw new InputError('noHeadings');
  const codes = new Set<string>();
  const fields = columns.map(({ heading, values }): Field => {
    const code = freeName(codeFrom(heading), codes, '_');
    codes.add(code);
    const guessed = values.length > 0 ? guessAttribute(code, values).kind : 'text';
    const choices = guessed === 'text' || guessed === 'choice' ? choicesIn(values) : undefined;
    // A word for a choice is no choice before there are words to choose among.
    const reported: FieldKind = guessed === 'choice' ? 'text' : guessed;
    const role = roleOf(heading);
    const kind: FieldKind =
      (role && kindOfRole[role]) ?? (choices && role === undefined ? 'choice' : reported);
    return {
      ...fieldDefaults,
      synonyms: [],
      code,
      label: heading,
      meaning: `The column “${heading}” of the channel's file.`,
      ...(values[0] === undefined ? {} : { example: values[0].slice(0, 120) }),
      kind,
      need: rows.length >= 3 && values.length === rows.length ? 'should' : 'may',
      ...(kind === 'choice' && choices
        ? {
            choices: choices.map((word) => ({ code: word, labels: { [head.language]: word }, synonyms: [] })),
          }
        : {}),
    };
  });
  const unique = columns.findIndex(
    ({ values }) => values.length === rows.length && new Set(values).size === values.length,
  );
  return sheetOf(
    head,
    `Created from a heading row with ${fields.length} columns.`,
    withRoles(fields, Math.max(0, unique)),
  );
}

type Json = { readonly [name: string]: unknown };
const isRecord = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const number = (value: unknown): number | undefined =>
  typeof value === 'number' && Number.isInteger(value) && value > 0 ? value : undefined;
const text = (value: unknown): string | undefined =>
  typeof value === 'string' && value.trim() !== '' ? value : undefined;

/** Follows `$ref` into the same document (RFC 6901 pointers). @throws InputError for a reference that leads nowhere */
function resolved(schema: unknown, root: Json, depth = 0): Json {
  if (!isRecord(schema)) return {};
  const reference = text(schema.$ref);
  if (reference === undefined) return schema;
  if (!reference.startsWith('#/') || depth > 20) throw new InputError('schemaElsewhere', { reference });
  let found: unknown = root;
  for (const step of reference.slice(2).split('/')) {
    const name = decodeURIComponent(step).replace(/~1/g, '/').replace(/~0/g, '~');
    found = isRecord(found) ? found[name] : undefined;
  }
  if (!isRecord(found)) throw new InputError('schemaUndefined', { reference });
  return { ...resolved(found, root, depth + 1), ...withoutReference(schema) };
}

const withoutReference = ({ $ref: _reference, ...rest }: Json): Json => rest;

const formats: Readonly<Record<string, FieldKind>> = {
  uri: 'link',
  'uri-reference': 'link',
  iri: 'link',
  date: 'date',
  'date-time': 'date',
};

function kindOf(schema: Json, code: string): FieldKind {
  const types = [schema.type].flat();
  if (Array.isArray(schema.enum)) return 'choice';
  if (types.includes('boolean')) return 'yesNo';
  if (types.includes('number') || types.includes('integer'))
    return /price|amount|cost/.test(code) ? 'money' : 'number';
  return formats[text(schema.format) ?? ''] ?? 'text';
}

/**
 * A first sheet from a JSON Schema (2020-12) of one listing: properties become fields, `required` becomes `must`, `enum`
 * choices, `minLength` and `maxLength` limits, arrays lists. Properties of nested objects are named `outer_inner`.
 * @throws InputError where it describes no object, or a reference leads nowhere
 */
export function sheetFromJsonSchema(head: ChannelHead, document: string): Sheet {
  const root = readJson(document);
  if (!isRecord(root)) throw new InputError('schemaNoObject');
  const complete = root;
  // A schema of a list of listings is as good as one of a listing.
  let start = resolved(complete, complete);
  if ([start.type].flat().includes('array')) start = resolved(start.items, complete);
  const fields: Field[] = [];
  const codes = new Set<string>();
  const walk = (object: Json, before: string, above: boolean, depth: number): void => {
    const required = new Set(Array.isArray(object.required) ? object.required.map(String) : []);
    for (const [name, given] of Object.entries(isRecord(object.properties) ? object.properties : {})) {
      const property = resolved(given, complete);
      const path = before === '' ? name : `${before} ${name}`;
      const must = above && required.has(name);
      if (isRecord(property.properties) && depth < 4) {
        walk(property, path, must, depth + 1);
        continue;
      }
      const list = [property.type].flat().includes('array');
      const one = list ? resolved(property.items, complete) : property;
      const code = freeName(codeFrom(path), codes, '_');
      codes.add(code);
      const kind = kindOf(one, code);
      const [least, most] = [number(one.minLength), number(one.maxLength)];
      const expression = text(one.pattern);
      const example = Array.isArray(property.examples) ? property.examples[0] : undefined;
      const spoken = spokenName(path);
      fields.push({
        ...fieldDefaults,
        synonyms: [],
        code,
        label: text(property.title) ?? spoken.charAt(0).toUpperCase() + spoken.slice(1),
        meaning:
          text(property.description) ?? `The property “${path.replace(/ /g, '.')}” of the channel's schema.`,
        ...(example === undefined ? {} : { example: String(example) }),
        kind,
        need: must ? 'must' : 'may',
        ...(kind === 'choice' && Array.isArray(one.enum)
          ? {
              choices: one.enum
                .filter((word) => word !== null && word !== '')
                .map((word) => ({ code: String(word), labels: {}, synonyms: [] })),
            }
          : {}),
        ...(least !== undefined || most !== undefined
          ? { length: { measure: 'characters', ...(least ? { least } : {}), ...(most ? { most } : {}) } }
          : {}),
        ...(expression
          ? { pattern: { expression, words: text(one.description) ?? `in the form ${expression}` } }
          : {}),
        ...(list
          ? {
              values: {
                most: number(property.maxItems) ?? 100,
                ...(number(property.minItems) ? { least: number(property.minItems) } : {}),
              },
            }
          : {}),
      });
    }
  };
  walk(start, '', true, 0);
  if (fields.length === 0) throw new InputError('schemaEmpty');
  return sheetOf(
    head,
    text(start.description) ?? `Created from a JSON Schema with ${fields.length} properties.`,
    withRoles(fields, 0),
  );
}
