import { describe, expect, it } from 'vitest';
import { diskRefusal, errorOf, failureWords } from './failures.ts';

const wrapped = (cause: Error) => new Error('Failed query: insert into "lots"\nparams: secret', { cause });
const coded = (code: string, message = 'x', more: object = {}) => Object.assign(new Error(message), { code, ...more });

describe('what goes wrong in the store', () => {
  it.each([
    ['a full disk, by PostgreSQL', wrapped(coded('53100')), 'disk-full'],
    ['a full disk, by the system', coded('ENOSPC'), 'disk-full'],
    ['a full disk, in its words alone', wrapped(new Error('could not extend file "base/5/1": No space left on device')), 'disk-full'], // prettier-ignore
    ['a quota', coded('EDQUOT'), 'disk-full'],
    ['a folder that is read only', coded('EROFS'), 'read-only'],
    ['a full disk, as a bare number', { name: 'ErrnoError', errno: 51 }, 'disk-full'],
    ['no right to write', wrapped(coded('EACCES')), 'read-only'],
  ])('%s is said in words', (_, error, code) => expect(diskRefusal(error)?.code).toBe(code));

  it('a bare number of the database’s library becomes an error with words', () => {
    expect(errorOf({ name: 'ErrnoError', errno: 44 }).message).toBe('the database’s file system says ENOENT');
    expect(errorOf({ errno: 7 }).message).toBe('the database’s file system says errno 7');
    expect(errorOf('gone').message).toBe('gone');
    const error = new Error('x');
    expect(errorOf(error)).toBe(error);
  });

  it('does not blame the disk for other errors', () => {
    for (const error of [coded('23505'), new Error('x'), 'x', null]) expect(diskRefusal(error)).toBeNull();
  });

  it('a log names command and rule, and nothing that somebody typed', () => {
    const broken = wrapped(coded('23505', 'Key (label)=(secret) already exists', { routine: '_bt_check_unique', constraint: 'lot_once' })); // prettier-ignore
    expect(failureWords('addLot', broken)).toBe('addLot: SQLSTATE 23505, _bt_check_unique, lot_once');
    const bare = failureWords('addLot', new Error('Failed query: insert into "lots"\nparams: secret'));
    expect(bare).toMatch(/^addLot: a query failed\n {4}at /);
    expect(bare).not.toMatch(/secret|insert/);
    expect(failureWords('addLot', 'secret')).toBe('addLot: failed');
  });
});
