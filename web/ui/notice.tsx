import type { ReactNode } from 'react';

const EDGES = { care: 'border-warning', trouble: 'border-error', plain: 'border-base-300' } as const;

/** A caution, a refusal or a remark: a line at its side, no box. */
export function Notice({ kind, children, role }: { kind: keyof typeof EDGES; children: ReactNode; role?: string }) {
  return (
    <div role={role} className={`border-l-[3px] pl-3 py-0.5 ${EDGES[kind]}`}>
      {children}
    </div>
  );
}
