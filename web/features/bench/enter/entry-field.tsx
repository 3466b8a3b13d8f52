/** A figure with its unit beside it: large enough for wet hands. */
export function EntryField(props: {
  label: string;
  unit: string;
  units: readonly string[];
  onUnit?: (unit: string) => void;
  value: string;
  onChange: (value: string) => void;
  id?: string;
}) {
  const id = props.id ?? `entry-${props.label.toLowerCase().replace(/[^a-z]+/g, '-')}`;
  return (
    <div>
      <label htmlFor={id} className="sub text-sm block mb-1">
        {props.label}
      </label>
      <div className="join w-full">
        <input
          id={id}
          inputMode="decimal"
          autoComplete="off"
          className="input join-item h-14 text-2xl fig w-full min-w-0"
          value={props.value}
          onChange={(e) => props.onChange(e.target.value)}
        />
        {props.units.length > 1 ? (
          <select
            aria-label={`${props.label}, unit`}
            className={`select join-item h-14 shrink-0 ${props.units.some((u) => u.length > 4) ? 'w-[148px]' : 'w-[84px]'}`}
            value={props.unit}
            onChange={(e) => props.onUnit?.(e.target.value)}
          >
            {props.units.map((u) => (
              <option key={u}>{u}</option>
            ))}
          </select>
        ) : (
          <span className="join-item h-14 px-3 grid place-items-center border border-base-300 sub">{props.unit}</span>
        )}
      </div>
    </div>
  );
}
