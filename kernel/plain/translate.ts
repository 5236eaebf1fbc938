// The kernel's sources as plain TypeScript that does the same: numbers keep the width that the kernel's types give them, memory is
// read and written by functions of machine.ts. Every line stays where it is, so that a debugger steps through the source itself.
// What the kernel's part of the language does not have is an error that names the line.

import MagicString from 'magic-string';
import ts from 'typescript';

/** A type of the kernel. Addresses are u32; eight bytes at once are only moved. */
type Type = 'f32' | 'f64' | 'i32' | 'u32' | 'u64' | 'bool' | 'v128' | 'void';

/** What a module offers: a variable's type, or a function's. */
type Offer = { type: Type; parameters?: Type[] };
export type Offers = ReadonlyMap<string, Offer>;

const NAMED: Record<string, Type> = {
  f32: 'f32',
  f64: 'f64',
  i32: 'i32',
  u32: 'u32',
  u64: 'u64',
  usize: 'u32',
  isize: 'i32',
  u8: 'u32',
  u16: 'u32',
  bool: 'bool',
  boolean: 'bool',
  v128: 'v128',
  void: 'void',
};

/** Functions of machine.ts that a translated module may call. */
const MACHINE = [
  ...['f32', 'f64', 'i32', 'u32', 'u64', 'u8', 'u16'].flatMap((type) => [`load_${type}`, `store_${type}`]),
  ...['fround', 'imul', 'umul', 'bits_f32', 'f32_bits', 'ctz', 'nearest', 'unreachable', 'memory', 'Mathf'],
  ...['v128', 'i32x4', 'i8x16', 'f32x4'],
];

/** Types that calls of the four-lane kind give where it is not four lanes. */
const LANE_RESULTS: Record<string, Type> = {
  'f32x4.extract_lane': 'f32',
  'i32x4.extract_lane': 'i32',
  'i32x4.bitmask': 'i32',
  'v128.any_true': 'bool',
  'v128.store': 'void',
};

/** An error at a place of a source. */
class NotOfTheKernel extends Error {
  constructor(node: ts.Node, what: string) {
    const file = node.getSourceFile();
    const { line, character } = file.getLineAndCharacterOfPosition(node.getStart());
    super(`${file.fileName}:${line + 1}:${character + 1}: ${what}`);
  }
}

const parse = (file: string, source: string): ts.SourceFile =>
  ts.createSourceFile(file, source, ts.ScriptTarget.ES2022, true, ts.ScriptKind.TS);

/** What a source offers to others. */
export function offersOf(file: string, source: string): Offers {
  const offers = new Map<string, Offer>();
  for (const statement of parse(file, source).statements) declare(statement, offers, new Map());
  return offers;
}

function declare(statement: ts.Statement, into: Map<string, Offer>, known: ReadonlyMap<string, Offer>): void {
  if (ts.isFunctionDeclaration(statement) && statement.name) {
    into.set(statement.name.text, {
      type: statement.type ? namedType(statement.type) : 'void',
      parameters: statement.parameters.map((each) => namedType(each.type!)),
    });
  } else if (ts.isVariableStatement(statement)) {
    for (const { name, type, initializer } of statement.declarationList.declarations)
      into.set(name.getText(), { type: type ? namedType(type) : plainType(initializer, into, known) });
  }
}

function namedType(node: ts.TypeNode): Type {
  const type = NAMED[node.getText()];
  if (!type) throw new NotOfTheKernel(node, `a type "${node.getText()}" is unknown here`);
  return type;
}

/** Type of a constant that names none. */
function plainType(
  node: ts.Expression | undefined,
  own: ReadonlyMap<string, Offer>,
  known: ReadonlyMap<string, Offer>,
): Type {
  if (!node) throw new Error('a variable begins with a value');
  if (node.kind === ts.SyntaxKind.TrueKeyword || node.kind === ts.SyntaxKind.FalseKeyword) return 'bool';
  if (ts.isPrefixUnaryExpression(node)) return plainType(node.operand, own, known);
  if (ts.isParenthesizedExpression(node)) return plainType(node.expression, own, known);
  if (ts.isBinaryExpression(node)) return plainType(node.left, own, known);
  if (ts.isTypeAssertionExpression(node)) return namedType(node.type);
  if (ts.isIdentifier(node)) return (own.get(node.text) ?? known.get(node.text))?.type ?? 'i32';
  if (ts.isNumericLiteral(node)) return /[.]|e-/.test(node.getText()) ? 'f64' : 'i32';
  throw new NotOfTheKernel(node, 'a constant of this kind needs its type');
}

