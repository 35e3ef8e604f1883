import { InputError } from '../core/errors/inputError';
import { damages } from '../core/import/mapping/damage';

const usage = `cart evaluate --plan plan.json --catalog items.csv --out DIR [--lineage]
cart items --source FILE [--mapping mapping.json] [--accept ${damages.join(',')}] --out DIR
cart suggest fields|values|categories --channel CODE --market COUNTRY [--language L] --catalog items.ndjson|csv
cart identifiers < codes.txt`;

/** Each command brings only what it needs. */
async function run([command, ...words]: string[]): Promise<number> {
  switch (command) {
    case 'evaluate':
      return (await import('./evaluate')).evaluateCommand(words, new Date());
    case 'items':
      return (await import('./items')).itemsCommand(words);
    case 'suggest':
      return (await import('./suggest')).suggestCommand(words, (line) => process.stdout.write(line));
    case 'identifiers':
      return (await import('./identifiers')).identifiersCommand(process.stdin, process.stdout);
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
