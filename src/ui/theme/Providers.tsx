'use client';
import { MantineProvider } from '@mantine/core';
import { Notifications } from '@mantine/notifications';
import { NuqsAdapter } from 'nuqs/adapters/next/app';
import type { ReactNode } from 'react';
import { type Formatting, setFormatting } from '@/core/formatting/formatting';
import { theme } from './theme';

/** What all pages need: the theme, messages, the address, and how numbers and dates are written. */
export function Providers({ formatting, children }: { formatting: Formatting; children: ReactNode }) {
  // Before anything below is rendered, on the server and in the browser alike.
  setFormatting(formatting);
  return (
    <MantineProvider theme={theme} defaultColorScheme="auto">
      {/* Not over the buttons, which stand at the top and bottom right: Undo is pressed again and again. */}
      <Notifications position="bottom-center" limit={3} />
      <NuqsAdapter>{children}</NuqsAdapter>
    </MantineProvider>
  );
}
