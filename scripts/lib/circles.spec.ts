import { describe, expect, it } from 'vitest';
import { circles, circlesIn } from './circles.mjs';

describe('circles of imports', () => {
  it('are found, however long, and each once; a file that two others use is none', () => {
    const arrows = new Map([
      ['a', ['b', 'd']],
      ['b', ['c']],
      ['c', ['a', 'd']],
      ['d', []],
      ['e', ['f', 'd']],
      ['f', ['e']],
    ]);
    expect(circlesIn(arrows)).toEqual([
      ['a', 'b', 'c'],
      ['e', 'f'],
    ]);
    expect(circlesIn(new Map([['a', ['b']], ['b', []]]))).toEqual([]); // prettier-ignore
  });

  it('there are none in this house, of files or of rooms', () => expect(circles()).toEqual([]));
});
