import { useNavigate } from 'react-router';
import { usePeopleQuery } from './api.ts';
import { preferred } from './settings.ts';
import { useAppDispatch, useAppSelector } from './store.ts';

const OTHER = '/set-up/people';

/** Who works here: the name that is stored with what is done. It proves nothing. */
export function PersonPick() {
  const person = useAppSelector((s) => s.settings.person);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const { data: people = [] } = usePeopleQuery();
  const names = people.filter((p) => !p.left).map((p) => p.name);
  const shown = person || (names[0] ?? '');
  return (
    <select
      aria-label="Who works here"
      className="select select-ghost h-10 w-auto max-w-40 text-[15px] max-md:hidden"
      value={shown}
      onChange={(e) => {
        if (e.target.value === OTHER) void navigate(OTHER);
        else dispatch(preferred({ person: e.target.value }));
      }}
    >
      {[...new Set([shown, ...names])].map((name) => (
        <option key={name}>{name}</option>
      ))}
      <option value={OTHER}>Another name …</option>
    </select>
  );
}
