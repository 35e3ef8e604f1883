'use client';
import NextLink, { useLinkStatus } from 'next/link';
import type { ComponentProps } from 'react';
import { createPortal } from 'react-dom';
import { WorkProgress } from './display/Progress';

/** Marks the link that was pressed at once, and says that its page is on its way where it does not come soon. */
function Following() {
  const { pending } = useLinkStatus();
  if (!pending) return null;
  return (
    <>
      <span className="pressed" hidden />
      {createPortal(
        <div className="following soon" role="status">
          <b>Calculating the page</b>
          <WorkProgress />
        </div>,
        document.body,
      )}
    </>
  );
}

/**
 * A link to another page. Nothing is asked for before it is followed: every page shows what is true at that moment, and a board
 * has a hundred links.
 */
export const Link = ({ children, ...props }: ComponentProps<typeof NextLink>) => (
  <NextLink prefetch={false} {...props}>
    {children}
    <Following />
  </NextLink>
);
