import { settingsSchema } from './settingsSchema';

// Files that any process of the application makes are its user’s alone.
process.umask(0o077);

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
