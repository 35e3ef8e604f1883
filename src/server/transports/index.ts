import type { Manner } from '../../core/channels/delivery';
import type { Sheet } from '../../core/channels/sheet';
import { fetched } from './pull';
import { sent } from './push';
import type { Way } from './transport';

/** Every way out, by the code a sheet names; by hand is none. A new one is an entry here. */
const ways: Readonly<Record<Exclude<Manner, 'byHand'>, Way>> = {
  fetched,
  sent,
  // A call a batch, answered at once as far as the channel can; what it looks at first is asked for.
  calls: sent,
  // One listing at a time, as slowly as the sheet's rate says.
  paced: { ...sent, most: () => 1 },
};

/** The way out of a sheet; undefined where files are uploaded by hand. */
export const wayOf = ({ delivery: { manner } }: Sheet): Way | undefined =>
  manner === 'byHand' ? undefined : ways[manner];
