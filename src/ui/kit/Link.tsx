'use client';
import NextLink from 'next/link';
import type { ComponentProps } from 'react';

/**
 * A link to another page. Nothing is asked for before it is followed: every page shows what is true at that moment, and a board
 * has a hundred links.
 */
export const Link = (props: ComponentProps<typeof NextLink>) => <NextLink prefetch={false} {...props} />;
