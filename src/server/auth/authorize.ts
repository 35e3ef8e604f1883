import { AsyncLocalStorage } from 'node:async_hooks';
import { randomUUID } from 'node:crypto';
import { db } from '../db/connection';
import { activity } from '../db/schema';
import { observe } from '../monitoring/monitoring';

/** What may be done: looking, changing what the workspace keeps, and sending to channels. */
const permissions = ['look', 'change', 'send'] as const;
export type Permission = (typeof permissions)[number];

/**
 * The one gate every action, route and page goes through (actions/action.ts and app/gated.tsx). The application listens on
 * loopback and has one person, the owner; what that person may do is asked here, so that adding people changes this file
 * and not its callers.
 */
export interface Person {
  readonly name: string;
  readonly may: ReadonlySet<Permission>;
}

const owner: Person = { name: 'owner', may: new Set(permissions) };

/** Refused because of who asks. */
export class NotAllowed extends Error {
  constructor(right: Permission) {
    super(
      `You may not ${right === 'look' ? 'view this' : right === 'send' ? 'send listings' : 'change this'}.`,
    );
  }
}

interface Visit {
  readonly person: Person;
  /** How many entries the visit has written into the activity log. */
  recorded: number;
}

const visits = new AsyncLocalStorage<Visit>();

/**
 * Lets somebody in to do something: who they are is known to all that is called, and what changed something is written
 * down even where nothing below says so.
 * @param what the name of what is done, for the log
 * @throws NotAllowed
 */
export async function authorize<T>(
  right: Permission,
  what: string,
  work: (person: Person) => Promise<T>,
): Promise<T> {
  const person = owner;
  if (!person.may.has(right)) throw new NotAllowed(right);
  const visit: Visit = { person, recorded: 0 };
  return observe(what, { request: randomUUID().slice(0, 8) }, () =>
    visits.run(visit, async () => {
      const done = await work(person);
      if (right !== 'look' && visit.recorded === 0) await recordActivity(person, what, '');
      return done;
    }),
  );
}

/** Says that what this visit asks for was written down before: it changes nothing more. */
export function wasRecorded(): void {
  const visit = visits.getStore();
  if (visit) visit.recorded++;
}

/** Who asks; the owner where a job or a script does the work. */
export async function currentUser(): Promise<Person> {
  return visits.getStore()?.person ?? owner;
}

/** Writes down who did what. */
export async function recordActivity(person: Person, what: string, subject: string): Promise<void> {
  const visit = visits.getStore();
  if (visit) visit.recorded++;
  await db
    .insert(activity)
    .values({ at: new Date(), who: person.name, what: what.slice(0, 300), subject: subject.slice(0, 300) });
}
