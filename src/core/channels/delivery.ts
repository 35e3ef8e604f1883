import { z } from 'zod';
import { named, type Setting, settingsOf } from '../forms/forms';
import { feedFormats, formatFacts, labelsOf } from './formats';
import { transportFacts, transportKinds } from './transports';

/** A name that an element of XML may have too: a letter, then letters, digits, points, hyphens and low lines. */
const elementName = z.string().regex(/^[\p{L}_][\p{L}\p{N}._-]*$/u, 'is not a valid name for a file');

/** What may stand in braces in a path, and for what. */
const placeholders = ['country', 'number', 'key'] as const;
const placeholderWords =
  '{country} is the market’s country, {number} the ID in the receipt, {key} the key of a listing';

/** A path on the channel's server: `{country}`, `{number}` and `{key}` stand for the market, a receipt's number, a listing. */
const serverPath = z
  .string()
  .regex(/^\/[\w\-./~?=&%{}:+,]*$/, 'is not a path: it starts with "/" and has no blanks')
  .superRefine((path, context) => {
    const open = path.replace(/\{(\w*)\}/g, (all, name: string) =>
      (placeholders as readonly string[]).includes(name) ? '' : all,
    );
    const wrong = /\{[^}]*\}?|\}/.exec(open)?.[0];
    if (wrong !== undefined)
      context.addIssue({ code: 'custom', message: `knows no “${wrong}”: ${placeholderWords}` });
  });

/** Words of an answer that mean the same, with a comma between them. */
const words = (usual: string) => z.string().min(1).default(usual);

/**
 * How to ask what came of a file or a call, and where the answer says it. Paths in the answer are names with points
 * between them; an empty one is the answer itself.
 */
export const reportSchema = z.strictObject({
  path: named(
    serverPath.optional().meta({
      description: `where it is asked for; not needed where the result comes at once. ${placeholderWords}`,
    }),
    'Result address',
    { none: 'answered at once' },
  ),
  number: named(
    z.string().default('id').meta({ description: 'of what was sent, in the receipt' }),
    'ID in the receipt',
  ),
  state: named(z.string().default('state'), 'State of the report'),
  working: named(words('working'), 'Values for “not ready”'),
  entries: named(z.string().default('entries'), 'List of results'),
  key: named(z.string().min(1).default('ref'), 'Key of the listing'),
  result: named(z.string().min(1).default('result'), 'Result'),
  accepted: named(words('accepted'), 'Values for “accepted”'),
  refused: named(words('refused'), 'Values for “rejected”'),
  pending: named(words('pending'), 'Values for “in review”'),
  draft: named(words('draft'), 'Values for “draft”'),
  own: named(z.string().default('number'), 'ID at the channel'),
  problems: named(z.string().default('problems'), 'List of problems'),
  code: named(z.string().default('code'), 'Code of a problem'),
  field: named(z.string().default('field'), 'Field of a problem'),
  text: named(z.string().default('text'), 'Text of a problem'),
  later: named(
    z.enum(['yes', 'no']).default('no').meta({
      description: 'whether the same report says what the channel decides after its first answer',
    }),
    'Reports later results',
  ),
});
export type ReportShape = z.infer<typeof reportSchema>;

/**
 * How to ask a channel for what it has already, by product number and by name, and what is sent of an item that joins such an entry.
 * Paths in an entry are names with points between them.
 */
const joinsSchema = z.strictObject({
  byNumber: serverPath.meta({ description: 'searches by GTIN; {number} is the GTIN' }),
  byName: serverPath.optional().meta({ description: 'searches by words of a name; {key} is the words' }),
  entries: z.string().default('entries').meta({ description: 'where the list of entries stands' }),
  entry: z.string().min(1).meta({ description: 'where the number of an entry stands' }),
  says: z
    .record(z.string(), z.string().min(1))
    .meta({ description: 'by attribute of the catalog: where an entry says it' }),
  field: z.string().meta({ description: 'the field that carries the number of the entry that is joined' }),
  asked: z.array(z.string()).min(1).meta({ description: 'the fields that are still asked for then' }),
  rate: z
    .strictObject({ count: z.number().int().positive(), seconds: z.number().positive() })
    .default({ count: 60, seconds: 60 })
    .meta({ description: 'so many questions in so many seconds at most' }),
});

export type Joins = z.infer<typeof joinsSchema>;

/**
 * Where a channel lists what it has of a market, and where in an entry the key and the values stand that are compared with our
 * records. Paths are names with points between them.
 */
const listSchema = z.strictObject({
  path: serverPath.meta({ description: placeholderWords }),
  entries: z.string().default('listings').meta({ description: 'where the list stands' }),
  key: z.string().min(1).default('ref'),
  values: z
    .record(z.string(), z.string().min(1))
    .default({})
    .meta({ description: 'by field: where an entry says it, as it was sent' }),
});
export type ListShape = z.infer<typeof listSchema>;

/** One code of a channel's answers, what it means, and which field it is about. */
export const answerCodeSchema = z.strictObject({
  code: z.string().min(1),
  field: z.string().optional(),
  words: z.string().min(1),
});
export type AnswerCode = z.infer<typeof answerCodeSchema>;

