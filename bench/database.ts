/** An empty database of the application's, for measurements that need one. */
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { migrate } from 'drizzle-orm/mysql2/migrator';
import { startingAttributes } from '../src/core/catalog/attributes';
import { db } from '../src/server/db/connection';
import { attribute, workspace } from '../src/server/db/schema';

export async function emptyDatabase(): Promise<void> {
  const [tables] = (await db.execute(
    sql`select table_name as name from information_schema.tables where table_schema = database()`,
  )) as unknown as [{ name: string }[]];
  // The database itself stays: the connections that are open stand in it.
  for (const { name } of tables) await db.execute(sql`drop table ${sql.identifier(name)}`);
  await migrate(db as never, { migrationsFolder: join(process.cwd(), 'src/server/db/migrations') });
}

/** A workspace with the attributes it starts with, and nothing else. */
export async function emptyWorkspace(): Promise<void> {
  await db.insert(workspace).values({ id: 1, name: 'Bench', catalogRevision: 0 });
  await db.insert(attribute).values(
    startingAttributes.map((one, position) => ({
      ...one,
      unit: one.unit ?? null,
      terms: null,
      family: null,
      position,
    })),
  );
}
