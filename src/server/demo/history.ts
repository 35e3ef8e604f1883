import { randomUUID } from 'node:crypto';
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Values } from '../../core/catalog/item';
import { asList, asText } from '../../core/catalog/value';
import type { Sheet } from '../../core/channels/sheet';
import { cellsOf, extraOf, headingOf } from '../../core/formats/format';
import { causesOf } from '../../core/ledger/causes';
import { after, emptyEntry, type Problem } from '../../core/ledger/ledger';
import { feedPieces } from '../../files/formats';
import { insertRows } from '../db/bulk';
import { db } from '../db/connection';
import { batch, submission, submissionEntry } from '../db/schema';
import { writeLedger } from '../ledger/ledger';
import { settings } from '../runtime/settings';
import { storeFile } from '../storage/files';
import { fileHead } from '../submissions/batches';
import { dueOn, valuesByField } from '../submissions/due';

/** What a channel of the demo was sent on an earlier day, and how it differs from what the shop says today. */
interface Earlier {
  readonly feed: string;
  /** What the channel's own numbers begin with. */
  readonly numbers: string;
  /** What stands before a key in the simulated channel's own books. */
  readonly books?: string;
  readonly hoursAgo: number;
  /** Listings that were not there yet, by how their SKU begins. */
  readonly without?: string;
  /** What some prices were then: how their SKU begins, and by what today's is multiplied. */
  readonly prices?: Readonly<Record<string, number>>;
  /** What was refused, by how the SKU begins. */
  readonly refused?: Readonly<Record<string, Problem>>;
  /** Listings it has that the shop does not sell any more. */
  readonly gone?: readonly string[];
}

const earlier: readonly Earlier[] = [
  {
    feed: 'orrin-bazaar-de',
    numbers: 'OB',
    hoursAgo: 31,
    without: 'QM-TRY',
    prices: {
      'VR-LGT-HAL': 10,
      'QM-POT-RDG': 0.97,
      'QM-POT-FEN': 0.95,
      'SP-BOK-SHA': 1.02,
    },
    refused: {
      'SP-BOK-WHE': {
        code: 'OB-140',
        field: 'main_picture',
        text: 'The main picture cannot be fetched',
      },
      'QM-POT-RDG-TER-1': {
        code: 'OB-201',
        field: 'product_number',
        text: 'The product number’s check digit is wrong',
      },
    },
    gone: ['QM-POT-OLD-CHA-12', 'QM-POT-OLD-INK-12', 'QM-CAN-OLD-10'],
  },
  {
    feed: 'plazuela-norte-es',
    numbers: 'PN',
    hoursAgo: 55,
    prices: { 'QM-CAN': 0.9 },
    refused: {
      'SP-BOK': { code: 'PN06', field: 'descripcion', text: 'The description is too short' },
    },
  },
  { feed: 'flickerstall-de-en', numbers: 'FS', hoursAgo: 27, without: 'QM-STD' },
  { feed: 'lanternry-gb', numbers: 'L', books: 'GB ', hoursAgo: 8 },
];

const begins = (sku: string, words: Readonly<Record<string, unknown>> | undefined): string | undefined =>
  Object.keys(words ?? {}).find((start) => sku.startsWith(start));

/** The price of a listing as it was then. */
function priced(values: Values, field: string, factor: number): Values {
  const [amount = '', currency = ''] = asText(values[field]).split(' ');
  const then = (Number(amount) * factor).toFixed(2);
  return { ...values, [field]: `${then}${currency ? ` ${currency}` : ''}` };
}

/** A listing as it stands in the books of a channel: what its file says of it, by the names of the file. */
function bookRow(sheet: Sheet, values: Values, relation: 'lead' | 'member' | undefined) {
  if (sheet.delivery.format !== 'csv' && sheet.delivery.format !== 'tsv')
    return Object.fromEntries(Object.entries(values).map(([name, value]) => [name, asList(value)]));
  const cells = cellsOf(sheet)({
    values: sheet.fields.map(({ code }) => values[code]),
    extra: extraOf(sheet, { removal: false, relation }),
  });
  return Object.fromEntries(headingOf(sheet).map((name, at) => [name, cells[at] ? [cells[at]] : []]));
}

/** What a simulated channel holds when it is first started: what it was sent before. */
async function fillBooks(channel: string, listings: object): Promise<void> {
  const folder = join(settings.dataFolder, 'simulators');
  await mkdir(folder, { recursive: true });
  const stored = { listings, nextNumber: Object.keys(listings).length + 1 };
  await writeFile(join(folder, `${channel}.json`), JSON.stringify(stored));
}

/** The weeks in which the shop began to sell there: how long ago, how many listings, and how many of them were refused. */
const firstWeeks = [
  { daysAgo: 29, listings: 24, refused: 8 },
  { daysAgo: 22, listings: 36, refused: 7 },
  { daysAgo: 15, listings: 48, refused: 4 },
  { daysAgo: 8, listings: 60, refused: 2 },
] as const;

