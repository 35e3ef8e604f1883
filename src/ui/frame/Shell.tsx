'use client';
import { Tooltip, useComputedColorScheme, useMantineColorScheme } from '@mantine/core';
import { useDisclosure, useHotkeys } from '@mantine/hooks';
import { IconLayoutSidebarLeftCollapse, IconMoon, IconSearch, IconSun } from '@tabler/icons-react';
import { usePathname } from 'next/navigation';
import type { ReactNode } from 'react';
import { formatDateTime, formatNumber } from '@/core/formatting/formatting';
import { type WorkspacePageKey, workspacePages } from '@/core/workspace/pages';
import type { SidebarView } from '@/server/pages/overview';
import { Link } from '../kit/Link';
import { RefusalBar } from '../kit/refusals';
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
      {figure !== undefined && (
        <span className={`figure ${tone ?? ''}`}>
          {typeof figure === 'number' ? formatNumber(figure) : figure}
        </span>
      )}
    </Link>
  );
}

/** What stands beside an entry of the sidebar: how many there are, or how many wait for a person. */
const figures: Partial<
  Record<WorkspacePageKey, (sidebar: SidebarView) => Pick<EntryProps, 'figure' | 'tone'>>
> = {
  items: ({ items }) => ({ figure: items }),
  families: ({ families }) => ({ figure: families }),
  notifications: ({ unseen }) => (unseen > 0 ? { figure: unseen, tone: 'bad' } : {}),
};

interface PageEntriesProps {
  group: (typeof workspacePages)[number]['group'];
  keys?: readonly WorkspacePageKey[];
  sidebar: SidebarView;
}

/** The entries of one group of the sidebar, in their order. */
function PageEntries({ group, keys, sidebar }: PageEntriesProps) {
  return workspacePages
    .filter((page) => page.group === group && (!keys || keys.includes(page.key)))
    .map(({ key, label, path }) => (
      <Entry key={key} href={path} label={label} whole={path === '/'} {...figures[key]?.(sidebar)} />
    ));
}

/** The frame of every page: the sidebar on the left, the page beside it. */
export function Shell({ sidebar: drawn, children }: { sidebar: SidebarView; children: ReactNode }) {
  const sidebar = useSidebar(drawn);
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
      <nav className="sidebar" aria-label="Main">
        <Link href="/" className="brand" aria-label="Lively Cart">
          <span className="word">Lively Cart</span>
          <i />
        </Link>
        {!folded && (
          <>
            <PageEntries group="none" keys={['overview']} sidebar={sidebar} />
            <div className="group">Catalog</div>
            <PageEntries group="Catalog" sidebar={sidebar} />
            <div className="group feeds-group" title="Blocked listings of the published versions">
              Feeds
              <span aria-live="polite">{sidebar.counting ? 'updating' : 'blocked, published'}</span>
            </div>
            {sidebar.feeds.map((feed) => (
              <Entry
                key={feed.code}
                href={`/feeds/${feed.code}`}
                label={feed.name}
                figure={feed.failed ? '!' : feed.blocked}
                tone={feed.failed || feed.blocked > 0 ? 'bad' : 'good'}
                title={
                  feed.failed ?? (feed.lastSent ? `last sent ${formatDateTime(feed.lastSent)}` : 'never sent')
                }
              />
            ))}
            <PageEntries group="Feeds" sidebar={sidebar} />
            <div className="group">Delivery</div>
            <PageEntries group="Delivery" sidebar={sidebar} />
            <PageEntries group="none" keys={['settings']} sidebar={sidebar} />
          </>
        )}
        <div className="foot">
          {!folded && <span>{sidebar.merchant}</span>}
          <span className="row">
            <Tooltip label="Search (Ctrl K)">
              <button type="button" className="plain" aria-label="Search" onClick={openFinder}>
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
            <Tooltip label="Collapse the sidebar ([)">
              <button type="button" className="plain" aria-label="Collapse the sidebar" onClick={fold.toggle}>
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
      <main>
        {children}
        <RefusalBar />
      </main>
      <Finder />
      <Shortcuts opened={shortcuts} onClose={help.close} />
    </div>
  );
}
