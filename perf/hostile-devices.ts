import { createServer, type Server as HttpServer, type ServerResponse } from 'node:http';
import { createServer as createTcp, type AddressInfo, type Server, type Socket } from 'node:net';
import { gzipSync } from 'node:zlib';

/** A device that does harm, whether it is broken or means it: none of these ever gives a reading. */
interface HostileDevice {
  readonly name: string;
  readonly channel: (port: number) => object;
  readonly start: () => Server | HttpServer;
}

const ON = { pollSeconds: 0.2, staleSeconds: 1, fixedC: 25 };
const http = (name: string, answer: (response: ServerResponse, socket: Socket) => void): HostileDevice => ({
  name: `HTTP: ${name}`,
  channel: (port) => ({ kind: 'http-json', url: `http://127.0.0.1:${port}/now`, pointer: '/mv', ...ON }),
  start: () => createServer((request, response) => answer(response, request.socket)),
});
/** What is written to the bare socket of an HTTP device. */
const rawHttp = (name: string, answer: (socket: Socket) => void): HostileDevice => ({
  ...http(name, () => {}),
  start: () => createTcp((socket) => socket.once('data', () => answer(socket))),
});
const json = (response: ServerResponse, text: string | Buffer, more: Record<string, string> = {}) =>
  response.writeHead(200, { 'content-type': 'application/json', ...more }).end(text);

/** Writes at an interval until the other side closes. */
function again(socket: Socket, ms: number, piece: () => Buffer | string): void {
  const timer = setInterval(() => socket.write(piece()), ms);
  socket.on('close', () => clearInterval(timer));
}
const endless = (socket: Socket, piece: Buffer) => {
  const more = () => {
    while (!socket.destroyed && socket.write(piece));
  };
  socket.on('drain', more);
  more();
};
const OK = 'HTTP/1.1 200 OK\r\ncontent-type: application/json\r\n';
const noise = (bytes: number) => Buffer.from(Array.from({ length: bytes }, () => Math.floor(256 * Math.random())));

const HTTP: readonly HostileDevice[] = [
  http('never answers', () => {}),
  http('hangs up', (_, socket) => socket.destroy()),
  rawHttp('a body without end', (s) => {
    s.write(`${OK}transfer-encoding: chunked\r\n\r\n`);
    endless(s, Buffer.from(`1000\r\n${' '.repeat(0x1000)}\r\n`));
  }),
  rawHttp('a byte a second', (s) => {
    s.write(`${OK}content-length: 100000\r\n\r\n`);
    again(s, 1000, () => ' ');
  }),
  rawHttp('headers without end', (s) => {
    s.write(OK);
    endless(s, Buffer.from(`x: ${'y'.repeat(1000)}\r\n`));
  }),
  rawHttp('a status line that is none', (s) => s.end('HTTP/9.9 abc\r\n\r\n')),
  rawHttp('noise', (s) => s.end(noise(5000))),
  rawHttp('a chunk of negative length', (s) => s.end(`${OK}transfer-encoding: chunked\r\n\r\n-5\r\nhello`)),
  rawHttp('less than it promised', (s) => s.end(`${OK}content-length: 500\r\n\r\n{"mv":1`)),
  rawHttp('two lengths', (s) => s.end(`${OK}content-length: 8\r\ncontent-length: 3\r\n\r\n{"mv":1}`)),
  rawHttp('another protocol', (s) =>
    s.end('HTTP/1.1 101 Switching Protocols\r\nupgrade: x\r\nconnection: upgrade\r\n\r\n'),
  ),
  http('sends on in a circle', (r) => void r.writeHead(302, { location: '/now' }).end()),
  http('500 and a page', (r) => void r.writeHead(500).end('<html>secret</html>')),
  http('a packed answer that unpacks to 100 MB', (r) => void json(r, gzipSync(Buffer.alloc(1e8, 32)), { 'content-encoding': 'gzip' })), // prettier-ignore
  http('JSON nested 100 000 deep', (r) => void json(r, '['.repeat(100_000) + ']'.repeat(100_000))),
  http('a figure that is none', (r) => void json(r, '{"mv":1e999}')),
  http('null', (r) => void json(r, 'null')),
  http('a text', (r) => void json(r, '{"mv":"66.6 or so"}')),
  http('a key of every object', (r) => void json(r, '{"__proto__":{"mv":66.6},"constructor":{"mv":66.6}}')),
  http('far beyond any electrode', (r) => void json(r, '{"mv":66600}')),
  http('a list', (r) => void json(r, '[66.6]')),
  http('half a sign', (r) => void json(r, Buffer.from([0x7b, 0x22, 0xff, 0xfe, 0x22]))),
];