/** What was sent in the first weeks, when there was less: it is past, and the last submission says what the channels have. */
async function writeFirstWeeks(now: Date): Promise<void> {
  for (const { daysAgo, listings: count, refused: most } of firstWeeks)
    for (const [at, { feed, refused: reasons }] of earlier.entries()) {
      const due = await dueOn(feed);
      if (!due) continue;
      const { sheet, plans } = due;
      const problems = Object.values(reasons ?? {});
      const refused = Math.max(0, problems.length === 0 ? most - 5 + (at % 2) : most - at);
      const problemsAt = (position: number) => [problems[position % problems.length] ?? withoutPicture];
      const createdAt = new Date(now.getTime() - daysAgo * 86_400_000 + at * 3_600_000);
      const answeredAt = new Date(createdAt.getTime() + (daysAgo - at) * 40_000);
      const listings = due.listings.filter(({ out }) => out !== undefined).slice(0, count);
      await db.transaction(async (tx) => {
        const [made] = await tx
          .insert(submission)
          .values({
            feed,
            version: plans.version,
            sheetVersion: sheet.version,
            state: 'answered',
            total: listings.length,
            accepted: listings.length - refused,
            refused,
            foreseen: Math.floor(refused / 2),
            causes: causesOf(listings.slice(0, refused).map((_, position) => problemsAt(position))),
            cause: daysAgo < 20 ? 'schedule' : 'hand',
            createdAt,
            sentAt: createdAt,
            answeredAt,
          })
          .$returningId();
        await insertRows(
          tx,
          submissionEntry,
          listings.map(({ sku, out }, position) => ({
            submissionId: made?.id ?? 0,
            sku,
            position,
            batch: 0,
            ref: sku,
            due: 'new' as const,
            relation: out?.relation ?? null,
            digest: 'as it was then'.padEnd(32, '.'),
            values: valuesByField(sheet, out?.values ?? []),
            answer: position < refused ? ('refused' as const) : ('accepted' as const),
            problems: position < refused ? problemsAt(position) : [],
          })),
        );
      });
    }
}

const withoutPicture: Problem = { code: 'PIC', field: null, text: 'The picture could not be fetched' };

/** Writes down what the demo's channels were sent before, so that there is something to compare with from the start. */
export async function writeHistory(now: Date): Promise<void> {
  await writeFirstWeeks(now);
  for (const one of earlier) {
    const due = await dueOn(one.feed);
    if (!due) continue;
    const { sheet, plans } = due;
    const price = sheet.fields.find(({ role }) => role === 'price')?.code ?? '';
    const id = sheet.fields.find(({ role }) => role === 'id')?.code ?? '';
    const createdAt = new Date(now.getTime() - one.hoursAgo * 3600_000);
    const answeredAt = new Date(createdAt.getTime() + 6 * 60_000);
    const gone = due.listings[0]?.out;
    const listings = [
      ...due.listings.flatMap(({ sku, out, digest }) => {
        if (!out || (one.without && sku.startsWith(one.without))) return [];
        const values = valuesByField(sheet, out.values);
        const factor = one.prices?.[begins(sku, one.prices) ?? ''];
        const refusal = one.refused?.[begins(sku, one.refused) ?? ''];
        return [
          factor === undefined
            ? { sku, values, digest: digest ?? '', refusal, relation: out.relation }
            : {
                sku,
                values: priced(values, price, factor),
                digest: 'as it was then'.padEnd(32, '.'),
                refusal,
                relation: out.relation,
              },
        ];
      }),
      ...(one.gone ?? []).map((sku) => ({
        sku,
        values: { ...valuesByField(sheet, gone?.values ?? []), [id]: sku },
        digest: 'as it was then'.padEnd(32, '.'),
        refusal: undefined,
        relation: undefined,
      })),
    ];
    const file = await storeFile(
      feedPieces(
        sheet,
        await fileHead(plans.head, sheet, createdAt),
        listings.map(({ values, relation }) => ({
          values: sheet.fields.map(({ code }) => values[code]),
          extra: extraOf(sheet, { removal: false, relation }),
        })),
      ),
    );
    const refused = listings.filter(({ refusal }) => refusal !== undefined).length;
    const numberOf = new Map(
      listings
        .filter(({ refusal }) => !refusal)
        .map(({ sku }, at) => [sku, `${one.numbers}-${String(at + 1).padStart(6, '0')}`]),
    );
    await fillBooks(
      plans.head.channel,
      Object.fromEntries(
        listings.flatMap(({ sku, values, relation }) => {
          const number = numberOf.get(sku);
          const row = bookRow(sheet, values, relation);
          return number ? [[`${one.books ?? ''}${asText(values[id]) || sku}`, { number, row }]] : [];
        }),
      ),
    );
    await db.transaction(async (tx) => {
      const [made] = await tx
        .insert(submission)
        .values({
          feed: one.feed,
          version: plans.version,
          sheetVersion: sheet.version,
          state: 'answered',
          total: listings.length,
          accepted: listings.length - refused,
          refused,
          causes: causesOf(listings.flatMap(({ refusal }) => (refusal ? [[refusal]] : []))),
          createdAt,
          sentAt: createdAt,
          answeredAt,
        })
        .$returningId();
      const submissionId = made?.id ?? 0;
      await tx.insert(batch).values({
        submissionId,
        position: 0,
        state: 'answered',
        count: listings.length,
        file: file.hash,
        bytes: file.bytes,
        key: randomUUID(),
        sentAt: createdAt,
        answeredAt,
      });
      await insertRows(
        tx,
        submissionEntry,
        listings.map(({ sku, values, digest, refusal, relation }, position) => ({
          submissionId,
          sku,
          position,
          batch: 0,
          ref: asText(values[id]) || sku,
          due: 'new' as const,
          relation: relation ?? null,
          digest,
          values,
          answer: refusal ? ('refused' as const) : ('accepted' as const),
          problems: refusal ? [refusal] : [],
        })),
      );
      await writeLedger(
        tx,
        one.feed,
        listings.map(({ sku, values, digest, refusal }) => {
          const sent = after(emptyEntry, { event: 'sent', submission: submissionId, digest });
          const entry = after(
            sent,
            refusal
              ? { event: 'refused', submission: submissionId, problems: [refusal] }
              : { event: 'accepted', submission: submissionId, number: numberOf.get(sku) },
          );
          return [sku, entry, values];
        }),
      );
    });
  }
}
