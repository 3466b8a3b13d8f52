import { request as overHttp, type IncomingMessage } from 'node:http';
import { request as overHttps } from 'node:https';
import type { HttpJsonConfig } from '@frustum/contract';
import { Refusal } from '@frustum/core';
import { reachedLookup, requireReached, type Reach } from '../reach.ts';
import { figuresIn } from '@frustum/formats';
import { isShown, MAX_PLACES } from './places.ts';
import {
  jsonFinder,
  logInOf,
  readingOf,
  stageOf,
  wireRefusal,
  type Place,
  type Wire,
  type WireReading,
} from './wire.ts';
import { pauseAsSetUp, type WireReader } from './wire-reader.ts';
import type { LogIns } from '../../config/log-ins.ts';

const TIMEOUT_MS = 3000;
/** No instrument says more than this in one answer. */
const MAX_BYTES = 256 * 1024;

/** A device that answers JSON over HTTP: one request a reading, no redirects, a bounded answer. */
class HttpJsonWire implements Wire {
  private readonly config: HttpJsonConfig;
  private readonly logIns: LogIns;
  private readonly reach: Reach;
  private readonly where: string;
  private readonly ended = new AbortController();

  constructor(config: HttpJsonConfig, logIns: LogIns, reach: Reach) {
    this.config = config;
    this.logIns = logIns;
    this.reach = reach;
    // Not by URL: one that cannot be (a port of 99999) must fail at the reading, in words, not at the start.
    this.where = /^https?:\/\/([^/?#]+)/i.exec(config.url)?.[1] ?? config.url;
  }

  async read(): Promise<WireReading> {
    return readingOf(this.where, this.config, jsonFinder(this.where, await this.document()));
  }

  async survey(shows: number | null): Promise<readonly Place[]> {
    return figuresIn(await this.document(), MAX_PLACES).map(({ pointer, value }) => ({
      label: pointer,
      value,
      fits: isShown(value, shows) ? 1 : null,
      settings: { pointer },
    }));
  }

  close(): void {
    this.ended.abort();
  }

  private async document(): Promise<unknown> {
    const { config, where } = this;
    const late = AbortSignal.timeout(TIMEOUT_MS);
    const text = await this.text(AbortSignal.any([late, this.ended.signal])).catch((error: unknown) => {
      if (error instanceof Refusal) throw error;
      if (late.aborted) throw wireRefusal(where, 'time out', `no whole answer within ${TIMEOUT_MS / 1000} s`);
      throw wireRefusal(where, stageOf(error, 'connect'), (error as Error).message);
    });
    try {
      return JSON.parse(text) as unknown;
    } catch {
      throw wireRefusal(
        where,
        'decode',
        `${config.url} answered no JSON but ${text.length ? `${text.length} characters of something else` : 'nothing'}`,
      );
    }
  }

  private async text(signal: AbortSignal): Promise<string> {
    const { where } = this;
    const response = await this.asked(signal);
    const { statusCode = 0 } = response;
    if (statusCode < 200 || statusCode > 299) {
      response.destroy();
      // A redirect could lead to anywhere; the operator gave one address.
      const what = statusCode >= 300 && statusCode < 400 ? 'it sends on to another address' : 'it answered';
      throw wireRefusal(where, 'read', `${what} (${statusCode})`, 'Check the address.');
    }
    const parts: Buffer[] = [];
    let size = 0;
    for await (const part of response) {
      size += (part as Buffer).length;
      if (size > MAX_BYTES) throw wireRefusal(where, 'read', `the answer has more than ${MAX_BYTES / 1024} KiB`);
      parts.push(part as Buffer);
    }
    return Buffer.concat(parts).toString('utf8');
  }

  private asked(signal: AbortSignal): Promise<IncomingMessage> {
    const { config, where, reach } = this;
    const url = new URL(config.url);
    const secure = url.protocol === 'https:';
    const port = Number(url.port) || (secure ? 443 : 80);
    requireReached(url.hostname, port, reach);
    const logIn = logInOf(where, this.logIns, config.logIn);
    return new Promise((resolve, reject) => {
      const request = (secure ? overHttps : overHttp)(
        url,
        {
          headers: { accept: 'application/json' },
          ...(logIn ? { auth: `${logIn.username}:${logIn.password}` } : {}),
          lookup: reachedLookup(port, reach),
          signal,
        },
        resolve,
      );
      request.once('error', reject);
      // Also when nothing was said: another protocol, for one.
      request.once('close', () => reject(new Error('the connection was closed without an answer')));
      request.end();
    });
  }
}

export const httpJson: WireReader<HttpJsonConfig> = {
  open: (config, { logIns, reach }) => new HttpJsonWire(config, logIns, reach),
  nameOf: ({ url }) => url,
  pauseMs: pauseAsSetUp,
};