const modbus = (name: string, answer: (socket: Socket, request: Buffer) => void): HostileDevice => ({
  name: `Modbus: ${name}`,
  channel: (port) => ({ kind: 'modbus-map', host: '127.0.0.1', port, register: 1, ...ON }),
  start: () => createTcp((socket) => socket.on('data', (request) => answer(socket, request))),
});
/** A frame as an answer to a request: its own transaction, so many bytes announced, and what follows. */
const frame = (request: Buffer, body: readonly number[], length = body.length + 1, unit = request[6]!) =>
  Buffer.from([request[0]!, request[1]!, 0, 0, length >> 8, length & 0xff, unit, ...body]);
const GOOD = [4, 2, 0x02, 0x9a];

const MODBUS: readonly HostileDevice[] = [
  modbus('never answers', () => {}),
  modbus('hangs up', (s) => s.destroy()),
  modbus('exception 77', (s, q) => s.write(frame(q, [0x84, 77]))),
  modbus('exception 0', (s, q) => s.write(frame(q, [0x84, 0]))),
  modbus('an exception of another function', (s, q) => s.write(frame(q, [0x90, 2]))),
  modbus('a length of nothing', (s, q) => s.write(frame(q, GOOD, 0))),
  modbus('a length of 65 535', (s, q) => s.write(frame(q, GOOD, 65_535))),
  modbus('a length that is too short', (s, q) => s.write(frame(q, GOOD, 3))),
  modbus('more registers than were asked for', (s, q) => s.write(frame(q, [4, 4, 2, 0x9a, 2, 0x9a]))),
  modbus('fewer than were asked for', (s, q) => s.write(frame(q, [4, 0]))),
  modbus('an odd count of bytes', (s, q) => s.write(frame(q, [4, 3, 2, 0x9a, 1]))),
  modbus('a count that does not fit its bytes', (s, q) => s.write(frame(q, [4, 200, 2, 0x9a]))),
  modbus('another unit', (s, q) => s.write(frame(q, GOOD, undefined, 99))),
  modbus('another transaction', (s, q) => s.write(frame(Buffer.from([q[0]! ^ 0xff, q[1]!, ...q.subarray(2)]), GOOD))),
  modbus('another function', (s, q) => s.write(frame(q, [3, 2, 2, 0x9a]))),
  modbus('another protocol', (s, q) => s.write(Buffer.concat([q.subarray(0, 2), Buffer.from([9, 9, 0, 5, 1]), Buffer.from(GOOD)]))), // prettier-ignore
  modbus('a byte a second', (s, q) => {
    const [whole] = [frame(q, [4, 250, ...Array<number>(250).fill(2)])];
    let at = 0;
    again(s, 1000, () => whole.subarray(at, ++at));
  }),
  modbus('noise without end', (s) => endless(s, noise(10_000))),
  modbus('a value that is none', (s, q) => s.write(frame(q, [4, 2, 0x7f, 0xff]))),
  modbus('an answer after it was given up', (s, q) => void setTimeout(() => s.write(frame(q, GOOD)), 2500)),
];

