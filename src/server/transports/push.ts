import { askFor, post, takeBack } from './exchange';
import type { Transport } from './transport';

/** Files are posted, each with a key that tells a second coming from a second file; reports are asked for. */
export const push: Transport = {
  whole: false,
  most: ({ delivery }) => delivery.most,
  send: (batch, sheet, to) => (batch.removal ? takeBack : post)(batch, sheet, to),
  ask: askFor,
};
