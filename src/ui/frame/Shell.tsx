'use client';
import { Tooltip, useComputedColorScheme, useMantineColorScheme } from '@mantine/core';
import { useDisclosure, useHotkeys } from '@mantine/hooks';
import { IconLayoutSidebarLeftCollapse, IconMoon, IconSearch, IconSun } from '@tabler/icons-react';
import { usePathname } from 'next/navigation';
import type { ReactNode } from 'react';
import type { SidebarView } from '@/server/pages/overview';
import { Link } from '../kit/Link';
import { Finder, openFinder } from './Finder';
import { Shortcuts } from './Shortcuts';
import { useSidebar } from './useSidebar';

interface EntryProps {
  href: string;
  label: string;
  figure?: number | '!';
  tone?: 'bad' | 'good' | undefined;
  title?: string;
  whole?: boolean;
}

function Entry({ href, label, figure, tone, title, whole = false }: EntryProps) {
  const path = usePathname();
  const here = whole ? path === href : path === href || path.startsWith(`${href}/`);
  return (
    <Link className="entry" href={href} aria-current={here ? 'page' : undefined} title={title}>
      <span className="cut">{label}</span>
      {figure !== undefined && <span className={`figure ${tone ?? ''}`}>{figure.toLocaleString()}</span>}
    </Link>
  );
}

/** The frame of every page: the spine on the left, the page beside it. */
export function Shell({ spine: drawn, children }: { spine: SidebarView; children: ReactNode }) {
  const spine = useSidebar(drawn);
  const [folded, fold] = useDisclosure(false);
  const [shortcuts, help] = useDisclosure(false);
  const { setColorScheme } = useMantineColorScheme();
  // The server knows no scheme: what it drew is kept until the page is alive.
  const colorScheme = useComputedColorScheme('light', { getInitialValueInEffect: true });
  useHotkeys([
    ['?', help.open],
    ['[', fold.toggle],
  ]);
  const dark = colorScheme === 'dark';
  return (
    <div className={folded ? 'shell folded' : 'shell'}>
      <nav className="spine" aria-label="Main">
        <Link href="/" className="brand" aria-label="Lively Cart">
          <span className="word">Lively Cart</span>
          <i />
        </Link>
        {!folded && (
          <>
            <Entry href="/" label="Overview" whole />
            <div className="group">Catalog</div>
            <Entry href="/items" label="Items" figure={spine.items} />
            <Entry href="/families" label="Families" figure={spine.families} />
            <Entry href="/attributes" label="Attributes" />
            <Entry href="/keywords" label="Keywords" />
            <Entry href="/sources" label="Sources" />
            <Entry href="/suppliers" label="Suppliers" />
            <Entry href="/gtins" label="GTINs" />
            <div className="group">
              Feeds, blocked {spine.counting && <span aria-live="polite">· counting …</span>}
            </div>
            {spine.feeds.map((feed) => (
              <Entry
                key={feed.code}
                href={`/feeds/${feed.code}`}
                label={feed.name}
                figure={feed.failed ? '!' : feed.blocked}
                tone={feed.failed || feed.blocked > 0 ? 'bad' : 'good'}
                title={
                  feed.failed ??
                  (feed.lastSent ? `last sent ${feed.lastSent.toLocaleString()}` : 'never sent')
                }
              />
            ))}
            <Entry href="/channels" label="Channels" />
            <div className="group">Delivery</div>
            <Entry href="/submissions" label="Submissions" />
            <Entry
              href="/notifications"
              label="Notifications"
              {...(spine.unseen > 0 && { figure: spine.unseen, tone: 'bad' as const })}
            />
            <Entry href="/settings" label="Settings" />
          </>
        )}
        <div className="foot">
          {!folded && <span>{spine.merchant}</span>}
          <span className="row">
            <Tooltip label="Find anything (Ctrl K)">
              <button type="button" className="plain" aria-label="Find anything" onClick={openFinder}>
                <IconSearch size={16} />
              </button>
            </Tooltip>
            <Tooltip label={dark ? 'Light' : 'Dark'}>
              <button
                type="button"
                className="plain"
                aria-label={dark ? 'Light scheme' : 'Dark scheme'}
                onClick={() => setColorScheme(dark ? 'light' : 'dark')}
              >
                {dark ? <IconSun size={16} /> : <IconMoon size={16} />}
              </button>
            </Tooltip>
            <Tooltip label="Fold the spine ([)">
              <button type="button" className="plain" aria-label="Fold the spine" onClick={fold.toggle}>
                <IconLayoutSidebarLeftCollapse size={16} />
              </button>
            </Tooltip>
            {!folded && (
              <button type="button" className="plain" onClick={help.open}>
                ? Keys
              </button>
            )}
          </span>
        </div>
      </nav>
      <main>{children}</main>
      <Finder />
      <Shortcuts opened={shortcuts} onClose={help.close} />
    </div>
  );
}
