/** Bulk work that can be left and gone on with: it hands over control every so many rows, and gives its result at the end. */
export type Steps<T> = Generator<undefined, T>;

/** After so many rows bulk work hands over control. */
export const BATCH_ROWS = 128;

/** Does bulk work to its end at once. */
export function atOnce<T>(steps: Steps<T>): T {
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
  }
}

/** Makes something of each in a list, step by step. */
export function* making<T, R>(list: readonly T[], make: (one: T) => R): Steps<R[]> {
  const created: R[] = [];
  for (let n = 0; n < list.length; n++) {
    if (n % BATCH_ROWS === 0) yield;
    created.push(make(list[n] as T));
  }
  return created;
}
