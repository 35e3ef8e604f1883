import type { ComponentProps } from 'react';

/** A button that reads like a word in its line. */
export function TextButton({ small = false, ...rest }: ComponentProps<'button'> & { small?: boolean }) {
  return <button type="button" className={small ? 'link small' : 'link'} {...rest} />;
}
