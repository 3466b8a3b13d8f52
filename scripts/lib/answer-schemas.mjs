// JSON Schemas of what the API answers, from the types of `contract/answers.ts`: by TypeScript’s own checker, so that a type and
// its schema cannot differ. (ts-json-schema-generator reads syntax and stops at types that are computed from tables.)
import ts from 'typescript';

/**
 * @param file with the interface
 * @param name of the interface whose properties are wanted
 * @returns {{ roots: Record<string, object>, defs: Record<string, object> }} by property, and what they share by its name
 */
export function schemasOf(file, name) {
  const program = ts.createProgram([file], {
    target: ts.ScriptTarget.ES2023,
    module: ts.ModuleKind.ESNext,
    moduleResolution: ts.ModuleResolutionKind.Bundler,
    strict: true,
    exactOptionalPropertyTypes: true,
    noEmit: true,
    allowImportingTsExtensions: true,
    skipLibCheck: true,
    lib: ['lib.es2023.d.ts', 'lib.dom.d.ts'],
    types: [],
  });
  const checker = program.getTypeChecker();
  const source = program.getSourceFile(file);
  const declared = source?.statements.find((s) => ts.isInterfaceDeclaration(s) && s.name.text === name);
  if (!declared) throw new Error(`There is no interface ${name} in ${file}.`);
  const defs = {};
  const known = new Map();

  /** Words of a comment above a declaration. */
  const said = (symbol) => ts.displayPartsToString(symbol.getDocumentationComment(checker)).replace(/\s+/g, ' ').trim();
  const described = (schema, symbol) => {
    const words = symbol ? said(symbol) : '';
    return words ? { ...schema, description: words } : schema;
  };

  function unionOf(type) {
    const parts = type.types.filter((t) => !(t.flags & ts.TypeFlags.Undefined));
    const literals = parts.filter((t) => t.isStringLiteral() || t.isNumberLiteral());
    const rest = parts.filter((t) => !literals.includes(t) && !(t.flags & ts.TypeFlags.BooleanLiteral));
    const booleans = parts.filter((t) => t.flags & ts.TypeFlags.BooleanLiteral);
    const schemas = [
      ...(literals.length ? [{ enum: literals.map((t) => t.value) }] : []),
      ...(booleans.length === 2
        ? [{ type: 'boolean' }]
        : booleans.map((t) => ({ const: checker.typeToString(t) === 'true' }))),
      ...rest.map(schemaOf),
    ];
    return schemas.length === 1 ? schemas[0] : { anyOf: schemas };
  }

  function objectOf(type) {
    const properties = {};
    const required = [];
    for (const property of checker.getPropertiesOfType(type)) {
      const of = checker.getTypeOfSymbol(property);
      if (checker.getSignaturesOfType(of, ts.SignatureKind.Call).length) continue;
      properties[property.name] = described(schemaOf(of), property);
      if (!(property.flags & ts.SymbolFlags.Optional)) required.push(property.name);
    }
    const index = checker.getIndexInfoOfType(type, ts.IndexKind.String);
    return {
      type: 'object',
      ...(Object.keys(properties).length ? { properties } : {}),
      ...(required.length ? { required } : {}),
      ...(index ? { additionalProperties: schemaOf(index.type) } : {}),
    };
  }

  /** What has a name of its own is written once. */
  function named(type, make) {
    const symbol = type.aliasSymbol ?? type.symbol;
    const plain = symbol && !symbol.name.startsWith('__') && !(type.aliasTypeArguments ?? type.typeArguments)?.length;
    if (!plain) return make();
    const before = known.get(type);
    if (before) return { $ref: `#/components/schemas/${before}` };
    let free = symbol.name;
    for (let n = 2; free in defs; n++) free = `${symbol.name}${n}`;
    known.set(type, free);
    defs[free] = {};
    defs[free] = described(make(), symbol);
    return { $ref: `#/components/schemas/${free}` };
  }

  function schemaOf(type) {
    const { flags } = type;
    if (flags & (ts.TypeFlags.Any | ts.TypeFlags.Unknown)) return {};
    if (type.isStringLiteral() || type.isNumberLiteral()) return { const: type.value };
    if (flags & ts.TypeFlags.BooleanLiteral) return { const: checker.typeToString(type) === 'true' };
    if (flags & ts.TypeFlags.StringLike) return { type: 'string' };
    if (flags & ts.TypeFlags.NumberLike) return { type: 'number' };
    if (flags & ts.TypeFlags.BooleanLike) return { type: 'boolean' };
    if (flags & ts.TypeFlags.Null) return { type: 'null' };
    if (type.isUnion()) return named(type, () => unionOf(type));
    // A branded text is a text.
    if (type.isIntersection() && type.types.some((t) => t.flags & ts.TypeFlags.StringLike)) return { type: 'string' };
    if (checker.isTupleType(type)) {
      const items = checker.getTypeArguments(type).map(schemaOf);
      return { type: 'array', prefixItems: items, minItems: items.length, maxItems: items.length };
    }
    if (checker.isArrayType(type)) return { type: 'array', items: schemaOf(checker.getTypeArguments(type)[0]) };
    return named(type, () => objectOf(type));
  }

  const wanted = checker.getTypeAtLocation(declared);
  const roots = Object.fromEntries(
    checker.getPropertiesOfType(wanted).map((p) => [p.name, schemaOf(checker.getTypeOfSymbol(p))]),
  );
  return { roots, defs };
}
