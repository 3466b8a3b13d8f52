import { randomUUID } from 'node:crypto';
import type { Request, Response } from 'express';

const COOKIE = 'frustum-browser';
/** Browsers that are remembered; the one that was away longest is forgotten first. */
const MAX_KNOWN = 1000;
/** New ones a minute from one address: a house that opens all its screens, and no flood. */
const MAX_NEW = 300;
const MINUTE_MS = 60_000;

/**
 * Tells browsers apart behind one address, as behind a tunnel or a proxy: each that has loaded the page has requests of its
 * own to spend, so that a flood from one of them does not lock out the others. It is a name for counting, and opens nothing.
 */
export class Visitors {
  private readonly known = new Set<string>();
  /** new ones of this minute, by address */
  private readonly fresh = new Map<string, number>();
  private minute = -1;

  /** Who asks: a browser that was named here, or else its address. */
  keyOf(request: Request): string {
    const named = new RegExp(`(?:^|; )${COOKIE}=([0-9a-f-]{36})(?:;|$)`).exec(request.headers.cookie ?? '')?.[1];
    if (named === undefined || !this.known.delete(named)) return request.socket.remoteAddress ?? '';
    // The newest stands last.
    this.known.add(named);
    return named;
  }

  /** Names the browser that loads the page, if it has no name yet. */
  name(request: Request, response: Response): void {
    const address = request.socket.remoteAddress ?? '';
    const minute = Math.floor(performance.now() / MINUTE_MS);
    if (minute !== this.minute) this.fresh.clear();
    this.minute = minute;
    const count = this.fresh.get(address) ?? 0;
    if (this.keyOf(request) !== address || count >= MAX_NEW) return;
    this.fresh.set(address, count + 1);
    const id = randomUUID();
    this.known.add(id);
    if (this.known.size > MAX_KNOWN) this.known.delete(this.known.values().next().value!);
    response.cookie(COOKIE, id, { httpOnly: true, sameSite: 'strict', path: '/' });
  }
}
