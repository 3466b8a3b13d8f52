import { SMTPServer } from 'smtp-server';

/** A mail as the relay took it. */
export interface TakenMail {
  readonly from: string;
  readonly to: readonly string[];
  readonly subject: string;
  readonly text: string;
  /** who logged in; '' = nobody had to */
  readonly user: string;
}

/** How a relay behaves. */
export interface RelayMood {
  /** asked for by name and password; absent = it takes from everybody */
  readonly logIn?: { readonly username: string; readonly password: string };
  /** what it says to every receiver instead of taking a mail; absent = it takes */
  readonly refuses?: string;
}

/** Decodes what a mail of plain text is written in: quoted-printable or as it is (RFC 2045). */
function plain(head: string, body: string): string {
  if (/quoted-printable/i.test(head)) {
    const bytes = body.replace(/=\r?\n/g, '').replace(/=([0-9A-F]{2})/gi, (_, hex: string) => String.fromCharCode(parseInt(hex, 16))); // prettier-ignore
    return Buffer.from(bytes, 'latin1').toString('utf8');
  }
  return /base64/i.test(head) ? Buffer.from(body, 'base64').toString('utf8') : body;
}

/** A word of a header that is no ASCII (RFC 2047). */
const unfolded = (text: string) =>
  text
    .replace(/\r?\n\s+/g, ' ')
    .replace(/\?=\s+=\?/g, '?==?')
    .replace(/=\?utf-8\?([qb])\?([^?]*)\?=/gi, (_, how: string, word: string) =>
      how.toLowerCase() === 'b'
        ? Buffer.from(word, 'base64').toString('utf8')
        : plain('quoted-printable', word.replaceAll('_', ' ')),
    );

/** A stand-in for the operator's mail relay: it takes mails on a port of this machine and keeps them to be looked at. */
export async function startRelay(
  mood: RelayMood = {},
  port = 0,
): Promise<{ port: number; mails: TakenMail[]; close: () => Promise<void> }> {
  const mails: TakenMail[] = [];
  const server = new SMTPServer({
    disabledCommands: mood.logIn ? ['STARTTLS'] : ['STARTTLS', 'AUTH'],
    authOptional: !mood.logIn,
    allowInsecureAuth: true,
    disableReverseLookup: true,
    onAuth(auth, _session, done) {
      const good = auth.username === mood.logIn?.username && auth.password === mood.logIn?.password;
      done(good ? null : new Error('Authentication failed'), good ? { user: auth.username } : undefined);
    },
    onRcptTo(_address, _session, done) {
      done(mood.refuses ? Object.assign(new Error(mood.refuses), { responseCode: 550 }) : null);
    },
    onData(stream, session, done) {
      let raw = '';
      stream.on('data', (part: Buffer) => (raw += part.toString('latin1')));
      stream.on('end', () => {
        const cut = raw.indexOf('\r\n\r\n');
        const [head, body] = [raw.slice(0, cut), raw.slice(cut + 4)];
        const subject = /^subject: ((?:.*(?:\r?\n[ \t].*)*))/im.exec(head)?.[1] ?? '';
        const { mailFrom, rcptTo } = session.envelope;
        mails.push({
          from: mailFrom ? mailFrom.address : '',
          to: rcptTo.map((r) => r.address),
          subject: unfolded(subject),
          text: plain(head, body).replaceAll('\r\n', '\n').trim(),
          user: typeof session.user === 'string' ? session.user : '',
        });
        done();
      });
    },
  });
  server.on('error', () => undefined);
  await new Promise<void>((resolve) => server.listen(port, '127.0.0.1', resolve));
  const address = server.server.address();
  return {
    port: typeof address === 'object' && address ? address.port : port,
    mails,
    close: () => new Promise((resolve) => server.close(() => resolve())),
  };
}
