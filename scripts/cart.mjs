/** `npm run --silent cart -- …`: the core from a terminal. Builds itself where needed; says nothing of its own on standard output. */
import { ensurePackages, main } from './machine.mjs';

await main(async () => {
  ensurePackages();
  const { buildPrograms } = await import('./build.mjs');
  await buildPrograms();
  await import('../dist/cart.js');
});