/** @param imported what the modules that a source names offer, by the name it has there */
export function translate(
  file: string,
  source: string,
  imported: (module: string) => Offers,
): { code: string; map: ReturnType<MagicString['generateMap']> } {
  const text = new MagicString(source);
  new Translation(parse(file, source), text, imported).module();
  return { code: text.toString(), map: text.generateMap({ source: file, includeContent: true, hires: true }) };
}

const ARITHMETIC = new Map<ts.SyntaxKind, string>([
  [ts.SyntaxKind.PlusToken, '+'],
  [ts.SyntaxKind.MinusToken, '-'],
  [ts.SyntaxKind.AsteriskToken, '*'],
  [ts.SyntaxKind.SlashToken, '/'],
  [ts.SyntaxKind.PercentToken, '%'],
  [ts.SyntaxKind.AmpersandToken, '&'],
  [ts.SyntaxKind.BarToken, '|'],
  [ts.SyntaxKind.CaretToken, '^'],
  [ts.SyntaxKind.LessThanLessThanToken, '<<'],
  [ts.SyntaxKind.GreaterThanGreaterThanToken, '>>'],
]);

const ASSIGNED = new Map<ts.SyntaxKind, string>([
  [ts.SyntaxKind.PlusEqualsToken, '+'],
  [ts.SyntaxKind.MinusEqualsToken, '-'],
  [ts.SyntaxKind.AsteriskEqualsToken, '*'],
  [ts.SyntaxKind.SlashEqualsToken, '/'],
  [ts.SyntaxKind.AmpersandEqualsToken, '&'],
  [ts.SyntaxKind.BarEqualsToken, '|'],
  [ts.SyntaxKind.CaretEqualsToken, '^'],
  [ts.SyntaxKind.LessThanLessThanEqualsToken, '<<'],
  [ts.SyntaxKind.GreaterThanGreaterThanEqualsToken, '>>'],
]);

/** How an operation of two numbers of a type is written: before, between, behind. */
function written(operator: string, type: Type): [before: string, between: string, behind: string] {
  if (type === 'f32') return ['fround(', operator, ')'];
  if (type === 'f64') return ['(', operator, ')'];
  const signed = type !== 'u32';
  if (operator === '*') return [signed ? 'imul(' : 'umul(', ',', ')'];
  if (signed) return ['((', operator, ')|0)'];
  return ['((', operator === '>>' ? '>>>' : operator, ')>>>0)'];
}

class Translation {
  private readonly known = new Map<string, Offer>();
  private readonly scopes: Map<string, Type>[] = [];

  constructor(
    private readonly tree: ts.SourceFile,
    private readonly text: MagicString,
    private readonly imported: (module: string) => Offers,
  ) {}

  module(): void {
    for (const statement of this.tree.statements) {
      if (!ts.isImportDeclaration(statement)) continue;
      const offers = this.imported((statement.moduleSpecifier as ts.StringLiteral).text);
      const names = statement.importClause?.namedBindings as ts.NamedImports;
      for (const { name, propertyName } of names.elements) {
        const offer = offers.get((propertyName ?? name).text);
        if (!offer) throw new NotOfTheKernel(name, `"${name.text}" is not offered there`);
        this.known.set(name.text, offer);
      }
    }
    for (const statement of this.tree.statements) declare(statement, this.known, this.known);
    for (const statement of this.tree.statements) {
      if (ts.isFunctionDeclaration(statement)) this.function(statement);
      else if (ts.isVariableStatement(statement)) this.variables(statement.declarationList);
      else if (!ts.isImportDeclaration(statement) && !ts.isExportDeclaration(statement))
        throw new NotOfTheKernel(statement, 'only imports, variables and functions stand in a module');
    }
    this.text.prepend(
      `import { ${MACHINE.map((name) => `${name} as ${PREFIX}${name}`).join(', ')} } from '@machine'; `,
    );
  }

