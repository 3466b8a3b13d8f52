import { createTransport } from 'nodemailer';
import { logInOf } from '../../channels/wires/wire.ts';
import { logInsIn } from '../../config/log-ins.ts';
import { portOf, type MailRelay } from '../../config/telling.ts';
import type { AlarmMessage } from '../../store/schema/index.ts';

const TIMEOUT_MS = 5000;

const EVENTS: Readonly<Record<AlarmMessage['event'], string>> = {
  raised: '',
  again: 'Still so: ',
  acknowledged: 'Seen: ',
  snoozed: 'Later: ',
  over: 'Over: ',
  test: 'Test: ',
  started: '',
  stopped: '',
  alive: '',
  gone: '',
};
const LEVELS: Readonly<Record<NonNullable<AlarmMessage['level']>, string>> = {
  note: 'Note',
  warn: 'Warning',
  act: 'Act',
  urgent: 'URGENT',
};

/** What stands in the line that somebody sees on a locked phone. */
const subjectOf = ({ event, level, text }: AlarmMessage) =>
  `${level ? `${LEVELS[level]}. ` : ''}${EVENTS[event]}${text.split('. ')[0]!}`.slice(0, 150);

/**
 * Hands a message to the operator's own relay, as plain text.
 *
 * @throws Error that says what the relay says
 */
export async function mailOut(relay: MailRelay, folder: string, message: AlarmMessage): Promise<void> {
  const { host, from, to, security = 'none', logIn } = relay;
  const port = portOf(relay);
  const known = logInOf(`${host}:${port}`, logInsIn(folder), logIn ?? '');
  const transport = createTransport({
    host,
    port,
    secure: security === 'tls',
    requireTLS: security === 'starttls',
    ignoreTLS: security === 'none',
    ...(known ? { auth: { user: known.username, pass: known.password } } : {}),
    connectionTimeout: TIMEOUT_MS,
    greetingTimeout: TIMEOUT_MS,
    socketTimeout: TIMEOUT_MS,
    disableFileAccess: true,
    disableUrlAccess: true,
  });
  const { at, by } = message;
  const lines = [message.text, `${at.slice(0, 16).replace('T', ' ')} UTC${by ? `, ${by}` : ''}`, '', 'Alarms are no safety device: what must stop by itself has its own interlock.']; // prettier-ignore
  try {
    await transport.sendMail({ from, to, subject: subjectOf(message), text: lines.join('\n') });
  } catch (error) {
    throw new Error(whyNot(error, host), { cause: error });
  } finally {
    transport.close();
  }
}

/** In a word, without what the relay may have been told of a log-in. */
function whyNot(error: unknown, host: string): string {
  const { message, responseCode, response, ...of } = error as Error & {
    code?: string;
    responseCode?: number;
    response?: string;
  };
  // The system's own word says more than the library's.
  const code = /\bE[A-Z]{5,}\b/.exec(message)?.[0] ?? of.code;
  if (responseCode) return `the relay answers ${(response ?? String(responseCode)).slice(0, 120)}`;
  if (code === 'ETIMEDOUT') return `no answer from ${host} within ${TIMEOUT_MS / 1000} s`;
  return `${host} cannot be reached${code ? ` (${code})` : ''}`;
}
