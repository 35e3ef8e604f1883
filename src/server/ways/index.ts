import type { Manner } from '../../core/channels/delivery';
import type { Sheet } from '../../core/channels/sheet';
import { calls } from './calls';
import { fetched } from './fetched';
import { paced } from './paced';
import { sent } from './sent';
import type { Way } from './way';

/** Every way out, by the code a sheet names; by hand is none. A new one is an entry here. */
const ways: Readonly<Record<Exclude<Manner, 'byHand'>, Way>> = { fetched, sent, calls, paced };

/** The way out of a sheet; undefined where files are uploaded by hand. */
export const wayOf = ({ delivery: { manner } }: Sheet): Way | undefined =>
  manner === 'byHand' ? undefined : ways[manner];
