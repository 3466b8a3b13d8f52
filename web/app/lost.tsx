import { Link, useRouteError } from 'react-router';

/** An address that is none, or a screen that fell over: what happened, and the way out. */
export function Lost() {
  const error = useRouteError();
  return (
    <main className="p-6 max-w-xl">
      <h1>{error ? 'This screen fell over.' : 'There is no such screen.'}</h1>
      <p className="sub my-3">
        {error instanceof Error ? error.message : 'The address may be old.'} Nothing that was captured is lost.
      </p>
      <Link className="btn btn-primary h-14" to="/">
        Back to Margins
      </Link>
    </main>
  );
}
