'use server';
import { z } from 'zod';
import { importLimitsSchema } from '@/core/import/importReview';
import { importMappingSchema } from '@/core/import/mapping/importMapping';
import { mappingEditSchema } from '@/core/import/mapping/mappingEdit';
import { scheduleSchema } from '@/core/schedule/schedule';
import { addAddress, fetchNow, setAddress } from '@/server/import/fetching';
import { changeForm, editMapping, startRun, stopRun } from '@/server/import/runs';
import { chooseRows, removeSource, setWaiting } from '@/server/import/sources';
import { action, done } from './action';
import { id } from './inputs';

/** Changes one thing of how a run reads its file; quick changes one after the other all count. */
export const changeImport = action(
  'change',
  'changed an import mapping',
  z.tuple([id, mappingEditSchema]),
  (run, edit) => done(editMapping(run, edit)),
);

const formSchema = importMappingSchema
  .pick({
    kind: true,
    encoding: true,
    separator: true,
    starts: true,
    escapes: true,
    turned: true,
    across: true,
    begins: true,
    sheet: true,
    headingRow: true,
    headingLines: true,
    shortRows: true,
    list: true,
    variants: true,
  })
  .partial();

export const setForm = action(
  'change',
  'changed how a file is read',
  z.tuple([id, z.record(z.string(), z.unknown())]),
  (run, given) => {
    const form = formSchema.parse(given);
    // Only what was asked for: defaults of the others would be a change.
    return done(
      changeForm(
        run,
        Object.fromEntries(Object.entries(form).filter(([name]) => Object.hasOwn(given, name))),
      ),
    );
  },
);

export const startImport = action(
  'change',
  'started an import run',
  z.tuple([id, z.enum(['check', 'apply', 'undo'])]),
  (run, stage) => done(startRun(run, stage)),
);

export const stopImport = action('change', 'stopped an import run', z.tuple([id]), (run) =>
  done(stopRun(run)),
);

export const choose = action(
  'change',
  'chose rows of an import run',
  z.tuple([
    id,
    z.union([
      z.strictObject({ row: z.number().int() }),
      z.strictObject({ kind: z.enum(['new', 'changed', 'missing']) }),
    ]),
    z.boolean(),
  ]),
  (run, what, chosen) => done(chooseRows(run, what, chosen)),
);

const address = z.strictObject({
  address: z.string().trim().max(700).nullable(),
  schedule: scheduleSchema.nullable(),
  automatic: z.boolean(),
  limits: importLimitsSchema.optional(),
});

export const saveAddress = action('change', 'set an address', z.tuple([id, address]), (source, given) =>
  done(setAddress(source, given)),
);

export const addSource = action('change', 'added a source', z.tuple([z.string().trim().max(700)]), (given) =>
  done(addAddress(given)),
);

export const fetchSourceNow = action('change', 'fetched a source', z.tuple([id]), (source) =>
  done(fetchNow(source)),
);

export const holdForReview = action(
  'change',
  'chose whether new items join a feed',
  z.tuple([id, z.string().max(190), z.boolean()]),
  (source, feed, waits) => done(setWaiting(source, feed, waits)),
);

export const deleteSource = action('change', 'deleted a source', z.tuple([id]), (source) =>
  done(removeSource(source)),
);
