import { makingAsked } from '../server/listings/threads';

/** One of the worker's threads (`threads.ts`). */
export default makingAsked();
