import { askFor, post, takeBack } from './exchange';
import type { Way } from './transport';

/** Files are posted, each with a key that tells a second coming from a second file; reports are asked for. */
export const sent: Way = {
  whole: false,
  most: ({ delivery }) => delivery.most,
  send: (batch, sheet, to) => (batch.removal ? takeBack : post)(batch, sheet, to),
  ask: askFor,
};
