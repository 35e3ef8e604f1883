import ipaddr from 'ipaddr.js';
import { isPublic } from './address';
import { specialAddresses } from './specialAddresses';

/** The first and the last address of a range. */
function endsOf(range: string): string[] {
  const [address, bits] = ipaddr.parseCIDR(range);
  const bytes = address.toByteArray();
  const last = bytes.map((byte, at) => {
    const free = Math.min(8, Math.max(0, (at + 1) * 8 - bits));
    return byte | (2 ** free - 1);
  });
  return [address.toString(), ipaddr.fromByteArray(last).toString()];
}

test.each(specialAddresses)('%s is refused from its first to its last address', (range) => {
  for (const address of endsOf(range)) expect([address, isPublic(address)]).toEqual([address, false]);
});

test.each([
  '1.1.1.1',
  '11.0.0.1',
  '172.32.0.1',
  '192.0.1.1',
  '223.255.255.255',
  '2606:4700::1',
  '2a00:1450::1',
  '::ffff:1.1.1.1',
])('%s may be reached', (address) => expect(isPublic(address)).toBe(true));

test.each([
  '::ffff:127.0.0.1',
  '::7f00:1',
  '::127.0.0.1',
  '64:ff9b::7f00:1',
  '2002:7f00:1::',
  '100:0:0:1::5',
  'not a complete address',
  '',
])('%s may not', (address) => expect(isPublic(address)).toBe(false));
