import { delimiter } from 'node:path';
import { z } from 'zod';

const port = z.coerce.number().int().min(1).max(65_535);
const processes = z.coerce.number().int().min(1).max(64).default(1);

/**
 * What an owner sets, through the environment of `npm start`. `docs/configuration.md` is made from it by `npm run schemas`; an invalid
 * value ends the start.
 */
export const ownerSettings = {
  PORT: port.default(3160).meta({ description: 'the port of the pages' }),
  LIVELY_DATA: z
    .string()
    .default('.data')
    .meta({ description: 'the folder of the database, uploads, pictures and the key for credentials' }),
  LIVELY_HOSTS: z.string().optional().meta({
    description: 'names beside loopback under which the application is reached, with commas between them',
  }),
  LIVELY_PROXY: z.string().optional().meta({
    description: 'addresses of proxies whose forwarded headers are believed, with commas between them',
  }),
  LIVELY_PUBLIC_ADDRESS: z.string().optional().meta({
    description: 'the address at which channels reach the application to fetch files; loopback by default',
  }),
  LIVELY_WEB_PROCESSES: processes.meta({
    description: 'web processes, on PORT and the ports that follow it',
  }),
  LIVELY_EVALUATORS: processes.meta({
    description: 'evaluators, which share the feeds; each holds the catalog',
  }),
  LIVELY_WORKERS: processes.meta({ description: 'workers, which share the queues of jobs' }),
  LIVELY_EVALUATION_MB: z.coerce
    .number()
    .positive()
    .default(2048)
    .meta({ description: 'megabytes that derived values of an evaluator may take together' }),
  LIVELY_DB_HOST: z.string().default('127.0.0.1').meta({ description: 'the host of the database' }),
  LIVELY_DB_PORT: port.default(33_361).meta({ description: 'the port of the database' }),
  LIVELY_DB_NAME: z.string().default('lively').meta({ description: 'the name of the database' }),
  LIVELY_DB_PASSWORD: z
    .string()
    .default('lively')
    .meta({ description: 'the password of the database’s user; the start command makes one' }),
  LIVELY_DB_MEMORY_MB: z.coerce.number().positive().optional().meta({
    description:
      'megabytes of tables that the database keeps in memory; a quarter of the machine’s by default',
  }),
  LIVELY_SECRET_KEY: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .optional()
    .meta({
      description: 'encrypts credentials, 64 hexadecimal digits; a file in the data folder by default',
    }),
  LIVELY_WORDS: z.string().default('.words').meta({ description: 'the folder of downloaded dictionaries' }),
  LIVELY_LOG: z
    .enum(['silent', 'fatal', 'error', 'warn', 'info', 'debug', 'trace'])
    .default('warn')
    .meta({ description: 'what is written into the log' }),
  LIVELY_LEASE_SECONDS: z.coerce.number().int().min(2).default(20).meta({
    description: 'seconds without a sign of life after which another worker takes a job over',
  }),
  LIVELY_SIMULATORS: z
    .enum(['on', 'off'])
    .default('on')
    .meta({ description: 'whether the simulated channels are started' }),
  LIVELY_SIMULATORS_PORT: port.default(3461).meta({ description: 'the port of the simulated channels' }),
  LIVELY_MINUTE: z.coerce
    .number()
    .positive()
    .default(60)
    .meta({ description: 'seconds in which a minute of the channels passes; fewer in trials alone' }),
} as const;

/** What the start command tells its processes beside. */
const processSettings = {
  LIVELY_EVALUATOR: z
    .string()
    .min(1)
    .transform((paths) => paths.split(delimiter))
    .default([])
    .meta({ description: 'the sockets of the evaluators' }),
  LIVELY_READER: z.string().optional().meta({ description: 'the program that reads uploaded files' }),
} as const;

export const settingsSchema = z.object({ ...ownerSettings, ...processSettings });
