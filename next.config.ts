import type { NextConfig } from 'next';

const config: NextConfig = {
  poweredByHeader: false,
  // The test command runs the compiler and the linter over everything; the build need not do it again.
  typescript: { ignoreBuildErrors: true },
  serverExternalPackages: ['sharp', 'mysql2', 'pino', 'csv-parse'],
  headers: async () => [
    {
      source: '/(.*)',
      headers: [
        { key: 'X-Content-Type-Options', value: 'nosniff' },
        { key: 'Referrer-Policy', value: 'same-origin' },
        { key: 'X-Frame-Options', value: 'DENY' },
        {
          key: 'Content-Security-Policy',
          // Next and Mantine write small inline scripts and styles; nothing else may come from elsewhere.
          value: `default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; script-src 'self' 'unsafe-inline'${process.env.NODE_ENV === 'development' ? " 'unsafe-eval'" : ''}; font-src 'self' data:; connect-src 'self' ws:; frame-ancestors 'none'; base-uri 'self'; form-action 'self'`,
        },
      ],
    },
  ],
};

export default config;
