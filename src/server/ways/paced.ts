import { sent } from './sent';
import type { Way } from './way';

/** One listing at a time, as slowly as the sheet's rate says. */
export const paced: Way = { ...sent, most: () => 1 };
