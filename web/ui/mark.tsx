/** The sign of the house: a frustum lying on its side. */
export function Mark() {
  return (
    <svg width={26} height={20} viewBox="0 0 26 20" aria-hidden="true">
      <path d="M1 13V7L25 1V19Z" className="fill-primary" />
    </svg>
  );
}
