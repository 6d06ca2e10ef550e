// Prints, for a tree of JavaScript and TypeScript files, which file needs what
// another declares, as the TypeScript compiler resolves it: see ../compare.
//
//	usage: node pairs.js TYPESCRIPT-PACKAGE FOLDER > PAIRS.tsv
//
// For each import and export: the module that the compiler finds, and the file
// that declares what is named once aliases are followed; for each member of a
// namespace import that is used: the file that declares it; for each global
// name: the file of the tree that declares it, where that is no module.
const path = require('path');
const ts = require(path.resolve(process.argv[2]));
const root = path.resolve(process.argv[3]);
const fs = require('fs');

const files = [];
(function walk(dir) {
  for (const e of fs.readdirSync(dir, { withFileTypes: true })) {
    const p = path.join(dir, e.name);
    if (e.isDirectory() && e.name !== 'node_modules' && e.name !== '.git') walk(p);
    else if (e.isFile() && /\.(ts|tsx|mts|cts|js|jsx|mjs|cjs)$/.test(e.name)) files.push(p);
  }
})(root);

let options = {};
const config = ts.findConfigFile(root, ts.sys.fileExists);
if (config && config.startsWith(root)) {
  options = ts.parseJsonConfigFileContent(ts.readConfigFile(config, ts.sys.readFile).config, ts.sys, path.dirname(config)).options;
}
const program = ts.createProgram(files, {
  ...options, allowJs: true, checkJs: false, noEmit: true, noLib: false, skipLibCheck: true, types: [], maxNodeModuleJsDepth: 0,
  target: ts.ScriptTarget.ESNext, module: ts.ModuleKind.ESNext, moduleResolution: ts.ModuleResolutionKind.Bundler,
  allowImportingTsExtensions: true, jsx: ts.JsxEmit.Preserve, experimentalDecorators: true, composite: false, incremental: false,
});
const checker = program.getTypeChecker();
const pairs = new Set();
const rel = f => path.relative(root, f);
const inTree = f => f && f.startsWith(root + '/') && !f.includes('/node_modules/');

function pair(from, to) {
  if (to && inTree(to) && to !== from) pairs.add(rel(from) + '\t' + rel(to));
}
function symbolFiles(from, s) {
  if (!s) return;
  try { if (s.flags & ts.SymbolFlags.Alias) s = checker.getAliasedSymbol(s); } catch (e) { return; }
  const d = s.declarations || [];
  const all = new Set(d.map(x => x.getSourceFile().fileName));
  if (all.size === 1) pair(from, [...all][0]);
  else for (const f of all) if (inTree(f) && f !== from) pairs.add('maybe\t' + rel(from) + '\t' + rel(f));
}
for (const sf of program.getSourceFiles()) {
  if (!inTree(sf.fileName)) continue;
  const from = sf.fileName;
  console.log('file\t' + rel(from));
  for (const ref of sf.referencedFiles) pair(from, path.resolve(path.dirname(from), ref.fileName));
  const mod = lit => {
    const r = ts.resolveModuleName(lit.text, from, program.getCompilerOptions(), ts.sys).resolvedModule;
    if (r) pair(from, r.resolvedFileName);
  };
  (function visit(n) {
    if ((ts.isImportDeclaration(n) || ts.isExportDeclaration(n)) && n.moduleSpecifier && ts.isStringLiteral(n.moduleSpecifier)) mod(n.moduleSpecifier);
    if (ts.isExternalModuleReference(n) && n.expression && ts.isStringLiteral(n.expression)) mod(n.expression);
    if (ts.isImportTypeNode(n) && ts.isLiteralTypeNode(n.argument)) { mod(n.argument.literal); if (n.qualifier) symbolFiles(from, checker.getSymbolAtLocation(n.qualifier)); }
    if (ts.isCallExpression(n) && n.arguments.length && ts.isStringLiteralLike(n.arguments[0]) &&
      ((ts.isIdentifier(n.expression) && n.expression.text === 'require' && n.arguments.length === 1))) mod(n.arguments[0]);
    if (ts.isImportSpecifier(n) || ts.isImportClause(n) && n.name || ts.isExportSpecifier(n) && n.parent.parent.moduleSpecifier) {
      symbolFiles(from, checker.getSymbolAtLocation(n.name));
    }
    if (ts.isPropertyAccessExpression(n)) namespaceMember(n.expression, n.name);
    if (ts.isQualifiedName(n)) namespaceMember(n.left, n.right);
    if (ts.isIdentifier(n) && (ts.isTypeReferenceNode(n.parent) || ts.isExpressionWithTypeArguments(n.parent) || ts.isNewExpression(n.parent) && n.parent.expression === n)) {
      const s = checker.getSymbolAtLocation(n);
      if (s && !(s.flags & ts.SymbolFlags.Alias) && s.declarations && s.declarations.some(d => !ts.isExternalModule(d.getSourceFile()))) symbolFiles(from, s);
    }
    ts.forEachChild(n, visit);
  })(sf);
  function namespaceMember(left, right) {
    const s = checker.getSymbolAtLocation(left);
    const through = s && s.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(s) : s;
    if (!s || !(through.flags & ts.SymbolFlags.ValueModule) || !(through.declarations || []).some(ts.isSourceFile)) return;
    let t = checker.getSymbolAtLocation(right);
    if (t && t.flags & ts.SymbolFlags.Alias) t = checker.getAliasedSymbol(t);
    if (t && t.flags & ts.SymbolFlags.ValueModule) { // on the way to what is meant
      for (const d of t.declarations || []) if (inTree(d.getSourceFile().fileName)) pairs.add('maybe\t' + rel(from) + '\t' + rel(d.getSourceFile().fileName));
    } else symbolFiles(from, t);
  }
}
for (const p of [...pairs].sort()) console.log(p);
