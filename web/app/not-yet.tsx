import { Link } from 'react-router';
import { Notice } from '../ui/notice.tsx';
import { Waiting } from '../ui/waiting.tsx';
import { problemOf } from '../format/problem.ts';

/** A page before what it shows is there: under way; or why it did not come, and two ways on. */
export function NotYet({ what, error }: { what: string; error?: unknown }) {
  if (!error) return <Waiting what={what} />;
  return (
    <main className="p-6">
      <h1 className="mb-3">This page could not be read.</h1>
      <Notice kind="trouble" role="alert">
        {problemOf(error).detail}
      </Notice>
      <div className="flex flex-wrap gap-3 mt-4">
        <button type="button" className="btn h-12" onClick={() => window.location.reload()}>
          Ask again
        </button>
        <Link className="btn btn-ghost h-12" to="/">
          Back to Margins
        </Link>
      </div>
    </main>
  );
}
