// JSON Schemas of what the API answers, from the types of `contract/answers.ts`: by TypeScript’s own checker, so that a type and
// its schema cannot differ. (ts-json-schema-generator reads syntax and stops at types that are computed from tables.)
import ts from 'typescript';

class Schemas {
  /** what has a name of its own, by it */
  defs = {};
  known = new Map();

  constructor(checker) {
    this.checker = checker;
  }

  /** Words of a comment above a declaration. */
  said = (symbol) => ts.displayPartsToString(symbol.getDocumentationComment(this.checker)).replace(/\s+/g, ' ').trim();
  described(schema, symbol) {
    const words = symbol ? this.said(symbol) : '';
    return words ? { ...schema, description: words } : schema;
  }

  unionOf(type) {
    const parts = type.types.filter((t) => !(t.flags & ts.TypeFlags.Undefined));
    const literals = parts.filter((t) => t.isStringLiteral() || t.isNumberLiteral());
    const rest = parts.filter((t) => !literals.includes(t) && !(t.flags & ts.TypeFlags.BooleanLiteral));
    const booleans = parts.filter((t) => t.flags & ts.TypeFlags.BooleanLiteral);
    const schemas = [
      ...(literals.length ? [{ enum: literals.map((t) => t.value) }] : []),
      ...(booleans.length === 2
        ? [{ type: 'boolean' }]
        : booleans.map((t) => ({ const: this.checker.typeToString(t) === 'true' }))),
      ...rest.map((t) => this.schemaOf(t)),
    ];
    return schemas.length === 1 ? schemas[0] : { anyOf: schemas };
  }

  objectOf(type) {
    const properties = {};
    const required = [];
    for (const property of this.checker.getPropertiesOfType(type)) {
      const of = this.checker.getTypeOfSymbol(property);
      if (this.checker.getSignaturesOfType(of, ts.SignatureKind.Call).length) continue;
      properties[property.name] = this.described(this.schemaOf(of), property);
      if (!(property.flags & ts.SymbolFlags.Optional)) required.push(property.name);
    }
    const index = this.checker.getIndexInfoOfType(type, ts.IndexKind.String);
    return {
      type: 'object',
      ...(Object.keys(properties).length ? { properties } : {}),
      ...(required.length ? { required } : {}),
      ...(index ? { additionalProperties: this.schemaOf(index.type) } : {}),
    };
  }

  /** What has a name of its own is written once. */
  named(type, make) {
    const symbol = type.aliasSymbol ?? type.symbol;
    const plain = symbol && !symbol.name.startsWith('__') && !(type.aliasTypeArguments ?? type.typeArguments)?.length;
    if (!plain) return make();
    const before = this.known.get(type);
    if (before) return { $ref: `#/components/schemas/${before}` };
    let free = symbol.name;
    for (let n = 2; free in this.defs; n++) free = `${symbol.name}${n}`;
    this.known.set(type, free);
    this.defs[free] = {};
    this.defs[free] = this.described(make(), symbol);
    return { $ref: `#/components/schemas/${free}` };
  }

  schemaOf(type) {
    const { flags } = type;
    if (flags & (ts.TypeFlags.Any | ts.TypeFlags.Unknown)) return {};
    if (type.isStringLiteral() || type.isNumberLiteral()) return { const: type.value };
    if (flags & ts.TypeFlags.BooleanLiteral) return { const: this.checker.typeToString(type) === 'true' };
    if (flags & ts.TypeFlags.StringLike) return { type: 'string' };
    if (flags & ts.TypeFlags.NumberLike) return { type: 'number' };
    if (flags & ts.TypeFlags.BooleanLike) return { type: 'boolean' };
    if (flags & ts.TypeFlags.Null) return { type: 'null' };
    if (type.isUnion()) return this.named(type, () => this.unionOf(type));
    // A branded text is a text.
    if (type.isIntersection() && type.types.some((t) => t.flags & ts.TypeFlags.StringLike)) return { type: 'string' };
    if (this.checker.isTupleType(type)) {
      const items = this.checker.getTypeArguments(type).map((t) => this.schemaOf(t));
      return { type: 'array', prefixItems: items, minItems: items.length, maxItems: items.length };
    }
    if (this.checker.isArrayType(type))
      return { type: 'array', items: this.schemaOf(this.checker.getTypeArguments(type)[0]) };
    return this.named(type, () => this.objectOf(type));
  }
}

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
  const declared = program
    .getSourceFile(file)
    ?.statements.find((s) => ts.isInterfaceDeclaration(s) && s.name.text === name);
  if (!declared) throw new Error(`There is no interface ${name} in ${file}.`);
  const schemas = new Schemas(checker);
  const properties = checker.getPropertiesOfType(checker.getTypeAtLocation(declared));
  const roots = Object.fromEntries(properties.map((p) => [p.name, schemas.schemaOf(checker.getTypeOfSymbol(p))]));
  return { roots, defs: schemas.defs };
}
