import { createInterface } from 'node:readline';
import type { Readable, Writable } from 'node:stream';
import { stringify } from 'csv-stringify/sync';
import { readIdentifier } from '../core/identifiers/gtin';

/** `cart identifiers`: one code a line in, CSV with its reading out. */
export async function identifiersCommand(input: Readable, output: Writable): Promise<number> {
  output.write('input,kind,normal,verdict\n');
  for await (const line of createInterface({ input, crlfDelay: Number.POSITIVE_INFINITY })) {
    const { kind, normal, verdict } = readIdentifier(line);
    output.write(stringify([[line, kind, normal, verdict]]));
  }
  return 0;
}
