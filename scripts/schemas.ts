/** Writes the JSON Schemas of the documents people exchange, from their Zod types, what each check is, and what can be set: `npm run schemas`. */
import { writeFileSync } from 'node:fs';
import { z } from 'zod';
import { sheetSchema } from '../src/core/channels/sheet';
import { importMappingSchema } from '../src/core/import/mapping/importMapping';
import { planSchema } from '../src/core/plans/plan';
import { checksText } from './checksDoc';
import { configurationText } from './configurationDoc';

/** The published documents: file in docs/, title, type. */
export const documents = [
  ['plan.schema.json', 'Plan of a feed', planSchema],
  ['requirement-sheet.schema.json', 'Requirement sheet of a channel', sheetSchema],
  ['import-mapping.schema.json', 'Import mapping of a source', importMappingSchema],
] as const;

/** A schema as JSON Schema 2020-12, for what a person writes (defaults need not stand there). */
export const schemaText = (title: string, schema: z.ZodType): string =>
  `${JSON.stringify({ title, ...z.toJSONSchema(schema, { io: 'input', target: 'draft-2020-12' }) }, null, 2)}\n`;

if (process.argv[1]?.endsWith('schemas.ts')) {
  for (const [file, title, schema] of documents) writeFileSync(`docs/${file}`, schemaText(title, schema));
  writeFileSync('docs/checks.md', checksText());
  writeFileSync('docs/configuration.md', configurationText());
}
