import { asc, eq } from 'drizzle-orm';
import { InputError } from '../../core/errors/inputError';
import { db } from '../db/connection';
import { savedView } from '../db/schema';

export interface SavedView {
  readonly id: number;
  readonly name: string;
  readonly query: string;
}

export const listViews = (): Promise<SavedView[]> => db.select().from(savedView).orderBy(asc(savedView.name));

/** Keeps what the grid shows under a name; a view of the same name is replaced. */
export async function saveView(name: string, query: string): Promise<void> {
  const title = name.trim().slice(0, 100);
  if (title === '') throw new InputError('viewWithoutName');
  await db.transaction(async (tx) => {
    await tx.delete(savedView).where(eq(savedView.name, title));
    await tx.insert(savedView).values({ name: title, query: query.slice(0, 3000) });
  });
}

export async function removeView(id: number): Promise<void> {
  await db.delete(savedView).where(eq(savedView.id, id));
}
