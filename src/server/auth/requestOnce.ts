import { eq, lt } from 'drizzle-orm';
import { InputError } from '../../core/errors/inputError';
import { db } from '../db/connection';
import { requestOnce } from '../db/schema';
import { wasRecorded } from './authorize';

/** Milliseconds for which the answer to a press is stored. */
const storedMs = 86_400_000;
const pollMs = 100;

/**
 * Carries a request out once, however often it arrives: where its answer was lost, the same request gets the same answer. A refused
 * request changed nothing and is carried out again.
 * @param press a UUID that the page made for the request (RFC 9562)
 * @param maxWaitMs how long a repeated request waits for the answer of the first
 * @throws InputError where the first one has no answer: its process ended in the middle, or the answer could not be stored
 */
export async function carryOutOnce<R extends object>(
  press: string,
  work: () => Promise<R>,
  maxWaitMs = 15_000,
): Promise<R> {
  for (let waitedMs = 0; ; waitedMs += pollMs) {
    const [made] = await db.insert(requestOnce).ignore().values({ id: press, at: new Date(), answer: null });
    if (made.affectedRows === 1) break;
    const [known] = await db
      .select({ answer: requestOnce.answer })
      .from(requestOnce)
      .where(eq(requestOnce.id, press));
    if (known?.answer) {
      wasRecorded();
      return known.answer as R;
    }
    if (waitedMs >= maxWaitMs) throw new InputError('answerLost');
    await new Promise((resolve) => setTimeout(resolve, pollMs));
  }
  const forget = () => db.delete(requestOnce).where(eq(requestOnce.id, press));
  const answer = await work().catch(async (error: unknown) => {
    await forget();
    throw error;
  });
  if ('ok' in answer && answer.ok === false) await forget();
  // Where this fails the request stays without an answer: it must not be carried out a second time.
  else await db.update(requestOnce).set({ answer }).where(eq(requestOnce.id, press));
  return answer;
}

/** Forgets presses that nobody will send again. */
export async function deleteOldRequests(now: Date): Promise<void> {
  await db.delete(requestOnce).where(lt(requestOnce.at, new Date(now.getTime() - storedMs)));
}
