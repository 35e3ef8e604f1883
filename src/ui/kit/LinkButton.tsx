'use client';
import { Button, type ButtonProps } from '@mantine/core';
import type { ReactNode } from 'react';
import { Link } from './Link';

/** A link that looks like a button. */
export function LinkButton({ href, children, ...rest }: ButtonProps & { href: string; children: ReactNode }) {
  return (
    <Button component={Link} href={href} {...rest}>
      {children}
    </Button>
  );
}
