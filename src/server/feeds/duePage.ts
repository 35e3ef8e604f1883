import { cache } from 'react';
import { dueOn } from '../submissions/due';

/** What is due on a feed, found once for a page, however many of its parts ask. */
export const dueForPage = cache(dueOn);
