/** Which addresses lie in the public network. */
import { BlockList, isIP } from 'node:net';

/**
 * IANA IPv4 Special-Purpose Address Registry (RFC 6890 and its updates), whole: also the blocks that are globally reachable, for no
 * page of a school's reading lies there. Multicast (RFC 5771) and the reserved class E besides.
 */
export const SPECIAL_IPV4 = [
  '0.0.0.0/8',
  '10.0.0.0/8',
  '100.64.0.0/10',
  '127.0.0.0/8',
  '169.254.0.0/16',
  '172.16.0.0/12',
  '192.0.0.0/24',
  '192.0.2.0/24',
  '192.31.196.0/24',
  '192.52.193.0/24',
  '192.88.99.0/24',
  '192.168.0.0/16',
  '192.175.48.0/24',
  '198.18.0.0/15',
  '198.51.100.0/24',
  '203.0.113.0/24',
  '224.0.0.0/4',
  '240.0.0.0/4',
] as const;
/** What of global unicast (2000::/3, RFC 4291) the IANA IPv6 Special-Purpose Address Registry takes out. All outside of it is refused anyway. */
export const SPECIAL_IPV6 = ['2001::/23', '2001:db8::/32', '2002::/16', '2620:4f:8000::/48', '3fff::/20'] as const;

const list = (blocks: readonly string[], family: 'ipv4' | 'ipv6'): BlockList => {
  const out = new BlockList();
  for (const block of blocks) {
    const [net = '', bits] = block.split('/');
    out.addSubnet(net, Number(bits), family);
  }
  return out;
};
const special4 = list(SPECIAL_IPV4, 'ipv4');
const special6 = list(SPECIAL_IPV6, 'ipv6');
const global6 = list(['2000::/3'], 'ipv6');

/** Whether an address is one of the public network. Anything else (private, loopback, link-local, IPv4 inside IPv6 …) is not. */
export function isPublic(address: string): boolean {
  const bare = address.replace(/%.*$/s, '');
  if (isIP(bare) === 4) return !special4.check(bare, 'ipv4');
  return isIP(bare) === 6 && global6.check(bare, 'ipv6') && !special6.check(bare, 'ipv6');
}
