import type { Sheet } from '../../core/channels/sheet';
import type { Report } from '../../core/ledger/report';

/** Where a feed goes. */
export interface Destination {
  readonly feed: string;
  readonly channel: string;
  readonly country: string;
  /** Without a slash behind it. */
  readonly address: string;
  readonly credential: string | undefined;
  /** The address at which the channel fetches the feed's file. */
  readonly fetchAt: string | undefined;
}

/** A file or call that is to leave. */
export interface OutBatch {
  readonly key: string;
  /** By its content. */
  readonly file: string;
  readonly bytes: number;
  readonly count: number;
  readonly submission: number;
  /** Whether it holds only what may be sent by itself, such as prices and stock. */
  readonly quick: boolean;
  /** Whether it is to be saved as drafts, which nobody sees. */
  readonly draft: boolean;
  /** Whether it holds the key of a listing that is taken back by a call, and nothing else. */
  readonly removal: boolean;
}

/**
 * What came of handing a batch over.
 * - `taken`: it is there; the answer came along, or is asked for by the receipt
 * - `later`: it was not taken, and can be sent again after a wait
 * - `unknown`: nobody knows whether it arrived
 * - `refused`: sending it again would change nothing
 * - `credentials`: the channel does not let us in
 */
export type SendAnswer =
  | { readonly handed: 'taken'; readonly receipt: string | undefined; readonly report: Report | undefined }
  | { readonly handed: 'later'; readonly wait: number | undefined; readonly words: string }
  | { readonly handed: 'unknown' | 'refused' | 'credentials'; readonly words: string };

/** What came of asking for a report. */
export type ReportAnswer =
  | { readonly asked: 'report'; readonly report: Report; readonly wait: number | undefined }
  | { readonly asked: 'later'; readonly wait: number | undefined; readonly words: string }
  | { readonly asked: 'gone'; readonly words: string }
  | { readonly asked: 'credentials'; readonly words: string };

/** A way listings reach a channel. What differs between channels of the same way is data in their sheets. */
export interface Transport {
  /** Whether a file always holds all of the feed, because the last one counts. */
  readonly whole: boolean;
  /** How many listings go at once. */
  most(sheet: Sheet): number;
  /** Hands a batch over. It may be called again with the same key. */
  send(batch: OutBatch, sheet: Sheet, to: Destination): Promise<SendAnswer>;
  /** Asks what came of it. */
  ask(receipt: string, sheet: Sheet, to: Destination): Promise<ReportAnswer>;
}
