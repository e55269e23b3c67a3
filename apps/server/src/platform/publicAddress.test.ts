import { isPublic, SPECIAL_IPV4, SPECIAL_IPV6 } from './publicAddress.js';

/** First and last address of a block of whole groups, as texts. */
const first4 = (block: string): string => block.split('/')[0] ?? '';
const last4 = (block: string): string => {
  const [net = '', bits = '32'] = block.split('/');
  const value = net.split('.').reduce((n, part) => n * 256 + Number(part), 0) + 2 ** (32 - Number(bits)) - 1;
  return [24, 16, 8, 0].map((shift) => Math.floor(value / 2 ** shift) % 256).join('.');
};

test('the first and the last address of every special block are refused', () => {
  for (const block of SPECIAL_IPV4) expect([block, isPublic(first4(block)), isPublic(last4(block))]).toEqual([block, false, false]);
  for (const block of SPECIAL_IPV6) expect([block, isPublic(block.split('/')[0] ?? '')]).toEqual([block, false]);
});

// Addresses of the IANA IPv6 Special-Purpose Address Registry (RFC 6890 and updates) and of older or wrapped forms, one for each row
test.each([
  ['::', 'unspecified'],
  ['::1', 'loopback'],
  ['::127.0.0.1', 'IPv4-compatible (RFC 4291, deprecated)'],
  ['::ffff:10.0.0.1', 'IPv4-mapped'],
  ['::ffff:93.184.215.14', 'IPv4-mapped, though public'],
  ['::ffff:0:127.0.0.1', 'IPv4-translated (RFC 2765)'],
  ['64:ff9b::7f00:1', 'NAT64 (RFC 6052)'],
  ['64:ff9b:1::a00:1', 'local NAT64 (RFC 8215)'],
  ['100::1', 'discard-only (RFC 6666)'],
  ['2001::1', 'Teredo (RFC 4380)'],
  ['2001:2::1', 'benchmarking (RFC 5180)'],
  ['2001:20::1', 'ORCHIDv2 (RFC 7343)'],
  ['2001:db8::1', 'documentation (RFC 3849)'],
  ['2002:7f00:1::1', '6to4 of loopback (RFC 3056)'],
  ['3fff::1', 'documentation (RFC 9637)'],
  ['5f00::1', 'segment routing (RFC 9602)'],
  ['fc00::1', 'unique local (RFC 4193)'],
  ['fd12:3456::1', 'unique local'],
  ['fe80::1%eth0', 'link-local with a zone'],
  ['fec0::1', 'site-local (RFC 3879, deprecated)'],
  ['ff02::1', 'multicast'],
  ['127.1', 'no address'],
  ['0x7f000001', 'no address'],
  ['', 'nothing'],
])('%s (%s) is not public', (address) => expect(isPublic(address)).toBe(false));

test.each(['93.184.215.14', '9.255.255.255', '11.0.0.0', '172.32.0.1', '198.20.0.1', '2606:4700:4700::1111', '2a00:1450:4001::1'])('%s is public', (address) =>
  expect(isPublic(address)).toBe(true),
);
