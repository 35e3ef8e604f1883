import { addressAt, askFor, tell } from './exchange';
import { publish } from './publications';
import type { Transport } from './transport';

/**
 * The channel fetches the feed's file by itself. The new file takes the old one's place at once and whole; then the channel is
 * told that there is one, where it listens to that.
 */
export const pull: Transport = {
  whole: true,
  most: () => Number.POSITIVE_INFINITY,
  async send(batch, sheet, to) {
    await publish(to.feed, batch);
    return tell(
      addressAt(to, sheet.delivery.path),
      { address: to.fetchAt, country: to.country, sha256: batch.file },
      batch.key,
      sheet,
      to,
    );
  },
  ask: askFor,
};
