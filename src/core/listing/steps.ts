/** Bulk work that can be left and gone on with: it hands over control every so many rows, and gives its result at the end. */
export type Steps<T> = Generator<undefined, T>;

/** After so many rows bulk work hands over control. */
export const rowsAStep = 128;

/** Does bulk work to its end at once. */
export function atOnce<T>(steps: Steps<T>): T {
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
  }
}
