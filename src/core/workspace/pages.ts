/** A page of the application itself, not of one feed. */
interface WorkspacePage {
  readonly key: string;
  /** Its entry in the sidebar, its heading, and what search calls it. */
  readonly label: string;
  readonly path: string;
  /** Heading above it in the sidebar; `none` where it stands by itself, `search` where only search and links lead to it. */
  readonly group: 'none' | 'Catalog' | 'Feeds' | 'Delivery' | 'search';
  /** Further words that search finds it by. */
  readonly words: string;
}

/**
 * The pages of the application in the order of the sidebar. A new one is an entry here, its folder in `app/`, its component, and its
 * test; sidebar, search and the accessibility test follow.
 */
export const workspacePages = [
  { key: 'overview', label: 'Overview', path: '/', group: 'none', words: 'what needs a person' },
  { key: 'items', label: 'Items', path: '/items', group: 'Catalog', words: 'grid, stock, prices' },
  { key: 'families', label: 'Families', path: '/families', group: 'Catalog', words: 'parents, variants' },
  { key: 'attributes', label: 'Attributes', path: '/attributes', group: 'Catalog', words: 'terms, quality' },
  { key: 'keywords', label: 'Keywords', path: '/keywords', group: 'Catalog', words: 'search terms' },
  {
    key: 'sources',
    label: 'Sources',
    path: '/sources',
    group: 'Catalog',
    words: 'import, files, import runs',
  },
  { key: 'suppliers', label: 'Suppliers', path: '/suppliers', group: 'Catalog', words: 'match, cost, stock' },
  { key: 'gtins', label: 'GTINs', path: '/gtins', group: 'Catalog', words: 'barcodes, prefixes' },
  {
    key: 'channels',
    label: 'Channels',
    path: '/channels',
    group: 'Feeds',
    words: 'requirement sheets, add a feed',
  },
  {
    key: 'submissions',
    label: 'Submissions',
    path: '/submissions',
    group: 'Delivery',
    words: 'sent, schedule, results',
  },
  {
    key: 'notifications',
    label: 'Notifications',
    path: '/notifications',
    group: 'Delivery',
    words: 'webhooks',
  },
  {
    key: 'settings',
    label: 'Settings',
    path: '/settings',
    group: 'none',
    words: 'merchant, currency, time zone, language',
  },
  { key: 'archived', label: 'Archived items', path: '/items/archived', group: 'search', words: '' },
  { key: 'newItem', label: 'Add an item', path: '/items/new', group: 'search', words: 'create' },
  {
    key: 'newChannel',
    label: 'Create a channel',
    path: '/channels/new',
    group: 'search',
    words: 'own channel, requirement sheet',
  },
  {
    key: 'insights',
    label: 'Insights',
    path: '/submissions/insights',
    group: 'search',
    words: 'accepted, rejected',
  },
] as const satisfies readonly WorkspacePage[];

export type WorkspacePageKey = (typeof workspacePages)[number]['key'];
