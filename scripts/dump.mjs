/**
 * Writes a database as SQL statements, one a line, packed: `node scripts/dump.mjs FILE.sql.gz` with the address of the database in the
 * environment. Dumps of earlier schemas are fixtures of the migration test.
 */
import { writeFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { createConnection } from 'mysql2/promise';

const connection = await createConnection({
  host: '127.0.0.1',
  port: Number(process.env.LIVELY_DB_PORT),
  user: 'lively',
  password: process.env.LIVELY_DB_PASSWORD,
  database: process.env.LIVELY_DB_NAME ?? 'lively',
  dateStrings: true,
  supportBigNumbers: true,
  bigNumberStrings: true,
});
const lines = [];
const [tables] = await connection.query("show full tables where table_type = 'BASE TABLE'");
for (const row of tables) {
  const name = String(Object.values(row)[0]);
  const [[created]] = await connection.query('show create table ??', [name]);
  lines.push(created['Create Table'].replace(/\s*\n\s*/g, ' '));
  const [columns] = await connection.query(
    'select column_name as name from information_schema.columns where table_schema = database() and table_name = ? and generation_expression is null order by ordinal_position',
    [name],
  );
  const names = columns.map((column) => column.name);
  const [rows] = await connection.query({
    sql: 'select ?? from ??',
    values: [names, name],
    rowsAsArray: true,
    typeCast: (field, next) => {
      // JSON and text as they are stored, bytes as bytes.
      if (field.type === 'JSON') return field.string('utf8');
      return next();
    },
  });
  for (let at = 0; at < rows.length; at += 100) {
    const values = rows
      .slice(at, at + 100)
      .map((cells) =>
        cells
          .map((cell) =>
            Buffer.isBuffer(cell)
              ? `x'${cell.toString('hex')}'`
              : cell !== null && typeof cell === 'object'
                ? connection.escape(JSON.stringify(cell))
                : connection.escape(cell),
          )
          .join(),
      );
    lines.push(
      `insert into \`${name}\` (${names.map((one) => `\`${one}\``).join()}) values ${values.map((one) => `(${one})`).join()}`,
    );
  }
}
await connection.end();
writeFileSync(process.argv[2] ?? 'dump.sql.gz', gzipSync(lines.join('\n'), { level: 9 }));
process.stdout.write(`${tables.length} tables, ${lines.length} statements\n`);
