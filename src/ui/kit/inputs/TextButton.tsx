import type { ComponentProps } from 'react';

/** A button that reads like a word in its line. */
export function TextButton({
  small = false,
  className = '',
  ...rest
}: ComponentProps<'button'> & { small?: boolean }) {
  return <button type="button" className={`link ${small ? 'small' : ''} ${className}`} {...rest} />;
}
