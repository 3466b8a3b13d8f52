import type { ReactNode } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { Notice } from './notice.tsx';

/**
 * A part of a page that may fall over without the rest: what happened, and what can still be done.
 *
 * @param what the part, as it begins a sentence
 * @param until the part is tried again whenever one of these changes
 * @param children what may fall over
 * @param beside what stays in its place
 */
export function Boundary({
  what,
  until,
  children,
  beside,
}: {
  what: string;
  until: readonly unknown[];
  children: ReactNode;
  beside?: ReactNode;
}) {
  return (
    <ErrorBoundary
      resetKeys={[...until]}
      fallbackRender={({ error, resetErrorBoundary }) => (
        <div className="p-4">
          <Notice kind="trouble" role="alert">
            <p>
              <b>{what} cannot be shown.</b> Nothing that was captured is lost: go back to a step, or abandon the run.
            </p>
            <p className="sub text-sm [overflow-wrap:anywhere]">
              For the person who repairs this: {error instanceof Error ? error.message : String(error)}
            </p>
            <button type="button" className="btn btn-outline h-12 mt-2" onClick={resetErrorBoundary}>
              Show it again
            </button>
          </Notice>
          {beside}
        </div>
      )}
    >
      {children}
    </ErrorBoundary>
  );
}
