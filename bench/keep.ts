import { fillDatabase } from './large';

await fillDatabase(Number(process.argv[2]));
process.stdout.write('filled\n');
await new Promise(() => setInterval(() => undefined, 1000));
