import { lookup as resolve, type LookupAddress, type LookupOptions } from 'node:dns';
import { BlockList, isIP, type LookupFunction } from 'node:net';
import { networkInterfaces } from 'node:os';
import type { Refusal } from '@frustum/core';
import { wireRefusal } from './wires/wire.ts';

/** Where channels may lead beside this machine and private networks, and where not even there. */
export interface Reach {
  /** hosts, or host and port, that the server’s owner has named */
  readonly allowed: readonly string[];
  /** ports on which this server itself listens */
  readonly ownPorts: readonly number[];
}

/** Nothing named, nothing of its own. */
export const PRIVATE_ONLY: Reach = { allowed: [], ownPorts: [] };

const familyOf = (address: string) => (isIP(address) === 6 ? 'ipv6' : 'ipv4');

/** RFC 1918 and RFC 4193; loopback, where brokers and gateways live. */
const PRIVATE = listOf('127.0.0.0/8', '10.0.0.0/8', '172.16.0.0/12', '192.168.0.0/16', '::1/128', 'fc00::/7');
/** RFC 3927 and RFC 4291: of one cable only, and where clouds tell a machine its secrets. */
const LINK_LOCAL = listOf('169.254.0.0/16', 'fe80::/10');

function listOf(...nets: readonly string[]): BlockList {
  const list = new BlockList();
  for (const net of nets) {
    const [address, bits] = net.split('/') as [string, string];
    list.addSubnet(address, Number(bits), familyOf(address));
  }
  return list;
}

/** Every address of this machine, as the system has them now. */
function isOwn(address: string): boolean {
  const own = new BlockList();
  own.addSubnet('127.0.0.0', 8, 'ipv4');
  for (const any of ['::1', '::', '0.0.0.0']) own.addAddress(any, familyOf(any));
  for (const known of Object.values(networkInterfaces()).flat())
    if (known) own.addAddress(known.address, familyOf(known.address));
  return own.check(address, familyOf(address));
}

/** Without the brackets of a URL and the dot at the end of a full name. */
const plainHost = (host: string) =>
  host
    .toLowerCase()
    .replace(/^\[(.*)\]$/, '$1')
    .replace(/\.$/, '');

/**
 * Why a channel may not lead to an address; null when it may.
 *
 * @param host as it was typed
 * @param address what the name stands for, in figures
 * @see RFC 1918, RFC 3927, RFC 4193, RFC 4291
 */
export function notReached(host: string, port: number, address: string, { allowed, ownPorts }: Reach): Refusal | null {
  const name = plainHost(host);
  if (allowed.includes(name) || allowed.includes(`${name}:${port}`)) return null;
  const refuse = (what: string, wayOut = 'If it is meant, its owner can name it in FRUSTUM_ALLOW.') =>
    wireRefusal(`${name}:${port}`, 'connect', what, wayOut);
  if (ownPorts.includes(port) && isOwn(address))
    return refuse('this is Frustum’s own port', 'Type the address of the device.');
  if (LINK_LOCAL.check(address, familyOf(address)))
    return refuse(`${address} is a link-local address, and no device is read there`);
  if (!PRIVATE.check(address, familyOf(address)))
    return refuse(`${address} is outside private networks, and no device is read there`);
  return null;
}

/**
 * Why alarms may not go to a host; null when they may: anywhere but to this server itself and to addresses of one cable.
 *
 * @example notTellable('169.254.169.254', 80, [8080]) // 'it is a link-local address'
 */
export function notTellable(host: string, port: number, ownPorts: readonly number[]): string | null {
  const name = plainHost(host);
  const address = name === 'localhost' ? '127.0.0.1' : name;
  if (isIP(address) === 0) return null;
  if (LINK_LOCAL.check(address, familyOf(address))) return 'it is a link-local address';
  return ownPorts.includes(port) && isOwn(address) ? 'it is Frustum’s own address' : null;
}

/** An address in figures is not looked up by a socket, and so is checked by itself. @throws Refusal of stage `connect` */
export function requireReached(host: string, port: number, reach: Reach): void {
  const address = plainHost(host);
  const refusal = isIP(address) === 0 ? null : notReached(host, port, address, reach);
  if (refusal) throw refusal;
}

/**
 * Looks a name up for a socket, and hands on only addresses that a channel may lead to: the connection is made to the very
 * address that was checked, whatever the name stands for a moment later.
 */
export function reachedLookup(port: number, reach: Reach): LookupFunction {
  return (host: string, options: LookupOptions, done) => {
    resolve(host, { ...options, all: true }, (error, found: LookupAddress[]) => {
      if (error) return done(error, '');
      const good = found.filter(({ address }) => notReached(host, port, address, reach) === null);
      const first = good[0];
      if (!first) {
        const refusal = found[0] && notReached(host, port, found[0].address, reach);
        return done(refusal ?? new Error(`${host} has no address`), '');
      }
      if (options.all) return done(null, good);
      return done(null, first.address, first.family);
    });
  };
}
