import { sent } from './sent';
import type { Way } from './way';

/** A call a batch, answered at once as far as the channel can; what it looks at first is asked for. */
export const calls: Way = { ...sent };
