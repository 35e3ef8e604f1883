/** Text as a spreadsheet copies it: tabs and line ends, cells with line ends in quotation marks. */
export function readBlock(text: string): string[][] {
  const rows: string[][] = [[]];
  let cell = '';
  let quoted = false;
  const body = text.replace(/\r\n?/g, '\n').replace(/\n$/, '');
  for (let i = 0; i < body.length; i++) {
    const sign = body[i];
    if (quoted) {
      if (sign === '"' && body[i + 1] === '"') {
        cell += '"';
        i++;
      } else if (sign === '"') quoted = false;
      else cell += sign;
    } else if (sign === '"' && cell === '') quoted = true;
    else if (sign === '\t' || sign === '\n') {
      rows.at(-1)?.push(cell);
      cell = '';
      if (sign === '\n') rows.push([]);
    } else cell += sign;
  }
  rows.at(-1)?.push(cell);
  return rows;
}

/** Cells as a spreadsheet takes them from the clipboard. */
export const writeBlock = (rows: readonly (readonly string[])[]): string =>
  rows
    .map((cells) =>
      cells.map((cell) => (/["\t\n\r]/.test(cell) ? `"${cell.replace(/"/g, '""')}"` : cell)).join('\t'),
    )
    .join('\n');
