/** Bad input, in words that name the place and the remedy. */
export class InputError extends Error {
  override readonly name = 'InputError';
}
