/** `npm start` and `npm run dev`: from a fresh machine to a working page. */
import { join } from 'node:path';
import { ensureDebian, ensurePackages, main, root, say } from './machine.mjs';

await main(async () => {
  const dev = process.argv.includes('--dev');
  ensureDebian({ mariadbd: 'mariadb-server-core', my_print_defaults: 'mariadb-client-core' });
  ensurePackages();
  const { buildPages, buildPrograms } = await import('./build.mjs');
  const { defaultPorts, startStack } = await import('./stack.mjs');
  await buildPrograms();
  if (!dev) await buildPages();
  let stack;
  const end = async (code) => {
    await stack?.stop();
    process.exit(code);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void end(0));
  stack = await startStack({
    folder: join(root, '.data'),
    ports: defaultPorts(),
    dev,
    onGivenUp: (words) => {
      say(words);
      void end(1);
    },
  });
  process.stdout.write(`\nLively Cart is ready: ${stack.address}\nCtrl-C ends it.\n`);
});
