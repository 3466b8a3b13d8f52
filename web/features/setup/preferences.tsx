import { preferred } from '../../app/settings.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';

/** What this person prefers on this device. */
export function Preferences() {
  const settings = useAppSelector((s) => s.settings);
  const dispatch = useAppDispatch();
  const box = (key: 'sound' | 'singleKeys', text: string) => (
    <label className="flex items-center gap-3 min-h-12 cursor-pointer">
      <input
        type="checkbox"
        className="toggle"
        checked={settings[key]}
        onChange={(e) => dispatch(preferred({ [key]: e.target.checked }))}
      />
      {text}
    </label>
  );
  return (
    <section aria-label="This device" className="border-t border-base-300 mt-8 pt-4">
      <h2>On this device</h2>
      {box('sound', 'Sound and vibration when a reading is ready')}
      {box('singleKeys', 'Single keys (? shows them)')}
      <label className="flex items-center gap-3 min-h-12 cursor-pointer">
        <input
          type="checkbox"
          className="toggle"
          checked={settings.theme === 'night'}
          onChange={(e) => dispatch(preferred({ theme: e.target.checked ? 'night' : 'daylight' }))}
        />
        Night: for dark rooms
      </label>
    </section>
  );
}
