/** Unit tests stand beside what they test; integration tests have a real MariaDB, started by scripts/test.mjs. */
const common = {
  // Test files run in a context of their own, where looking up a global costs a hundred times what it does elsewhere: those that
  // code computes with are handed in. Not what trials put another in place of, such as Date.
  sandboxInjectedGlobals: [
    'Array',
    'BigInt',
    'Boolean',
    'Float64Array',
    'Int32Array',
    'Intl',
    'JSON',
    'Map',
    'Math',
    'Number',
    'Object',
    'Promise',
    'Reflect',
    'RegExp',
    'Set',
    'String',
    'Symbol',
    'Uint16Array',
    'Uint32Array',
    'Uint8Array',
    'WeakMap',
  ],
  testEnvironment: 'node',
  transform: {
    '^.+\\.(ts|tsx|js|mjs)$': [
      '@swc/jest',
      {
        jsc: {
          target: 'es2022',
          parser: { syntax: 'typescript', tsx: true },
          transform: { react: { runtime: 'automatic' } },
        },
        module: { type: 'commonjs' },
      },
    ],
  },
  // Packages that ship as ES modules only.
  transformIgnorePatterns: [
    '/node_modules/(?!(title-case|culori|htmlparser2|domhandler|domutils|domelementtype|dom-serializer|entities|saxes|csv-parse|ipaddr.js|re2js|fast-check|pure-rand|eld|nuqs|@tanstack)/)',
  ],
  moduleNameMapper: {
    '^@/(.*)$': '<rootDir>/src/$1',
    // Its exports are for `import` alone.
    '^eld/(.*)$': '<rootDir>/node_modules/eld/src/entries/static.$1.js',
  },
};

module.exports = {
  projects: [
    {
      ...common,
      displayName: 'unit',
      testMatch: ['<rootDir>/src/**/*.test.{ts,tsx}'],
      setupFiles: ['<rootDir>/tests/support/browser.cjs'],
    },
    {
      ...common,
      displayName: 'integration',
      testMatch: ['<rootDir>/tests/integration/**/*.test.ts'],
      setupFiles: ['<rootDir>/tests/support/worker.cjs'],
      setupFilesAfterEnv: ['<rootDir>/tests/support/secondTry.cjs'],
    },
  ],
};
