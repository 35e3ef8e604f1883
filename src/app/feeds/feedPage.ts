import { z } from 'zod';
import { part } from '@/app/gated';

/** What the address of every page of a feed holds. */
export const feedPage = { params: z.object({ feed: part }) };
