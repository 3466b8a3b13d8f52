/** A small round button that may stay pressed. */
export function Pill({
  text,
  title,
  on = false,
  busy,
  act,
}: {
  text: string;
  title?: string | undefined;
  on?: boolean;
  busy: boolean;
  act: () => void;
}) {
  return (
    <button
      type="button"
      disabled={busy}
      aria-pressed={on}
      title={title}
      onClick={act}
      className={`border rounded-full px-2.5 py-1.5 max-lg:py-2.5 text-sm disabled:opacity-50 ${on ? 'bg-neutral text-neutral-content border-neutral' : 'border-base-300'}`}
    >
      {text}
    </button>
  );
}
