import { lookup } from 'node:dns/promises';
import ipaddr from 'ipaddr.js';
import { InputError } from '../../core/errors/inputError';
import { settings } from '../runtime/settings';
import { specialAddresses } from './specialAddresses';

/**
 * Whether an address of the network may be reached: only such as the IANA registries of special-purpose addresses (RFC 6890,
 * for IPv4 and IPv6) do not list. IPv4 inside IPv6 is judged as IPv4.
 */
export function isPublic(address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  // An IPv4 address inside IPv6 is the IPv4 address.
  const read = ipaddr.process(address);
  return !special.some(([range, bits]) => range.kind() === read.kind() && read.match(range, bits));
}

const special = specialAddresses.map((range) => ipaddr.parseCIDR(range));

/** An address to fetch from, and the one host address that was looked at: the connection goes there and nowhere else. */
export interface GuardedAddress {
  readonly url: URL;
  readonly host: string;
  readonly family: 4 | 6;
}

/**
 * Refuses addresses that point into the machine or its network, whatever name they hide behind. The simulators that ship
 * with the application are the one exception.
 * @param find looks a name up; the system's own where left out
 * @throws InputError
 */
export async function guardAddress(
  address: string,
  find: (name: string) => Promise<readonly { address: string }[]> = (name) => lookup(name, { all: true }),
): Promise<GuardedAddress> {
  let url: URL;
  try {
    url = new URL(address);
  } catch {
    throw new InputError('noAddress', { address: address.slice(0, 200) });
  }
  if (url.protocol !== 'https:' && url.protocol !== 'http:') throw new InputError('addressKind');
  if (url.username !== '' || url.password !== '') throw new InputError('addressWithPassword');
  // An IPv6 address stands in brackets.
  const name = url.hostname.replace(/^\[|\]$/g, '');
  const ours = url.origin === new URL(settings.simulators).origin;
  const hosts = ipaddr.isValid(name) ? [name] : (await find(name).catch(() => [])).map((one) => one.address);
  const [host] = hosts;
  if (host === undefined) throw new InputError('noHost', { host: url.hostname });
  if (!ours && !hosts.every(isPublic)) throw new InputError('ownNetwork', { host: url.hostname });
  return { url, host, family: ipaddr.parse(host).kind() === 'ipv6' ? 6 : 4 };
}
