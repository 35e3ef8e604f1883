import { lookup } from 'node:dns/promises';
import { isIP } from 'node:net';
import { InputError } from '../../core/formats/inputError';
import { settings } from '../settings';

/**
 * Refuses addresses that point into the machine or its network, whatever name they hide behind. The stand-ins that ship
 * with the application are the one exception.
 */
export async function guardAddress(address: string): Promise<URL> {
  let url: URL;
  try {
    url = new URL(address);
  } catch {
    throw new InputError(`“${address}” is not an address. Write it whole, with https://.`);
  }
  if (url.origin === new URL(settings.standins).origin) return url;
  if (url.protocol !== 'https:' && url.protocol !== 'http:')
    throw new InputError('Only http and https addresses are fetched.');
  // An IPv6 address stands in brackets.
  const name = url.hostname.replace(/^\[|\]$/g, '');
  const hosts = isIP(name)
    ? [name]
    : (await lookup(name, { all: true }).catch(() => [])).map((one) => one.address);
  if (hosts.length === 0) throw new InputError(`There is no host ${url.hostname}; check the address.`);
  if (hosts.some(isPrivate))
    throw new InputError(
      `${url.hostname} lies inside this machine's own network, which is not fetched from.`,
    );
  return url;
}

/** Loopback, link-local, private and unspecified addresses: RFC 1918, 3927, 4193, 4291, 6890. */
const isPrivate = (address: string): boolean =>
  /^(0\.|10\.|127\.|169\.254\.|192\.168\.|172\.(1[6-9]|2\d|3[01])\.|100\.(6[4-9]|[7-9]\d|1[01]\d|12[0-7])\.)/.test(
    address,
  ) || /^(::1?$|f[cd]|fe[89ab]|::ffff:)/i.test(address);