  private function({ parameters, body, type }: ts.FunctionDeclaration): void {
    this.scopes.push(new Map(parameters.map((each) => [each.name.getText(), namedType(each.type!)])));
    this.block(body!, type ? namedType(type) : 'void');
    this.scopes.pop();
  }

  private block(block: ts.Block, result: Type): void {
    this.scopes.push(new Map());
    for (const each of block.statements) this.statement(each, result);
    this.scopes.pop();
  }

  private statement(node: ts.Statement, result: Type): void {
    if (ts.isBlock(node)) return this.block(node, result);
    if (ts.isVariableStatement(node)) return this.variables(node.declarationList);
    if (ts.isExpressionStatement(node)) return void this.expression(node.expression);
    if (ts.isReturnStatement(node)) return node.expression && void this.fit(node.expression, result);
    if (ts.isIfStatement(node)) {
      this.expression(node.expression);
      this.statement(node.thenStatement, result);
      if (node.elseStatement) this.statement(node.elseStatement, result);
      return;
    }
    if (ts.isForStatement(node)) {
      this.scopes.push(new Map());
      if (node.initializer && ts.isVariableDeclarationList(node.initializer)) this.variables(node.initializer);
      if (node.condition) this.expression(node.condition);
      if (node.incrementor) this.expression(node.incrementor);
      this.statement(node.statement, result);
      this.scopes.pop();
      return;
    }
    if (ts.isWhileStatement(node)) {
      this.expression(node.expression);
      return this.statement(node.statement, result);
    }
    if (ts.isDoStatement(node)) {
      this.statement(node.statement, result);
      return void this.expression(node.expression);
    }
    if (ts.isBreakStatement(node) || ts.isContinueStatement(node)) return;
    throw new NotOfTheKernel(node, 'a statement of this kind is not part of the kernel');
  }

  private variables({ declarations }: ts.VariableDeclarationList): void {
    for (const { name, type, initializer } of declarations) {
      const named = type && namedType(type);
      const found = named ? (this.fit(initializer!, named), named) : this.expression(initializer!);
      this.scopes.at(-1)?.set(name.getText(), found);
    }
  }

  private typeOf(name: ts.Identifier): Type {
    for (let k = this.scopes.length - 1; k >= 0; k--) {
      const type = this.scopes[k]!.get(name.text);
      if (type) return type;
    }
    const type = this.known.get(name.text)?.type;
    if (!type) throw new NotOfTheKernel(name, `"${name.text}" is unknown here`);
    return type;
  }

  /** An expression whose value goes where a type is expected. */
  private fit(node: ts.Expression, type: Type): void {
    const found = this.expression(node, type);
    if (type === 'f32' && found !== 'f32') this.wrap(node, 'fround(', ')');
  }

  private wrap(node: ts.Node, before: string, behind: string): void {
    this.text.appendLeft(node.getEnd(), mark(behind));
    this.text.prependRight(node.getStart(), mark(before));
  }

  /** Translates an expression and tells its type; a number without one takes that which is expected. */
  private expression(node: ts.Expression, expected?: Type): Type {
    if (ts.isParenthesizedExpression(node)) return this.expression(node.expression, expected);
    if (ts.isIdentifier(node)) return node.text === 'Infinity' ? 'f32' : this.typeOf(node);
    if (ts.isNumericLiteral(node)) return this.number(node, expected);
    if (node.kind === ts.SyntaxKind.TrueKeyword || node.kind === ts.SyntaxKind.FalseKeyword) return 'bool';
    if (ts.isPrefixUnaryExpression(node)) return this.prefix(node, expected);
    if (ts.isPostfixUnaryExpression(node)) return this.expression(node.operand);
    if (ts.isTypeAssertionExpression(node)) return this.conversion(node);
    if (ts.isConditionalExpression(node)) {
      this.expression(node.condition);
      const first = this.expression(node.whenTrue, expected);
      this.expression(node.whenFalse, expected ?? first);
      return expected === 'f32' ? 'f32' : first;
    }
    if (ts.isBinaryExpression(node)) return this.binary(node, expected);
    if (ts.isCallExpression(node)) return this.call(node, expected);
    throw new NotOfTheKernel(node, 'an expression of this kind is not part of the kernel');
  }

