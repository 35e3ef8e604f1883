import { parse } from 'csv-parse/sync';
import { and, eq } from 'drizzle-orm';
import { reportSchema } from '../../core/channels/delivery';
import { InputError } from '../../core/errors/inputError';
import { type ChannelAnswer, readReport } from '../../core/ledger/report';
import { channelOf } from '../channels/channels';
import { db } from '../db/connection';
import { feed, submissionEntry } from '../db/schema';
import { answerByHand } from './delivery';
import { findSubmission } from './submissions';

/** Enters one answer for every listing of a submission that has none yet. @returns how many are still without */
export async function answersOfAll(id: number, result: 'accepted' | 'refused'): Promise<number> {
  const open = await db
    .select({ ref: submissionEntry.ref })
    .from(submissionEntry)
    .where(and(eq(submissionEntry.submissionId, id), eq(submissionEntry.answer, 'waiting')));
  return answerByHand(
    id,
    open.map(({ ref }) => ({ key: ref, result, problems: [], number: undefined })),
    true,
  );
}

/** Headings that the columns of an answer go by, the first of each our own word. */
const headings = {
  key: ['key', 'ref', 'sku', 'id', 'reference', 'offer', 'listing'],
  result: ['result', 'status', 'state', 'outcome', 'answer'],
  text: ['problem', 'message', 'text', 'reason', 'error', 'remark'],
  field: ['field', 'column', 'attribute'],
  code: ['code', 'nr'],
} as const;
const yes = /^(ok|yes|accepted|approved|live|active|published|done|success(ful)?)$/i;
const no = /^(no|refused|rejected|declined|error|failed|blocked|invalid|disapproved)$/i;

/** Answers in delimited text with a heading row. @throws InputError naming the line and the column at fault */
export function answersInTable(text: string): ChannelAnswer[] {
  const first = text.replace(/^\ufeff/, '').split(/\r?\n/, 1)[0] ?? '';
  const delimiter = [';', '\t', ','].find((sign) => first.includes(sign)) ?? ',';
  let rows: string[][];
  try {
    rows = parse(text, {
      delimiter,
      bom: true,
      skip_empty_lines: true,
      relax_column_count: true,
      trim: true,
    });
  } catch (error) {
    throw new InputError('answerUnreadable', { why: error instanceof Error ? error.message : String(error) });
  }
  const [names = [], ...lines] = rows;
  const columnOf = (part: keyof typeof headings) =>
    names.findIndex((name) => (headings[part] as readonly string[]).includes(name.toLowerCase()));
  const [keyAt, resultAt] = [columnOf('key'), columnOf('result')];
  if (keyAt < 0 || resultAt < 0)
    throw new InputError('answerUnreadable', {
      why: `it needs a column “${keyAt < 0 ? 'key' : 'result'}”; its columns are ${names.join(', ')}`,
    });
  const [textAt, fieldAt, codeAt] = [columnOf('text'), columnOf('field'), columnOf('code')];
  const found = new Map<string, ChannelAnswer>();
  for (const [at, line] of lines.entries()) {
    const key = line[keyAt] ?? '';
    const stated = line[resultAt] ?? '';
    const result = yes.test(stated) ? 'accepted' : no.test(stated) ? 'refused' : undefined;
    if (key === '' || !result)
      throw new InputError('answerUnreadable', {
        why: `line ${at + 2} says ${key === '' ? 'no key' : `“${stated}”, which is neither accepted nor rejected`}`,
      });
    const words = (textAt < 0 ? '' : line[textAt]) || (codeAt < 0 ? '' : line[codeAt]) || '';
    const before = found.get(key);
    found.set(key, {
      key,
      // A listing with several problems has a line for each.
      result: before?.result === 'refused' ? 'refused' : result,
      problems: [
        ...(before?.problems ?? []),
        ...(words === ''
          ? []
          : [
              {
                code: (codeAt < 0 ? '' : line[codeAt]) ?? '',
                field: (fieldAt < 0 ? '' : line[fieldAt]) || null,
                text: words,
              },
            ]),
      ],
      number: undefined,
    });
  }
  return [...found.values()];
}

/**
 * Brings a channel's answer in as a file: JSON of the shape that its sheet names, or delimited text with a key and a result a
 * line. @returns how many answers it had, and how many listings are still without
 */
export async function answersFromFile(id: number, text: string): Promise<{ read: number; rest: number }> {
  const found = await findSubmission(id);
  const [head] = found ? await db.select().from(feed).where(eq(feed.code, found.feed)) : [];
  if (!head) throw new InputError('noSubmission');
  const { sheet } = await channelOf(head.channel);
  let answers: readonly ChannelAnswer[];
  if (/^\s*[[{]/.test(text)) {
    let body: unknown;
    try {
      body = JSON.parse(text);
    } catch (error) {
      throw new InputError('noJson', { why: error instanceof Error ? error.message : String(error) });
    }
    const report = readReport(body, sheet.delivery.report ?? reportSchema.parse({}), sheet.answers);
    answers = report.ready ? report.answers : [];
  } else answers = answersInTable(text);
  return { read: answers.length, rest: await answerByHand(id, answers, false) };
}
