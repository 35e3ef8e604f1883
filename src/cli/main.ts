import { InputError } from '../core/errors/inputError';
import { damages } from '../core/intake/damage';
import { evaluateCommand } from './evaluate';
import { identifiersCommand } from './identifiers';
import { itemsCommand } from './items';
import { suggestCommand } from './suggest';

const usage = `cart evaluate --plan plan.json --catalog items.csv --out DIR [--lineage]
cart items --source FILE [--mapping mapping.json] [--accept ${damages.join(',')}] --out DIR
cart suggest fields|values|categories --channel CODE --market COUNTRY [--language L] --catalog items.ndjson|csv
cart identifiers < codes.txt`;

async function run([command, ...words]: string[]): Promise<number> {
  switch (command) {
    case 'evaluate':
      return evaluateCommand(words, new Date());
    case 'items':
      return itemsCommand(words);
    case 'suggest':
      return suggestCommand(words, (line) => process.stdout.write(line));
    case 'identifiers':
      return identifiersCommand(process.stdin, process.stdout);
    default:
      throw command
        ? new InputError('unknownCommand', { command, usage })
        : new InputError('whichCommand', { usage });
  }
}

run(process.argv.slice(2)).then(
  (code) => {
    process.exitCode = code;
  },
  (error: unknown) => {
    process.stderr.write(`${error instanceof Error ? error.message : error}\n`);
    process.exitCode = error instanceof InputError ? 2 : 3;
  },
);
