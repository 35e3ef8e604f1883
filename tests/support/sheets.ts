/** Small requirement sheets for tests. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Channel, readChannel } from '../../src/core/channels/bundle';
import { type Sheet, sheetSchema } from '../../src/core/channels/sheet';

/** One of the channels that ship with the application. */
export const bundled = (code: string): Channel => {
  const file = (name: string) => readFileSync(join(process.cwd(), 'src/channels', code, name), 'utf8');
  return readChannel(file('requirements.json'), file('taxonomy.csv'));
};

/** A field as a sheet has it, called by its code. */
export const trialField = (code: string, kind: string, more: object = {}) => ({
  code,
  label: code,
  meaning: code,
  kind,
  need: 'may',
  ...more,
});

/** A sheet of the fields given, for Germany. @param delivery how its listings leave; as CSV where left out */
export const trialSheet = (fields: readonly object[], delivery: object = { format: 'csv' }): Sheet =>
  sheetSchema.parse({
    format: 'lively-cart/sheet@1',
    code: 'trial',
    name: 'Trial',
    about: '',
    version: 1,
    effective: '2026-01-01',
    markets: [{ country: 'DE', languages: ['de'], currency: 'EUR' }],
    fields,
    delivery: { manner: 'byHand', ...delivery },
  });