  private number(node: ts.NumericLiteral, expected?: Type): Type {
    const type =
      expected && expected !== 'bool' && expected !== 'void' ? expected : plainType(node, this.known, this.known);
    if (type === 'f32') {
      const value = Number(node.text);
      if (Math.fround(value) !== value) this.wrap(node, 'fround(', ')');
    }
    return type;
  }

  private prefix(node: ts.PrefixUnaryExpression, expected?: Type): Type {
    if (node.operator === ts.SyntaxKind.ExclamationToken) {
      this.expression(node.operand);
      return 'bool';
    }
    const type = this.expression(node.operand, expected);
    if (node.operator === ts.SyntaxKind.TildeToken && type === 'u32') this.wrap(node, '(', '>>>0)');
    return type;
  }

  private conversion(node: ts.TypeAssertion): Type {
    const to = namedType(node.type);
    const from = this.expression(node.expression, ts.isNumericLiteral(node.expression) ? to : undefined);
    this.text.remove(node.getStart(), node.expression.getStart());
    const start = node.expression;
    if (to === from) this.wrap(start, '(', ')');
    else if (to === 'f32') this.wrap(start, 'fround(', ')');
    else if (to === 'f64') this.wrap(start, '+(', ')');
    else if (to === 'i32') this.wrap(start, '((', ')|0)');
    else if (to === 'u32') this.wrap(start, '((', ')>>>0)');
    else if (to === 'bool') this.wrap(start, '!!(', ')');
    return to;
  }

  private binary(node: ts.BinaryExpression, expected?: Type): Type {
    const kind = node.operatorToken.kind;
    if (kind === ts.SyntaxKind.EqualsToken) {
      const type = this.typeOf(node.left as ts.Identifier);
      this.fit(node.right, type);
      return type;
    }
    const assigned = ASSIGNED.get(kind);
    if (assigned) {
      const type = this.typeOf(node.left as ts.Identifier);
      this.expression(node.right, type);
      const [before, between, behind] = written(assigned, type);
      this.text.overwrite(
        node.operatorToken.getStart(),
        node.operatorToken.getEnd(),
        mark(`= ${before}${node.left.getText()}${between}(`),
      );
      this.text.appendLeft(node.getEnd(), mark(`)${behind}`));
      return type;
    }
    const arithmetic = ARITHMETIC.get(kind);
    if (!arithmetic) {
      // Comparisons and what joins them.
      const joins = kind === ts.SyntaxKind.AmpersandAmpersandToken || kind === ts.SyntaxKind.BarBarToken;
      const left = this.operand(node.left, node.right, undefined);
      this.expression(node.right, joins ? undefined : left);
      return 'bool';
    }
    const left = this.operand(node.left, node.right, expected);
    const right = this.expression(node.right, left);
    const type = left === 'bool' ? 'i32' : left === 'f32' || right !== 'f32' ? left : right;
    const [before, between, behind] = written(arithmetic, type);
    if (between !== node.operatorToken.getText())
      this.text.overwrite(node.operatorToken.getStart(), node.operatorToken.getEnd(), between);
    this.wrap(node, before, behind);
    return type;
  }

  /** The left side of two: a number without a type takes that of the other side. */
  private operand(left: ts.Expression, right: ts.Expression, expected?: Type): Type {
    return this.expression(left, isNumber(left) && !isNumber(right) ? (this.peek(right) ?? expected) : expected);
  }

