import { Link, useRouteError } from 'react-router';

/** A part of the application did not arrive; a browser keeps that for as long as the page stands, so it must be opened anew. */
const notFetched = (error: unknown) => error instanceof TypeError && /import|module|fetch|load/i.test(error.message);

/** An address that is none, a part that did not arrive, or a screen that fell over: what happened, and the way out. */
export function Lost() {
  const error = useRouteError();
  if (notFetched(error))
    return (
      <main className="p-6 max-w-xl">
        <h1>A part of this screen did not arrive.</h1>
        <p className="sub my-3">
          The server was out of reach when it was asked for. Nothing that was captured is lost, also what waits here to
          be sent.
        </p>
        <button type="button" className="btn btn-primary h-14" onClick={() => location.reload()}>
          Load it again
        </button>
      </main>
    );
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
