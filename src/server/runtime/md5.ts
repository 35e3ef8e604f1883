import * as crypto from 'node:crypto';

/**
 * The MD5 digest of a text, which tells texts apart and keeps no secret. In one go where the runtime has that (Node 20.12 and later),
 * which takes three quarters of the time.
 */
export const md5: (text: string, as?: 'hex' | 'base64') => string =
  typeof crypto.hash === 'function'
    ? (text, as = 'hex') => crypto.hash('md5', text, as)
    : (text, as = 'hex') => crypto.createHash('md5').update(text).digest(as);
