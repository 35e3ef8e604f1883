import { eq, lt } from 'drizzle-orm';
import { InputError } from '../../core/errors/inputError';
import { db } from '../db/connection';
import { pressed } from '../db/schema';
import { wasRecorded } from './authorize';

/** Milliseconds for which the answer to a press is stored. */
const storedMs = 86_400_000;
const pollMs = 100;

/**
 * Carries a press out once, however often it arrives: where its answer was lost, the same press gets the same answer. A refused
 * press changed nothing and is carried out again.
 * @param press a UUID that the page made for the press (RFC 9562)
 * @param maxWaitMs how long a repeated press waits for the answer of the first
 * @throws InputError where the first one has no answer: its process ended in the middle, or the answer could not be stored
 */
export async function carryOutOnce<R extends object>(
  press: string,
  work: () => Promise<R>,
  maxWaitMs = 15_000,
): Promise<R> {
  for (let waitedMs = 0; ; waitedMs += pollMs) {
    const [made] = await db.insert(pressed).ignore().values({ press, at: new Date(), answer: null });
    if (made.affectedRows === 1) break;
    const [known] = await db.select({ answer: pressed.answer }).from(pressed).where(eq(pressed.press, press));
    if (known?.answer) {
      wasRecorded();
      return known.answer as R;
    }
    if (waitedMs >= maxWaitMs) throw new InputError('answerLost');
    await new Promise((resolve) => setTimeout(resolve, pollMs));
  }
  const forget = () => db.delete(pressed).where(eq(pressed.press, press));
  const answer = await work().catch(async (error: unknown) => {
    await forget();
    throw error;
  });
  if ('ok' in answer && answer.ok === false) await forget();
  // Where this fails the press stays without an answer: it must not be carried out a second time.
  else await db.update(pressed).set({ answer }).where(eq(pressed.press, press));
  return answer;
}

/** Forgets presses that nobody will send again. */
export async function deleteOldRequests(now: Date): Promise<void> {
  await db.delete(pressed).where(lt(pressed.at, new Date(now.getTime() - storedMs)));
}
