import { lookup } from 'node:dns';
import { lookup as addressesOf } from 'node:dns/promises';
import { BlockList, isIP, isIPv6 } from 'node:net';
import { Agent, fetch, type RequestInit, type Response } from 'undici';
import { Forbidden } from './problem.js';

/** This machine, and what stands on its wire without an address of its own (RFC 6890): no carrier, channel or network is there. */
const INSIDE = new BlockList();
INSIDE.addSubnet('0.0.0.0', 8);
INSIDE.addSubnet('127.0.0.0', 8);
INSIDE.addSubnet('169.254.0.0', 16);
INSIDE.addAddress('::', 'ipv6');
INSIDE.addAddress('::1', 'ipv6');
INSIDE.addSubnet('fe80::', 10, 'ipv6');

/** Whether an IP address is this machine's own. */
export const isInside = (address: string): boolean =>
  INSIDE.check(address, isIPv6(address) ? 'ipv6' : 'ipv4');

/** An address outside led to this machine. */
export class LeadsInside extends Error {
  constructor(readonly host: string) {
    super(`${host} leads to this machine itself, where nobody is asked.`);
  }
}

/** The demo's stand-ins listen on this machine; so may a program of the house's own, when whoever starts Auk says so. */
const mayInside = (): boolean => process.env.AUK_LOOPBACK === 'yes';

/** The host of an address as a plain name or IP address. */
const hostOf = (address: string): string => new URL(address).hostname.replace(/^\[|\]$/g, '');

/** Looks a name up and hangs up before connecting where it leads inside: what a name leads to may change after it was looked at. */
const outside = new Agent({
  connect: {
    lookup: (host, options, done) =>
      lookup(host, { ...options, all: true }, (error, found) => {
        const led = !error && !mayInside() && found.some(a => isInside(a.address));
        done(led ? new LeadsInside(host) : error, found as never);
      }),
  },
});

/** Asks a service outside over HTTP. Follows no redirection, and never asks this machine itself, whatever the address says. */
export async function askOutside(url: string, init: RequestInit): Promise<Response> {
  const host = hostOf(url);
  if (!mayInside() && isIP(host) && isInside(host)) throw new LeadsInside(host);
  try {
    return await fetch(url, { ...init, redirect: 'error', dispatcher: outside });
  } catch (error) {
    const cause = (error as Error).cause;
    throw cause instanceof LeadsInside ? cause : error;
  }
}

/** Refuses an address that leads to this machine, when it is entered. A name that nobody knows yet is let pass: it is looked up again at every question. */
export async function mustLeadOutside(address: string): Promise<void> {
  if (mayInside()) return;
  const host = hostOf(address);
  const found = await addressesOf(host, { all: true }).catch(() => []);
  if (!found.some(a => isInside(a.address))) return;
  throw new Forbidden(
    `${host} leads to this machine itself, and Auk asks nothing of it.`,
    'Enter the address that the carrier, channel or network gave you.',
  );
}
