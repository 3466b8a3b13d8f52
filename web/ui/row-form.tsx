import type { ReactNode } from 'react';
import { problemOf } from '../format/problem.ts';
import { Notice } from './notice.tsx';

interface RowFormProps {
  readonly children: ReactNode;
  /** what the server has said against it */
  readonly error: unknown;
  /** asked for by the button, or by Enter in a field */
  readonly onSave: () => void;
}

/** A form of one row that wraps where it must; what is wrong with it is said below. */
export function RowForm({ children, error, onSave }: RowFormProps) {
  return (
    <form
      className="flex flex-wrap gap-x-4 gap-y-2 items-end mt-3"
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        onSave();
      }}
    >
      {children}
      {error !== undefined && (
        <Notice kind="trouble" role="alert">
          {problemOf(error).detail}
        </Notice>
      )}
    </form>
  );
}

/** A field of such a row under its label. */
export function RowField({
  label,
  className = '',
  children,
}: {
  label: string;
  className?: string;
  children: ReactNode;
}) {
  return (
    <label className={`text-sm sub flex flex-col [&>*]:text-base [&>*]:text-base-content [&>*]:h-12 ${className}`}>
      {label}
      {children}
    </label>
  );
}
