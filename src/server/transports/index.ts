import type { TransportKind } from '../../core/channels/delivery';
import type { Sheet } from '../../core/channels/sheet';
import { pull } from './pull';
import { push } from './push';
import type { Transport } from './transport';

/** Every way out, by the code a sheet names; by hand is none. A new one is an entry here. */
const transports: Readonly<Record<Exclude<TransportKind, 'byHand'>, Transport>> = {
  fetched: pull,
  sent: push,
  // A call a batch, answered at once as far as the channel can; what it looks at first is asked for.
  calls: push,
  // One listing at a time, as slowly as the sheet's rate says.
  paced: { ...push, most: () => 1 },
};

/** The way out of a sheet; undefined where files are uploaded by hand. */
export const transportOf = ({ delivery: { manner } }: Sheet): Transport | undefined =>
  manner === 'byHand' ? undefined : transports[manner];