/** @param said what it sends once it has accepted the connection; null = it does not even do that */
const mqtt = (
  name: string,
  said: ((socket: Socket, heard: Buffer) => void) | null,
  accepts = [0x20, 2, 0, 0],
): HostileDevice => ({
  // prettier-ignore
  name: `MQTT: ${name}`,
  channel: (port) => ({ kind: 'mqtt', host: '127.0.0.1', port, topic: 'hall', pointer: '/mv', ...ON }),
  start: () =>
    createTcp((socket) => {
      socket.on('data', (heard) => {
        if (heard[0] === 0x10) socket.write(Buffer.from(accepts));
        else if ((heard[0]! & 0xf0) === 0x80) socket.write(Buffer.from([0x90, 3, heard[2]!, heard[3]!, 0]));
        if (heard[0] !== 0xc0) said?.(socket, heard);
      });
    }),
});
const message = (topic: string, payload: Buffer | string, kind = 0x30) => {
  const body = Buffer.concat([Buffer.from([0, topic.length]), Buffer.from(topic), Buffer.from(payload)]);
  const lengths: number[] = [];
  for (let left = body.length; ; left >>= 7) {
    lengths.push((left & 0x7f) | (left > 127 ? 0x80 : 0));
    if (left <= 127) break;
  }
  return Buffer.concat([Buffer.from([kind, ...lengths]), body]);
};
const MV = '{"mv":66.6}';
const told = (name: string, ...pieces: readonly Buffer[]) => mqtt(name, (s) => pieces.forEach((p) => s.write(p)));

const MQTT: readonly HostileDevice[] = [
  { ...mqtt('never accepts', null), start: () => createTcp(() => {}) },
  { ...mqtt('hangs up', null), start: () => createTcp((s) => s.destroy()) },
  mqtt('refuses with a code that there is not', null, [0x20, 2, 0, 99]),
  mqtt('accepts and hangs up', (s) => s.destroy()),
  told('another topic', message('attic', MV)),
  told('a kept message', message('hall', MV, 0x31)),
  told('a message of 200 MB', Buffer.from([0x30, 0x80, 0x84, 0xaf, 0x5f]), message('hall', MV)),
  told('a length of five bytes', Buffer.from([0x30, 0xff, 0xff, 0xff, 0xff, 0x7f])),
  told('no JSON', message('hall', 'hello')),
  told('null', message('hall', 'null')),
  told('a text', message('hall', '{"mv":"high"}')),
  told('JSON nested 50 000 deep', message('hall', '['.repeat(50_000) + ']'.repeat(50_000))),
  told('far beyond any electrode', message('hall', '{"mv":-66600}')),
  told('a topic longer than its packet', Buffer.from([0x30, 4, 0xff, 0xff, 0x68, 0x61])),
  told('a packet of a kind that there is not', Buffer.from([0x00, 0]), Buffer.from([0xf0, 0])),
  told('an answer to nothing', Buffer.from([0x40, 2, 9, 9]), Buffer.from([0x62, 2, 9, 9])),
  mqtt('noise without end', (s) => endless(s, noise(10_000))),
  mqtt('a flood of another topic', (s) =>
    endless(s, Buffer.concat(Array.from({ length: 200 }, () => message('attic', MV)))),
  ),
];

export const HOSTILE_DEVICES: readonly HostileDevice[] = [...HTTP, ...MODBUS, ...MQTT];

/** Starts a device on a free port. */
export async function startDevice(
  device: HostileDevice,
): Promise<{ readonly port: number; readonly close: () => void }> {
  const server = device.start();
  const sockets = new Set<Socket>();
  server.on('connection', (socket: Socket) => {
    sockets.add(socket);
    // The server cuts these connections; the device must survive that.
    socket.on('error', () => {});
    socket.on('close', () => sockets.delete(socket));
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const close = () => {
    sockets.forEach((socket) => socket.destroy());
    server.close();
  };
  return { port: (server.address() as AddressInfo).port, close };
}
