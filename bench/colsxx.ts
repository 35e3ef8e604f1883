import { startingAttributes } from '../src/core/catalog/attributes';
import { readColumns } from '../src/core/intake/columns';
import { readHead } from '../src/files/reading';

const h = await readHead(process.argv[2] ?? '');
console.log(h.form);
const { matched, fits } = readColumns(
  h.columns,
  h.records.map((r) => r.cells),
  startingAttributes,
);
for (const c of h.columns)
  console.log(
    c,
    '|',
    matched
      .filter((m) => m.column === c)
      .map((m) => `${m.attribute} ${m.score} ${m.reasons.join('; ')}`)
      .join(', ') || '-',
    '|',
    (fits.get(c) ?? []).map((m) => `${m.attribute} ${m.score}`).join(' '),
    '|',
    h.records
      .slice(0, 2)
      .map((r) => r.cells[c])
      .join(' ¦ '),
  );