/** How listings reach the channel, and what the file looks like that they are written in. */
export const deliverySchema = z.strictObject({
  manner: named(z.enum(transportKinds).meta({ description: 'how listings reach the channel' }), 'Manner', {
    options: labelsOf(transportFacts),
  }),
  format: named(z.enum(feedFormats), 'Format', { options: labelsOf(formatFacts) }),
  namespace: named(z.string().optional().meta({ description: 'of the elements of XML files' }), 'Namespace'),
  most: named(
    z.number().int().positive().default(1000).meta({ description: 'listings in one file or call' }),
    'Listings in one file',
  ),
  separator: named(z.string().min(1).optional(), 'Separator'),
  decimalSign: named(z.enum([',', '.']).default('.'), 'Decimal sign'),
  listSeparator: named(
    z
      .string()
      .default('|')
      .meta({ description: 'between the values of a list in one cell, where its field names no other' }),
    'Separator in lists',
  ),
  lineEnd: named(z.enum(['crlf', 'lf']).default('crlf'), 'Line ends', {
    options: { crlf: 'as RFC 4180 has them', lf: 'line feed alone' },
  }),
  mark: named(
    z.enum(['none', 'utf8']).default('none').meta({ description: 'what delimited text begins with' }),
    'Byte order mark',
    { options: { none: 'none', utf8: 'UTF-8' } },
  ),
  names: z
    .record(z.string(), elementName)
    .optional()
    .meta({ description: 'what fields are called in the file, by their codes, where it is not the code' }),
  envelope: named(
    z.string().optional().meta({ description: 'the key of the array in a JSON file' }),
    'Key of the list',
  ),
  root: named(
    elementName.default('listings').meta({ description: 'the outermost element of a plain XML file' }),
    'Outermost element',
  ),
  entry: named(
    elementName.default('listing').meta({ description: 'the element of a listing in a plain XML file' }),
    'Element of a listing',
  ),
  rate: z
    .strictObject({ count: z.number().int().positive(), seconds: z.number().positive() })
    .optional()
    .meta({ description: 'so many files or calls in so many seconds at most' }),
  keeps: named(
    z
      .number()
      .int()
      .positive()
      .max(3650)
      .optional()
      .meta({ description: 'days after which a listing that was not sent again is taken off' }),
    'Listings expire after days',
    { signs: 5 },
  ),
  waits: z
    .number()
    .positive()
    .optional()
    .meta({ description: 'seconds until the channel usually has an answer' }),
  patience: named(
    z
      .number()
      .int()
      .positive()
      .default(86_400)
      .meta({ description: 'seconds after which an answer that has not come is taken for lost' }),
    'Time limit, seconds',
  ),
  path: named(
    serverPath
      .default('/files')
      .meta({ description: 'where files and calls go, below the address of the feed' }),
    'Address for sending',
  ),
  method: named(
    z.enum(['post', 'put']).default('post').meta({ description: 'put: each file under a name of its own' }),
    'By',
    { options: { post: 'posting', put: 'PUT under its own name' } },
  ),
  repeatable: named(
    z.enum(['yes', 'no']).default('yes').meta({
      description: 'whether what was sent with the same Idempotency-Key is taken once however often it comes',
    }),
    'Safe to send twice',
  ),
  partial: named(
    z
      .enum(['yes', 'no'])
      .default('yes')
      .meta({ description: 'whether a file may hold only what has changed' }),
    'Changes only',
  ),
  removal: named(
    z.enum(['absence', 'row', 'call']).default('absence').meta({ description: 'how a listing is withdrawn' }),
    'Withdrawn by',
    { options: { absence: 'leaving the file', row: 'a row marked for deletion', call: 'a call' } },
  ),
  action: named(
    elementName.default('action').meta({ description: 'the column or key that says what a row is for' }),
    'Action column',
  ),
  put: named(z.string().default('put'), 'Value for “send”'),
  remove: named(z.string().default('remove'), 'Value for “delete”'),
  families: named(
    z
      .enum(['singles', 'leads', 'oneEntry'])
      .default('singles')
      .meta({ description: 'how the variants of one product are shown' }),
    'Families',
    {
      options: {
        singles: 'each variant by itself, with the group’s code',
        leads: 'a parent with its variants',
        oneEntry: 'one entry a family',
      },
    },
  ),
  relation: named(
    elementName.optional().meta({ description: 'the column that marks parents and variants' }),
    'Parent column',
  ),
  quick: z
    .strictObject({ path: serverPath, fields: z.array(z.string()).min(1) })
    .optional()
    .meta({
      description:
        'where listings go of which only these fields have changed, such as price and stock: by themselves, with the key',
    }),
  joins: joinsSchema.optional().meta({ description: 'where items may join what the channel has already' }),
  drafts: z
    .strictObject({ path: serverPath, keeps: z.number().int().positive().max(3650).optional() })
    .optional()
    .meta({
      description:
        'where listings are saved as drafts, which nobody sees before they are sent for review; after how many days one expires',
    }),
  list: listSchema
    .optional()
    .meta({ description: 'where the channel lists what it has; compared once a day' }),
  report: reportSchema.optional().meta({ description: 'how the answer is asked for and read' }),
});
export type Delivery = z.infer<typeof deliverySchema>;

/** The settings of a delivery that a form asks for, for the format and the manner it has. */
export const deliverySettings = ({ format, manner, removal, families }: Delivery): Setting[] => {
  const { automatic, published } = transportFacts[manner];
  const shown = new Set([
    'manner',
    'format',
    'most',
    'families',
    ...(families === 'leads' ? ['relation'] : []),
    ...formatFacts[format].settings,
    ...(automatic ? ['patience', 'removal'] : []),
    ...(automatic && !published ? ['path', 'method', 'repeatable', 'partial'] : []),
    ...(removal === 'row' ? ['action', 'put', 'remove'] : []),
  ]);
  return settingsOf(deliverySchema).filter(({ name }) => shown.has(name));
};

/** The settings of a report that a form asks for. */
export const reportSettings: Setting[] = settingsOf(reportSchema);
