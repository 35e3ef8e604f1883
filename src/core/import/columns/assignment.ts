/**
 * Gives each row at most one column and each column at most one row so that the sum of what they are worth together is the
 * highest (the assignment problem, by the Hungarian method with potentials; H. W. Kuhn 1955, in the form of successive
 * shortest paths). Pairs that are worth nothing are left out.
 * @param worth worth of a row with a column; 0 or less for what must not be paired
 * @returns the column of each row, or -1
 */
export function bestAssignment(
  rows: number,
  columns: number,
  worth: (row: number, column: number) => number,
): number[] {
  if (rows > columns) {
    const turned = bestAssignment(columns, rows, (row, column) => worth(column, row));
    const result = new Array<number>(rows).fill(-1);
    for (const [column, row] of turned.entries()) if (row >= 0) result[row] = column;
    return result;
  }
  // Costs, the lowest being best; a pair that is worth nothing costs as much as none.
  const cost = (row: number, column: number) => -Math.max(0, worth(row, column));
  const rowPotential = new Float64Array(rows + 1);
  const columnPotential = new Float64Array(columns + 1);
  /** Row of each column, counted from 1; 0 where it has none. */
  const rowOf = new Int32Array(columns + 1);
  const route = new Int32Array(columns + 1);
  for (let row = 1; row <= rows; row++) {
    rowOf[0] = row;
    let column = 0;
    const least = new Float64Array(columns + 1).fill(Number.POSITIVE_INFINITY);
    const used = new Uint8Array(columns + 1);
    do {
      used[column] = 1;
      const current = rowOf[column] as number;
      let step = Number.POSITIVE_INFINITY;
      let next = 0;
      for (let other = 1; other <= columns; other++) {
        if (used[other]) continue;
        const reduced =
          cost(current - 1, other - 1) -
          (rowPotential[current] as number) -
          (columnPotential[other] as number);
        if (reduced < (least[other] as number)) {
          least[other] = reduced;
          route[other] = column;
        }
        if ((least[other] as number) < step) {
          step = least[other] as number;
          next = other;
        }
      }
      for (let other = 0; other <= columns; other++) {
        if (used[other]) {
          const owner = rowOf[other] as number;
          rowPotential[owner] = (rowPotential[owner] as number) + step;
          columnPotential[other] = (columnPotential[other] as number) - step;
        } else least[other] = (least[other] as number) - step;
      }
      column = next;
    } while (rowOf[column] !== 0);
    do {
      const before = route[column] as number;
      rowOf[column] = rowOf[before] as number;
      column = before;
    } while (column !== 0);
  }
  const result = new Array<number>(rows).fill(-1);
  for (let column = 1; column <= columns; column++) {
    const row = (rowOf[column] as number) - 1;
    if (row >= 0 && worth(row, column - 1) > 0) result[row] = column - 1;
  }
  return result;
}
