import { eq, lt } from 'drizzle-orm';
import { InputError } from '../../core/errors/inputError';
import { db } from '../db/connection';
import { pressed } from '../db/schema';
import { wasRecorded } from './gate';

/** How long an answer is kept for a press that comes again, in ms. */
const keptFor = 86_400_000;
/** How long a press that comes again waits for the answer of the first, in ms. */
const mostWaited = 15_000;
const lookEvery = 100;

/**
 * Does what a press asks for once, however often it arrives: where its answer was lost on the way, the same press gets the same
 * answer. What was refused changed nothing, and is tried again.
 * @param press a UUID that the page made for the press (RFC 9562)
 * @throws InputError where the first one was never answered: its process ended in the middle
 */
export async function oncePressed<R extends object>(press: string, work: () => Promise<R>): Promise<R> {
  for (let waited = 0; ; waited += lookEvery) {
    const [made] = await db.insert(pressed).ignore().values({ press, at: new Date(), answer: null });
    if (made.affectedRows === 1) break;
    const [known] = await db.select({ answer: pressed.answer }).from(pressed).where(eq(pressed.press, press));
    if (known?.answer) {
      wasRecorded();
      return known.answer as R;
    }
    if (waited >= mostWaited) throw new InputError('answerLost');
    await new Promise((resolve) => setTimeout(resolve, lookEvery));
  }
  const forget = () => db.delete(pressed).where(eq(pressed.press, press));
  try {
    const answer = await work();
    if ('ok' in answer && answer.ok === false) await forget();
    else await db.update(pressed).set({ answer }).where(eq(pressed.press, press));
    return answer;
  } catch (error) {
    await forget();
    throw error;
  }
}

/** Forgets presses that nobody will send again. */
export async function forgetPresses(now: Date): Promise<void> {
  await db.delete(pressed).where(lt(pressed.at, new Date(now.getTime() - keptFor)));
}
