import type { NextConfig } from 'next';

const config: NextConfig = {
  poweredByHeader: false,
  // The test command runs the compiler and the linter over everything; the build need not do it again.
  typescript: { ignoreBuildErrors: true },
  serverExternalPackages: ['sharp', 'mysql2', 'pino', 'csv-parse', 'undici', 're2js'],
  // As much as the largest thing an action takes: a sheet and its tree, or a block of cells.
  experimental: {
    serverActions: { bodySizeLimit: '12mb' },
    serverMinification: false,
    turbopackFileSystemCacheForBuild: false,
  },
  // Before anything of the page is sent: what is sent piece by piece can be led elsewhere only by the browser.
  redirects: async () => [
    { source: '/feeds/:feed', destination: '/feeds/:feed/fields', permanent: false },
    // Addresses of earlier versions, which may be in bookmarks and messages.
    ...[
      ['/outbox', '/submissions'],
      ['/outbox/insights', '/submissions/insights'],
      ['/notices', '/notifications'],
      ['/partners', '/suppliers'],
      ['/partners/:range', '/suppliers/:range'],
      ['/numbers', '/gtins'],
      ['/setup', '/settings'],
      ['/feeds/:feed/joining', '/feeds/:feed/matching'],
    ].map(([source = '', destination = '']) => ({ source, destination, permanent: true })),
  ],
  // Headers are set by scripts/web.mjs, which writes a nonce of its own for each answer.
};

export default config;
