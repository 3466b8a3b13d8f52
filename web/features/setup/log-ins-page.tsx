import { useState } from 'react';
import { Link } from 'react-router';
import type { LogInRow } from '@frustum/contract';
import { useDropLogInMutation, useKeepLogInMutation, useLogInsQuery } from '../../app/api.ts';
import { NotYet } from '../../app/not-yet.tsx';
import { problemOf } from '../../format/problem.ts';
import { Notice } from '../../ui/notice.tsx';
import { RowField, RowForm } from '../../ui/row-form.tsx';

const NOTHING = { name: '', to: '', username: '', password: '' };

/** Log-ins of devices and brokers: entered here, and never shown again but for whose they are. */
export function Page() {
  const { data, error } = useLogInsQuery();
  const [typed, setTyped] = useState(NOTHING);
  if (!data) return <NotYet what="Reading the log-ins" error={error} />;
  return (
    <main className="px-4 lg:px-7 py-5 max-w-4xl w-full">
      <h1>Log-ins of devices</h1>
      <p className="sub mt-1 max-w-prose">
        For a broker or a device that asks for a name and a password. Its channel says the name of the log-in only. A
        password is sent to its own host and port, and shown to nobody again.{' '}
        <Link className="underline" to="/set-up">
          Back to Set-up
        </Link>
      </p>
      {data.length === 0 && <p className="mt-4">No log-in is kept. Most devices at home need none.</p>}
      <ul className="mt-3">
        {data.map((row) => (
          <LogInLine key={row.name} row={row} onChange={() => setTyped({ ...row, password: '' })} />
        ))}
      </ul>
      <Enter typed={typed} setTyped={setTyped} isKnown={data.some((l) => l.name === typed.name.trim())} />
    </main>
  );
}

function LogInLine({ row: { name, to, username }, onChange }: { row: LogInRow; onChange: () => void }) {
  const [drop, { error, isLoading }] = useDropLogInMutation();
  const [sure, setSure] = useState(false);
  return (
    <li className="border-t border-base-300 flex flex-wrap items-center gap-3 py-2 min-h-14">
      <span className="min-w-0 [overflow-wrap:anywhere]">
        <b className="font-[650]">{name}</b>
        <span className="sub block text-sm">
          {username}, {to ? `for ${to}` : 'for no device yet: enter it anew'}
        </span>
      </span>
      <span className="ml-auto flex gap-2">
        <button type="button" className="btn btn-outline border-base-300 h-12" onClick={onChange}>
          Change<span className="sr-only"> {name}</span>
        </button>
        <button
          type="button"
          className="btn btn-ghost h-12 font-normal"
          disabled={isLoading}
          onClick={() => (sure ? void drop(name) : setSure(true))}
        >
          {sure ? 'Forget it: channels that name it fall silent' : 'Forget'}
          <span className="sr-only"> {name}</span>
        </button>
      </span>
      {error && (
        <Notice kind="trouble" role="alert">
          {problemOf(error).detail}
        </Notice>
      )}
    </li>
  );
}

interface EnterProps {
  readonly typed: typeof NOTHING;
  readonly setTyped: (typed: typeof NOTHING) => void;
  /** its password is kept already */
  readonly isKnown: boolean;
}

function Enter({ typed, setTyped, isKnown }: EnterProps) {
  const [keep, { error, isLoading }] = useKeepLogInMutation();
  const save = async () => {
    const answer = await keep(typed);
    if (answer.data) setTyped(NOTHING);
  };
  const field = (key: keyof typeof NOTHING, label: string, hint: string, type = 'text') => (
    <RowField label={label} className="grow basis-48">
      <input
        className="input w-full"
        type={type}
        autoComplete={type === 'password' ? 'new-password' : 'off'}
        placeholder={hint}
        value={typed[key]}
        onChange={(e) => setTyped({ ...typed, [key]: e.target.value })}
      />
    </RowField>
  );
  return (
    <section aria-label="Enter a log-in" className="border-t border-base-300 pt-4 mt-4">
      <h2>{isKnown ? `Change ${typed.name.trim()}` : 'Enter a log-in'}</h2>
      <RowForm error={error} onSave={() => void save()}>
        {field('name', 'Its name', 'hall')}
        {field('to', 'For host and port', '192.168.1.21:1883')}
        {field('username', 'User', 'reader')}
        {field('password', 'Password', isKnown ? 'as it is kept' : '', 'password')}
        <button className="btn btn-primary h-12" disabled={isLoading || !typed.name.trim()}>
          {isLoading ? 'Keeping …' : 'Keep it'}
        </button>
      </RowForm>
    </section>
  );
}
