import type { HttpJsonConfig } from '@frustum/contract';
import {
  jsonFinder,
  logInOf,
  readingOf,
  stageOf,
  wireRefusal,
  type LogIns,
  type Wire,
  type WireReading,
} from './wire.ts';

const TIMEOUT_MS = 3000;
/** No instrument says more than this in one answer. */
const MOST_BYTES = 256 * 1024;

/** A device that answers JSON over HTTP: one request a reading, no redirects, a bounded answer. */
export class HttpJsonWire implements Wire {
  private readonly config: HttpJsonConfig;
  private readonly logIns: LogIns;
  private readonly where: string;
  private readonly ended = new AbortController();

  constructor(config: HttpJsonConfig, logIns: LogIns) {
    this.config = config;
    this.logIns = logIns;
    // Not by URL: one that cannot be (a port of 99999) must fail at the reading, in words, not at the start.
    this.where = /^https?:\/\/([^/?#]+)/i.exec(config.url)?.[1] ?? config.url;
  }

  async read(): Promise<WireReading> {
    return readingOf(this.where, this.config, jsonFinder(this.where, await this.document()));
  }

  close(): void {
    this.ended.abort();
  }

  private async document(): Promise<unknown> {
    const { config, where } = this;
    const text = await this.text().catch((error: unknown) => {
      const known = error as { code?: string; message?: string; cause?: { message?: string } };
      if (known.code === 'device-unreachable') throw error;
      throw wireRefusal(where, stageOf(error, 'connect'), known.cause?.message ?? known.message ?? 'no answer');
    });
    try {
      return JSON.parse(text) as unknown;
    } catch {
      throw wireRefusal(where, 'decode', `${config.url} answered no JSON but “${text.slice(0, 40)}”`);
    }
  }

  private async text(): Promise<string> {
    const { config, where } = this;
    const logIn = logInOf(where, this.logIns, config.logIn);
    const secret = logIn && Buffer.from(`${logIn.username}:${logIn.password}`).toString('base64');
    const response = await fetch(config.url, {
      headers: { accept: 'application/json', ...(secret ? { authorization: `Basic ${secret}` } : {}) },
      // A redirect could lead to anywhere; the operator gave one address.
      redirect: 'error',
      signal: AbortSignal.any([AbortSignal.timeout(TIMEOUT_MS), this.ended.signal]),
    });
    if (!response.ok) {
      await response.body?.cancel();
      throw wireRefusal(
        where,
        'read',
        `it answered ${response.status} ${response.statusText}`.trim(),
        'Check the address.',
      );
    }
    const parts: Uint8Array[] = [];
    let size = 0;
    for await (const part of response.body ?? []) {
      size += (part as Uint8Array).length;
      if (size > MOST_BYTES) throw wireRefusal(where, 'read', `the answer has more than ${MOST_BYTES / 1024} KiB`);
      parts.push(part);
    }
    return Buffer.concat(parts).toString('utf8');
  }
}
