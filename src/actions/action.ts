import { z } from 'zod';
import { errorAnswer } from '@/server/auth/answers';
import { authorize, type Permission } from '@/server/auth/authorize';
import { carryOutOnce } from '@/server/auth/requestOnce';

/** What an action gives back where it was refused: the reason in words. */
export interface Refusal {
  readonly ok: false;
  readonly reason: 'refused';
  readonly words: string;
}

/** What an action gives back: what came of it, or in words why it was refused. */
export type Told<T = { words: string }> = ({ ok: true } & T) | Refusal;

type Inputs = z.ZodTuple;

/** The number of a press, as the last argument: an action carries each press out once. */
export interface Press {
  readonly press: string;
}
const pressSchema = z.strictObject({ press: z.uuid() });

/** Marks what went through the gate, for the test that nothing else is exported. */
const gated = Symbol.for('lively.gated');

/**
 * The one way to make a server action: it asks who it is and what they may do, parses what came from outside, writes down
 * who did what, and turns errors into words. A test fails on an exported action that was not made here.
 * @param right what the person must be allowed to do
 * @param what the action in words, for the log
 * @param inputs what it takes, in its order
 * @param work does it; throws InputError where it refuses
 */
export function action<I extends Inputs, R>(
  right: Permission,
  what: string,
  inputs: I,
  work: (...given: z.output<I>) => Promise<R>,
): (...given: z.input<I> | [...z.input<I>, Press]) => Promise<R | Refusal> {
  const run = async (...all: z.input<I> | [...z.input<I>, Press]): Promise<R | Refusal> => {
    const press = pressSchema.safeParse(all.at(-1));
    const given = press.success ? all.slice(0, -1) : all;
    try {
      return await authorize(right, what, async () => {
        const parsed = inputs.parse(given.slice(0, inputs.def.items.length)) as z.output<I>;
        const act = () => work(...parsed);
        return press.success ? carryOutOnce(press.data.press, act as () => Promise<R & object>) : act();
      });
    } catch (error) {
      return { ok: false, reason: 'refused', words: errorAnswer(error, what).words };
    }
  };
  return Object.assign(run, { [gated]: { right, what } });
}

/** Whether a function was made by {@link action}, and what it asks for. */
export const gateOf = (one: unknown): { right: Permission; what: string } | undefined =>
  typeof one === 'function' ? (one as { [gated]?: { right: Permission; what: string } })[gated] : undefined;

/** For work that has nothing to say but that it is done. */
export const done = async (work: Promise<unknown>): Promise<{ ok: true }> => {
  await work;
  return { ok: true };
};
