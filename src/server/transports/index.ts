import type { Sheet } from '../../core/channels/sheet';
import { type AutomaticTransport, isAutomatic } from '../../core/channels/transports';
import { pull } from './pull';
import { push } from './push';
import type { Transport } from './transport';

/** Every way out that leaves by itself, by the code a sheet names. A new one is an entry here, and its facts in `core/channels/transports.ts`. */
const transports: Readonly<Record<AutomaticTransport, Transport>> = {
  fetched: pull,
  sent: push,
  // A call a batch, answered at once as far as the channel can; what it looks at first is asked for.
  calls: push,
  // One listing at a time, as slowly as the sheet's rate says.
  paced: { ...push, most: () => 1 },
};

/** The way out of a sheet; undefined where files are uploaded by hand. */
export const transportOf = ({ delivery: { manner } }: Sheet): Transport | undefined =>
  isAutomatic(manner) ? transports[manner] : undefined;