  /** Type of an expression that is translated later; undefined where it is not plain to see. */
  private peek(node: ts.Expression): Type | undefined {
    if (node.getText() === 'Infinity') return 'f32';
    if (ts.isParenthesizedExpression(node)) return this.peek(node.expression);
    if (ts.isIdentifier(node)) return this.typeOf(node);
    if (ts.isTypeAssertionExpression(node)) return namedType(node.type);
    if (ts.isPrefixUnaryExpression(node)) return this.peek(node.operand);
    if (ts.isBinaryExpression(node)) return this.peek(node.left) ?? this.peek(node.right);
    if (ts.isConditionalExpression(node)) return this.peek(node.whenTrue) ?? this.peek(node.whenFalse);
    if (ts.isCallExpression(node)) {
      const argument = node.typeArguments?.[0];
      if (argument) return namedType(argument);
      const name = node.expression.getText();
      if (name.startsWith('Mathf.')) return 'f32';
      return LANE_RESULTS[name] ?? this.known.get(name)?.type;
    }
    return undefined;
  }

  private call(node: ts.CallExpression, expected?: Type): Type {
    const name = node.expression.getText();
    const { arguments: values } = node;
    const argument = node.typeArguments?.[0];
    const type = argument && namedType(argument);
    const rename = (to: string) =>
      this.text.overwrite(node.expression.getStart(), argument ? argument.getEnd() + 1 : node.expression.getEnd(), to);
    const address = (each: ts.Expression | undefined) => each && this.expression(each, 'u32');
    if (name === 'load') {
      rename(`${PREFIX}load_${argument!.getText()}`);
      values.forEach(address);
      return type!;
    }
    if (name === 'store') {
      rename(`${PREFIX}store_${argument!.getText()}`);
      address(values[0]);
      this.fit(values[1]!, type!);
      address(values[2]);
      return 'void';
    }
    if (name === 'max' || name === 'min' || name === 'abs' || name === 'floor' || name === 'sqrt') {
      let common =
        type ??
        values.map((each) => (isNumber(each) ? undefined : this.peek(each))).find((each) => each) ??
        expected ??
        'i32';
      if (common === 'bool') common = 'i32';
      values.forEach((each) => this.fit(each, common));
      rename(`Math.${name}`);
      if (name === 'sqrt' && common === 'f32') this.wrap(node, 'fround(', ')');
      return common;
    }
    if (name === 'reinterpret') {
      this.expression(values[0]!);
      rename(`${PREFIX}${type === 'f32' ? 'f32_bits' : 'bits_f32'}`);
      return type!;
    }
    if (name === 'nearest' || name === 'ctz' || name === 'unreachable') {
      const found = values.map((each) => this.expression(each, type))[0] ?? 'void';
      rename(`${PREFIX}${name}`);
      return type ?? found;
    }
    const [owner, member] = name.split('.');
    if (member && (owner === 'Mathf' || owner === 'memory')) {
      rename(`${PREFIX}${name}`);
      for (const each of values) this.fit(each, owner === 'Mathf' ? 'f32' : 'u32');
      return owner === 'Mathf' ? 'f32' : 'void';
    }
    if (/^(v128|i32x4|f32x4|i8x16)/.test(name)) {
      rename(`${PREFIX}${name}`);
      const lane = owner === 'f32x4' && (member === undefined || member === 'splat') ? 'f32' : 'u32';
      values.forEach((each) => this.fit(each, lane));
      return LANE_RESULTS[name] ?? 'v128';
    }
    const offer = this.known.get(name);
    if (!offer?.parameters) throw new NotOfTheKernel(node, `"${name}" is no function that is known here`);
    values.forEach((each, k) => this.fit(each, offer.parameters![k]!));
    return offer.type;
  }
}

const isNumber = (node: ts.Expression): boolean =>
  ts.isNumericLiteral(node) ||
  (ts.isPrefixUnaryExpression(node) && isNumber(node.operand)) ||
  (ts.isParenthesizedExpression(node) && isNumber(node.expression));

/** Names of machine.ts cannot meet those of the kernel. */
const PREFIX = '$';
const mark = (code: string): string => code.replace(/\b(fround|imul|umul)\(/g, (call) => PREFIX + call);
