import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { object, string } from 'yup';
import type { LogIns } from '../channels/wire.ts';

const schema = object({
  username: string().required(),
  password: string().required(),
  to: string().max(300).optional(),
});

/**
 * Log-ins to devices, by name, from `log-ins.json` in the data folder: `{ "hall": { "to": "192.168.1.20:1883", "username": …, "password": … } }`.
 * Kept out of the database, so that no export and no answer can carry them. Read anew each time: no restart after a change.
 */
export function logInsIn(folder: string): LogIns {
  return (name) => {
    try {
      const all = JSON.parse(readFileSync(join(folder, 'log-ins.json'), 'utf8')) as Record<string, unknown>;
      return Object.hasOwn(all, name) ? schema.validateSync(all[name], { strict: true }) : null;
    } catch {
      return null;
    }
  };
}
