import { db } from '../db/connection';
import { activity } from '../db/schema';

/**
 * The one gate every action and route goes through. The application listens on loopback and has one person,
 * the owner; what that person may do is asked here, so that adding people changes this file and not its callers.
 */
export interface Person {
  readonly name: string;
}

export async function whoAsks(): Promise<Person> {
  return { name: 'owner' };
}

/** Writes down who did what. */
export async function record(person: Person, what: string, subject: string): Promise<void> {
  await db
    .insert(activity)
    .values({ at: new Date(), who: person.name, what: what.slice(0, 300), subject: subject.slice(0, 300) });
}
