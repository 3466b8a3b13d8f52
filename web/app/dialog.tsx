import { useEffect, useRef, type ReactNode } from 'react';

/** A modal of the browser's own: focus stays in it, Esc closes it. */
export function Dialog({
  open,
  title,
  onClose,
  children,
}: {
  open: boolean;
  title: string;
  onClose: () => void;
  children: ReactNode;
}) {
  const ref = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    const dialog = ref.current;
    if (open && !dialog?.open) dialog?.showModal();
    if (!open && dialog?.open) dialog.close();
  }, [open]);
  return (
    <dialog
      ref={ref}
      className="modal modal-top sm:modal-middle"
      // Esc is told at once; "closed" comes a moment later, and may come after it was opened anew.
      onCancel={onClose}
      onClose={(event) => {
        if (!event.currentTarget.open) onClose();
      }}
      aria-label={title}
    >
      {open && (
        <div className="modal-box bg-base-100 border border-base-300">
          <h2 className="mb-3">{title}</h2>
          {children}
          <form method="dialog" className="mt-4">
            <button className="btn btn-sm">Close</button>
          </form>
        </div>
      )}
      <form method="dialog" className="modal-backdrop">
        <button tabIndex={-1}>Close</button>
      </form>
    </dialog>
  );
}
