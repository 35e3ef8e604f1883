import { asList } from '../../core/catalog/value';
import { formatLabels } from '../../core/channels/delivery';
import type { FeedHead } from '../../core/formats/format';
import { nameIn } from '../../core/formats/format';
import { feedPieces, formats } from '../../files/formats';
import { fileHead } from '../submissions/making';
import type { FeedWork } from './work';

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

const mostRows = 20;
/** Signs of a file's beginning that are shown. */
const mostSigns = 6000;

/** The ready listings of what is published; of the draft where nothing is. */
function readyOf(work: FeedWork) {
  const ofDraft = work.plans.published === undefined;
  const { listings } = ofDraft ? work.draft : work.published;
  return { ofDraft, ready: listings.filter(({ state }) => state === 'ready') };
}

const nameOf = ({ plans, sheet }: FeedWork): string =>
  `${plans.head.code}.${formats[sheet.delivery.format].ending}`;

/** What {@link FileView} shows of a feed. */
export async function fileView(work: FeedWork): Promise<FileView> {
  const { sheet } = work;
  const { ofDraft, ready } = readyOf(work);
  const first = ready.slice(0, mostRows);
  const name = nameIn(sheet);
  let begins: string | undefined;
  if (sheet.delivery.format !== 'xlsx') {
    const head: FeedHead = await fileHead(work.plans.head, sheet, new Date());
    const decoder = new TextDecoder();
    begins = '';
    for await (const piece of feedPieces(sheet, head, first)) {
      begins += decoder.decode(piece, { stream: true });
      if (begins.length > mostSigns) break;
    }
    begins = begins.slice(0, mostSigns);
  }
  // Fields that no listing fills say nothing in the table.
  const shown = sheet.fields.flatMap((field, at) =>
    first.some(({ values }) => values[at] !== undefined) ? [{ field, at }] : [],
  );
  return {
    label: formatLabels[sheet.delivery.format],
    name: nameOf(work),
    count: ready.length,
    ofDraft,
    columns: shown.map(({ field: { code, label } }) => ({ code, label, name: name(code) })),
    rows: first.map(({ sku, values }) => ({
      sku,
      cells: shown.map(({ at }) => asList(values[at]).join(' · ').slice(0, 200)),
    })),
    begins,
  };
}

/** The whole file, in pieces. */
export async function wholeFile(work: FeedWork) {
  const { mediaType } = formats[work.sheet.delivery.format];
  const head = await fileHead(work.plans.head, work.sheet, new Date());
  return { mediaType, name: nameOf(work), pieces: feedPieces(work.sheet, head, readyOf(work).ready) };
}
