// Import circles: files that need each other, directly or by way of others. Types count: to read one file of a circle is to read all.
import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import ts from 'typescript';

const root = join(import.meta.dirname, '../..');

/** Files of the product, with what each imports of them: tests look wherever they must. */
function importsOf() {
  const files = execFileSync('git', ['ls-files', '-co', '--exclude-standard', '*.ts', '*.tsx'], { cwd: root })
    .toString()
    .split('\n')
    .filter((file) => file && !/\.(spec|e2e|d)\.tsx?$/.test(file) && existsSync(join(root, file)));
  const known = new Set(files);
  return new Map(
    files.map((file) => {
      const { importedFiles } = ts.preProcessFile(readFileSync(join(root, file), 'utf8'), true, false);
      const to = importedFiles
        .filter(({ fileName }) => fileName.startsWith('.'))
        .map(({ fileName }) => relative(root, resolve(root, dirname(file), fileName)))
        .filter((path) => known.has(path));
      return [file, to];
    }),
  );
}

/**
 * Circles of a graph: its strongly connected components of more than one (Tarjan, SIAM J. Comput. 1, 1972).
 *
 * @param {ReadonlyMap<string, readonly string[]>} arrows
 * @returns {string[][]}
 */
export function circlesIn(arrows) {
  const index = new Map();
  const low = new Map();
  const stack = [];
  const on = new Set();
  const found = [];
  const visit = (node) => {
    index.set(node, index.size);
    low.set(node, index.get(node));
    stack.push(node);
    on.add(node);
    for (const next of arrows.get(node) ?? []) {
      if (!index.has(next)) {
        visit(next);
        low.set(node, Math.min(low.get(node), low.get(next)));
      } else if (on.has(next)) low.set(node, Math.min(low.get(node), index.get(next)));
    }
    if (low.get(node) !== index.get(node)) return;
    const circle = stack.splice(stack.indexOf(node));
    circle.forEach((member) => on.delete(member));
    if (circle.length > 1) found.push(circle.sort());
  };
  for (const node of arrows.keys()) if (!index.has(node)) visit(node);
  return found;
}

/** A file's room: the folder of a workspace that it stands in; null for a file that stands in none. */
function roomOf(file) {
  const [workspace, ...path] = file.split('/');
  return path.length > 1 ? `${workspace}/${path[0]}` : null;
}

/** The same arrows between rooms. */
function roomsOf(arrows) {
  const rooms = new Map();
  for (const [file, to] of arrows) {
    const room = roomOf(file);
    if (room === null) continue;
    const others = to.map(roomOf).filter((other) => other !== null && other !== room);
    rooms.set(room, [...new Set([...(rooms.get(room) ?? []), ...others])]);
  }
  return rooms;
}

/** Circles of files, and of rooms. */
export function circles() {
  const arrows = importsOf();
  return [...circlesIn(arrows), ...circlesIn(roomsOf(arrows))];
}

if (process.argv[1] === import.meta.filename) {
  const arrows = importsOf();
  const rooms = roomsOf(arrows);
  let found = false;
  for (const graph of [arrows, rooms])
    for (const circle of circlesIn(graph)) {
      found = true;
      process.stderr.write('These need each other:\n');
      for (const one of circle)
        process.stderr.write(
          `  ${one} → ${graph
            .get(one)
            .filter((to) => circle.includes(to))
            .join(', ')}\n`,
        );
    }
  process.exit(found ? 1 : 0);
}
