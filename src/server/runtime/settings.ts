import { delimiter } from 'node:path';
import { z } from 'zod';

// Files that any process of the application makes are its user’s alone.
process.umask(0o077);

/** What the processes are told by the start command, through the environment. */
const settingsSchema = z.object({
  LIVELY_DATA: z.string().default('.data'),
  LIVELY_WORDS: z.string().default('.words'),
  LIVELY_DB_HOST: z.string().default('127.0.0.1'),
  LIVELY_DB_NAME: z.string().default('lively'),
  LIVELY_DB_PORT: z.coerce.number().int().default(33361),
  LIVELY_DB_PASSWORD: z.string().default('lively'),
  LIVELY_SIMULATORS_PORT: z.coerce.number().int().default(3461),
  PORT: z.coerce.number().int().default(3160),
  LIVELY_PUBLIC_ADDRESS: z.string().optional(),
  LIVELY_SECRET_KEY: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .optional(),
  LIVELY_MINUTE: z.coerce.number().positive().default(60),
  LIVELY_EVALUATION_MB: z.coerce.number().positive().default(2048),
  LIVELY_EVALUATOR: z
    .string()
    .min(1)
    .transform((paths) => paths.split(delimiter))
    .default([]),
  LIVELY_READER: z.string().optional(),
  LIVELY_LEASE_SECONDS: z.coerce.number().int().min(2).default(20),
});

const parsed = settingsSchema.parse(process.env);

export const settings = {
  /** Folder for uploads, pictures and the database. */
  dataFolder: parsed.LIVELY_DATA,
  /** Folder for the dictionaries that Debian has, shared by everything that runs from this copy. */
  wordsFolder: parsed.LIVELY_WORDS,
  database: {
    host: parsed.LIVELY_DB_HOST,
    port: parsed.LIVELY_DB_PORT,
    user: 'lively',
    password: parsed.LIVELY_DB_PASSWORD,
    database: parsed.LIVELY_DB_NAME,
  },
  /** Where channels reach this application from outside, to fetch files. */
  address: parsed.LIVELY_PUBLIC_ADDRESS ?? `http://127.0.0.1:${parsed.PORT}`,
  /** Encrypts credentials, 64 hexadecimal digits; a file in the data folder where left out. */
  secretKey: parsed.LIVELY_SECRET_KEY,
  /** How many times faster than by the clock the minutes of channels pass; 1 except in trials. */
  haste: 60 / parsed.LIVELY_MINUTE,
  /** The sockets of the evaluators; none where this process holds the catalog itself. */
  evaluators: parsed.LIVELY_EVALUATOR,
  /** What the evaluations may take together that an evaluator keeps. */
  evaluationBytes: parsed.LIVELY_EVALUATION_MB * 1024 ** 2,
  /** The program that reads uploaded files in a process of its own; they are read here where left out. */
  reader: parsed.LIVELY_READER,
  leaseSeconds: parsed.LIVELY_LEASE_SECONDS,
  simulators: `http://127.0.0.1:${parsed.LIVELY_SIMULATORS_PORT}`,
};
