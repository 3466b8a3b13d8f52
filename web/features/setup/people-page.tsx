import { useState } from 'react';
import { Link } from 'react-router';
import type { PersonRow } from '@frustum/contract';
import { useAddPersonMutation, useChangePersonMutation, usePeopleQuery } from '../../app/api.ts';
import { NotYet } from '../../app/not-yet.tsx';
import { preferred } from '../../app/settings.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { problemOf } from '../../format/problem.ts';
import { Notice } from '../../ui/notice.tsx';
import { RowField, RowForm } from '../../ui/row-form.tsx';

/** Names of the people who work here, and which of them is at this device. */
export function Page() {
  const { data, error } = usePeopleQuery();
  if (!data) return <NotYet what="Reading the names" error={error} />;
  return (
    <main className="px-4 lg:px-7 py-5 max-w-3xl w-full">
      <h1>People</h1>
      <p className="sub mt-1 max-w-prose">
        The name in the bar is stored with everything that is done on this device. It proves nothing: anybody can choose
        any name until there is a sign-in.{' '}
        <Link className="underline" to="/set-up">
          Back to Set-up
        </Link>
      </p>
      <ul className="mt-3">
        {data.map((person) => (
          <PersonLine key={person.personId} person={person} />
        ))}
      </ul>
      <AddName />
    </main>
  );
}

function PersonLine({ person: { personId, name, left } }: { person: PersonRow }) {
  const chosen = useAppSelector((s) => s.settings.person);
  const dispatch = useAppDispatch();
  const [change, { error, isLoading }] = useChangePersonMutation();
  return (
    <li className="border-t border-base-300 flex flex-wrap items-center gap-3 py-2 min-h-14">
      <span className={left ? 'sub' : 'font-[650]'}>{name}</span>
      {left && <span className="sub text-sm">no longer offered</span>}
      {chosen === name && <span className="sub text-sm">at this device</span>}
      <span className="ml-auto flex gap-2">
        {!left && chosen !== name && (
          <button
            type="button"
            className="btn btn-outline border-base-300 h-12"
            aria-label={`That is me: ${name}`}
            onClick={() => dispatch(preferred({ person: name }))}
          >
            That is me
          </button>
        )}
        <button
          type="button"
          className="btn btn-ghost h-12 font-normal"
          disabled={isLoading}
          aria-label={`${left ? 'Offer it again' : 'No longer here'}: ${name}`}
          onClick={() => void change({ personId, body: { left: !left } })}
        >
          {left ? 'Offer it again' : 'No longer here'}
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

function AddName() {
  const [name, setName] = useState('');
  const [add, { error, isLoading }] = useAddPersonMutation();
  const keep = async () => {
    const answer = await add(name);
    if (answer.data) setName('');
  };
  return (
    <section aria-label="Add a name" className="border-t border-base-300 pt-4 mt-4">
      <h2>Add a name</h2>
      <RowForm error={error} onSave={() => void keep()}>
        <RowField label="Name">
          <input
            className="input"
            maxLength={40}
            autoComplete="off"
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
        </RowField>
        <button className="btn btn-primary h-12" disabled={isLoading || !name.trim()}>
          Add it
        </button>
      </RowForm>
    </section>
  );
}
