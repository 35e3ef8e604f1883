import { asList } from '../../core/catalog/value';
import { formatFacts } from '../../core/channels/formats';
import { extraNames, extraOf, type FeedHead, type FeedRow, nameIn } from '../../core/formats/format';
import { shaped, sheetAsShown } from '../../core/ledger/families';
import { feedPieces, formats } from '../../files/formats';
import { variantWordsIn } from '../catalog/snapshot';
import type { FeedContext } from '../evaluation/feedContext';
import { memoFor } from '../runtime/memo';
import { fileHead, rowOfEntry } from './batches';
import { dueOn } from './due';
import { wouldLeave } from './planning/choosing';

/** The file of a feed as it would leave now, before it does. */
export interface FileView {
  readonly label: string;
  readonly name: string;
  readonly count: number;
  /** Made of the draft, since nothing is published yet. */
  readonly ofDraft: boolean;
  readonly columns: readonly { code: string; name: string; label: string }[];
  /** The first listings, with the item each is of. */
  readonly rows: readonly { sku: string; cells: readonly string[] }[];
  /** How the file begins; undefined where it is packed and no text. */
  readonly begins: string | undefined;
}

const MAX_ROWS = 20;
/** Signs of a file's beginning that are shown. */
const MAX_CHARACTERS = 6000;

interface FileRow extends FeedRow {
  readonly sku: string;
}

/** What would leave now; where nothing would, or nothing is published yet, all that is ready. */
async function leavingOf(work: FeedContext): Promise<{ ofDraft: boolean; rows: readonly FileRow[] }> {
  const { sheet, plans } = work;
  const ofDraft = plans.published === undefined;
  const due = ofDraft ? undefined : await dueOn(plans.head.code);
  const entries = due ? wouldLeave(due) : [];
  const rowOf = rowOfEntry(sheet);
  if (entries.length > 0)
    return {
      ofDraft,
      rows: entries.flatMap((entry): FileRow[] => {
        const row = rowOf({
          ...entry,
          digest: entry.digest ?? null,
          relation: entry.relation ?? null,
          ref: entry.ref ?? entry.sku,
        });
        return row ? [{ ...row, sku: entry.sku }] : [];
      }),
    };
  const { listings, compiled } = ofDraft ? work.draft : work.published;
  return {
    ofDraft,
    rows: shaped(
      sheetAsShown(sheet, compiled.plan.families),
      listings.whole((state) => state === 'ready'),
      new Set(listings.skus()),
      variantWordsIn(work.snapshot),
    ).map(({ sku, values, relation }) => ({
      sku,
      values,
      relation,
      extra: extraOf(sheet, { removal: false, relation }),
    })),
  };
}

const nameOf = ({ plans, sheet }: FeedContext): string =>
  `${plans.head.code}.${formats[sheet.delivery.format].ending}`;

/** What {@link FileView} shows of a feed; made once for what would leave and what the file says of itself. */
export async function fileView(work: FeedContext): Promise<FileView> {
  const due = await dueOn(work.plans.head.code);
  const head: FeedHead = await fileHead(work.plans.head, work.sheet, new Date());
  const { updated: _now, ...same } = head;
  return memoFor(
    due?.listings ?? work.draft,
    'file previews',
    () => viewOf(work, head),
    JSON.stringify(same),
  );
}

async function viewOf(work: FeedContext, head: FeedHead): Promise<FileView> {
  const { sheet } = work;
  const { ofDraft, rows } = await leavingOf(work);
  const first = rows.slice(0, MAX_ROWS);
  const name = nameIn(sheet);
  let begins: string | undefined;
  if (sheet.delivery.format !== 'xlsx') {
    const decoder = new TextDecoder();
    begins = '';
    for await (const piece of feedPieces(sheet, head, first)) {
      begins += decoder.decode(piece, { stream: true });
      if (begins.length > MAX_CHARACTERS) break;
    }
    begins = begins.slice(0, MAX_CHARACTERS);
  }
  // Fields that no listing fills say nothing in the table.
  const shown = sheet.fields.flatMap((field, at) =>
    first.some(({ values }) => values[at] !== undefined) ? [{ field, at }] : [],
  );
  return {
    label: formatFacts[sheet.delivery.format].label,
    name: nameOf(work),
    count: rows.length,
    ofDraft,
    columns: [
      ...shown.map(({ field: { code, label } }) => ({ code, label, name: name(code) })),
      ...extraNames(sheet).map((extra) => ({ code: `+${extra}`, label: extra, name: extra })),
    ],
    rows: first.map(({ sku, values, extra = [] }) => ({
      sku,
      cells: [...shown.map(({ at }) => asList(values[at]).join(' · ').slice(0, 200)), ...extra],
    })),
    begins,
  };
}

/** The whole file, in pieces. */
export async function wholeFile(work: FeedContext) {
  const { mediaType } = formats[work.sheet.delivery.format];
  const head = await fileHead(work.plans.head, work.sheet, new Date());
  return {
    mediaType,
    name: nameOf(work),
    pieces: feedPieces(work.sheet, head, (await leavingOf(work)).rows),
  };
}
