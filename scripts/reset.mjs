/** `npm run reset`: back to fresh demo data, after asking. */
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { createInterface } from 'node:readline/promises';
import { isTaken } from './database.mjs';
import { main, root, say, Trouble } from './machine.mjs';
import { defaultPorts } from './stack.mjs';

await main(async () => {
  if (await isTaken(defaultPorts().database))
    throw new Trouble('Lively Cart is running; end it with Ctrl-C first.');
  if (!process.argv.includes('--yes')) {
    const lines = createInterface({ input: process.stdin, output: process.stderr });
    const answer = await lines.question(
      'This deletes every item, feed and submission of this installation. Type "reset" to go on: ',
    );
    lines.close();
    if (answer.trim() !== 'reset') return say('Nothing was changed.');
  }
  rmSync(join(root, '.data'), { recursive: true, force: true });
  say('Done. The next start loads the demo data.');
});
