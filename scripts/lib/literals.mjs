// The figures of a source file that a test may or may not notice, and the same file with one of them moved at will.
import ts from 'typescript';

/** Calls whose figures say how something is printed or cut, and no fact. */
const STRUCTURAL = new Set([
  'toFixed',
  'toPrecision',
  'slice',
  'at',
  'repeat',
  'padStart',
  'padEnd',
  'shown',
  'inside',
]);

/** Calls that refuse a slip: their figures say from where on one is sure that it is one. */
const GUARDS = new Set(['requireWithin', 'requireFinite', 'positive', 'above0', 'Refusal']);

/** Is it there to refuse a slip, or to tell nothing from something? Facts are what a source says. */
function isGuard(node) {
  for (let at = node; at && !ts.isStatement(at); at = at.parent) {
    if ((ts.isCallExpression(at) || ts.isNewExpression(at)) && GUARDS.has(at.expression.getText())) return true;
  }
  const { parent } = node;
  const compared = ts.isBinaryExpression(parent) && /^[<>]=?$|^[!=]==$/.test(parent.operatorToken.getText());
  return compared && Number(node.getText()) === 0;
}

/** What is one unit of a figure's last digit, as it is written. */
function lastDigit(text) {
  const [, whole, fraction = '', power = '0'] = /^([\d_]*)(?:\.(\d*))?(?:e([+-]?\d+))?$/i.exec(text) ?? [];
  return whole === undefined ? 1 : 10 ** (Number(power) - fraction.length);
}

const inType = (node) => {
  for (let at = node.parent; at; at = at.parent) if (ts.isTypeNode(at)) return true;
  return false;
};

/** Is it a place in a list, a limit of a loop, or a number of digits? */
function isStructural(node) {
  const { parent } = node;
  if (ts.isElementAccessExpression(parent) && parent.argumentExpression === node) return true;
  if (ts.isPropertyAssignment(parent) && parent.name === node) return true;
  if (ts.isCallExpression(parent)) {
    const name = ts.isPropertyAccessExpression(parent.expression)
      ? parent.expression.name.text
      : parent.expression.getText();
    if (STRUCTURAL.has(name)) return true;
  }
  // i = 0, i < n.length - 1, i + 1: places of a list
  for (let at = parent; at; at = at.parent) {
    if (
      ts.isForStatement(at) &&
      [at.initializer, at.condition, at.incrementor].some((p) => p && node.pos >= p.pos && node.end <= p.end)
    )
      return true;
    if (ts.isElementAccessExpression(at) && at.argumentExpression && node.pos >= at.argumentExpression.pos) return true;
    if (ts.isStatement(at)) break;
  }
  return false;
}

/** The constant that a figure stands in, or the function. */
function homeOf(node) {
  const names = [];
  for (let at = node.parent; at; at = at.parent) {
    if ((ts.isPropertyAssignment(at) || ts.isVariableDeclaration(at) || ts.isFunctionDeclaration(at)) && at.name)
      names.unshift(at.name.getText());
  }
  return names.join('.');
}

/**
 * The figures of a source file, each with what it becomes: one unit of its last digit more, or 2 %, whichever is larger.
 *
 * @returns list of { start, end, text, value, moved, line, home, guard }
 */
export function literalsIn(source, file) {
  const tree = ts.createSourceFile(file, source, ts.ScriptTarget.Latest, true);
  const found = [];
  const visit = (node) => {
    if (ts.isNumericLiteral(node) && !inType(node) && !isStructural(node)) {
      const text = node.getText();
      const value = Number(text.replaceAll('_', ''));
      const moved = value + Math.max(lastDigit(text.replaceAll('_', '')), 0.02 * Math.abs(value));
      const { line } = tree.getLineAndCharacterOfPosition(node.getStart());
      found.push({
        start: node.getStart(),
        end: node.end,
        text,
        value,
        moved,
        line: line + 1,
        home: homeOf(node),
        guard: isGuard(node),
      });
    }
    ts.forEachChild(node, visit);
  };
  visit(tree);
  return found;
}

/** The source in which the figure that `globalThis.__moved` names, like "file:3", is the moved one. */
export function movable(source, file) {
  let made = source;
  literalsIn(source, file)
    .map((literal, i) => ({ ...literal, i }))
    .reverse()
    .forEach(({ start, end, text, moved, i }) => {
      made = `${made.slice(0, start)}(globalThis.__moved === ${JSON.stringify(`${file}:${i}`)} ? ${moved} : ${text})${made.slice(end)}`;
    });
  return made;
}
