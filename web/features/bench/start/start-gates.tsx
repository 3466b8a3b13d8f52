import type { Gate } from '@frustum/core';
import { Notice } from '../../../ui/notice.tsx';

/** What should be so before a run begins, and is not: each with why it matters, and room for why it begins all the same. */
export function StartGates({
  gates,
  because,
  onChange,
}: {
  gates: readonly Gate[];
  because: Readonly<Record<string, string>>;
  onChange: (because: Readonly<Record<string, string>>) => void;
}) {
  if (!gates.length) return null;
  return (
    <section aria-label="Before it begins" className="mt-6">
      <h2>Before it begins</h2>
      {gates.map((g) => (
        <div key={g.id} className="mt-2">
          <Notice kind="care">
            <p className="font-semibold">{g.text}</p>
            <p>{g.reason}</p>
          </Notice>
          <label className="block sub text-sm mt-2">
            Begin all the same, because
            <input
              className="input h-12 w-full block text-base text-base-content"
              maxLength={300}
              value={because[g.id] ?? ''}
              onChange={(e) => onChange({ ...because, [g.id]: e.target.value })}
            />
          </label>
        </div>
      ))}
    </section>
  );
}
