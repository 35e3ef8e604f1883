import '@fontsource-variable/bricolage-grotesque';
import '@fontsource-variable/instrument-sans';
import '@fontsource-variable/jetbrains-mono';
import '@mantine/core/styles.css';
import '@mantine/dates/styles.css';
import '@mantine/dropzone/styles.css';
import '@mantine/notifications/styles.css';
import '@mantine/spotlight/styles.css';
import '@/ui/theme/tokens.css';
import '@/ui/theme/mantine.css';
import '@/ui/frame/frame.css';
import '@/ui/samples/samples.css';
import '@/ui/composition/composition.css';
import '@/ui/fields/fields.css';
import { ColorSchemeScript, mantineHtmlProps } from '@mantine/core';
import type { Metadata } from 'next';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import { authorize } from '@/server/auth/authorize';
import { readWorkspace } from '@/server/catalog/workspace';
import { sidebarView } from '@/server/pages/overview';
import { Shell } from '@/ui/frame/Shell';
import { Providers } from '@/ui/theme/Providers';

export const metadata: Metadata = { title: 'Lively Cart', description: 'One catalog, many channels' };
export const dynamic = 'force-dynamic';

export default async function Layout({ children }: { children: ReactNode }) {
  // Set by the web process for each answer; scripts without it do not run.
  const nonce = (await headers()).get('x-nonce') ?? '';
  const { locale, zone } = await readWorkspace();
  return (
    <html lang="en" {...mantineHtmlProps}>
      <head>
        <ColorSchemeScript defaultColorScheme="auto" nonce={nonce} />
      </head>
      <body>
        <Providers formatting={{ locale, zone }}>
          <Shell sidebar={await authorize('look', 'opened a page', sidebarView)}>{children}</Shell>
        </Providers>
      </body>
    </html>
  );
}
