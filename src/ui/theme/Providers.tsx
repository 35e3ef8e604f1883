'use client';
import { MantineProvider } from '@mantine/core';
import { Notifications } from '@mantine/notifications';
import { NuqsAdapter } from 'nuqs/adapters/next/app';
import type { ReactNode } from 'react';
import { theme } from './theme';

export function Providers({ children }: { children: ReactNode }) {
  return (
    <MantineProvider theme={theme} defaultColorScheme="auto">
      {/* Not over the buttons, which stand at the top and bottom right: Undo is pressed again and again. */}
      <Notifications position="bottom-center" limit={3} />
      <NuqsAdapter>{children}</NuqsAdapter>
    </MantineProvider>
  );
}
