/** A name and what it is just now. */
export function Fact({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div>
      <dt className="sub text-sm">{name}</dt>
      <dd>{children}</dd>
    </div>
  );
}
