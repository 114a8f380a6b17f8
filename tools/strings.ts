import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import ts from 'typescript';
import { ROOT } from './paths';

/** A text that somebody reads on a screen, in an error, in the command line or in what is published. */
export interface SeenText {
  /** File and line, `app/ui/Shell.tsx:24`. */
  at: string;
  text: string;
  /** The attribute or property that it is the value of: `title`, `label`, `aria-label`, …; null for running text. */
  of: string | null;
}

/** Rooms whose texts people read. */
const ROOMS = ['app', 'core', 'contract', 'server', 'cli'];
const NOT_SOURCE = new Set(['node_modules', 'dist', 'testing', '.expo', 'migrations', 'sql']);
/** Words that people write, addresses for programs, and the like: not said by us. */
const NOT_SAID =
  /core\/readOff\/(bookWords|bookPhrases|tokens|result)\.ts|contract\/routes\.ts|core\/ladder\/outcomeTable\.ts/;
/** Values of one word that are shown as they stand. */
const SHOWN = /^(text|label|title|spoken|says|word|placeholder|head|asks|brief|name|unit|aria-label)$/;

/** All texts that people read, by the compiler's syntax tree; values that are only stored or compared are left out. */
export async function seenTexts(): Promise<SeenText[]> {
  const found: SeenText[] = [];
  for (const room of ROOMS)
    for (const file of await sourcesOf(room))
      if (!NOT_SAID.test(file)) found.push(...textsOf(file, await readFile(join(ROOT, file), 'utf8')));
  return found;
}

async function sourcesOf(folder: string): Promise<string[]> {
  const children = await readdir(join(ROOT, folder), { withFileTypes: true });
  const all = await Promise.all(
    children.map((child) => {
      const path = join(folder, child.name);
      if (child.isDirectory()) return NOT_SOURCE.has(child.name) ? [] : sourcesOf(path);
      return /\.tsx?$/.test(child.name) && !/\.test\.|\.d\.ts$/.test(child.name) ? [path] : [];
    }),
  );
  return all.flat();
}

function textsOf(file: string, source: string): SeenText[] {
  const tree = ts.createSourceFile(
    file,
    source,
    ts.ScriptTarget.Latest,
    true,
    file.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
  );
  const found: SeenText[] = [];
  const take = (node: ts.Node, text: string): void => {
    const plain = text.replaceAll(/\s+/g, ' ').trim();
    const of = valueOf(node);
    // one word that is no shown value is an id, a key or a stored word
    if (
      !/\p{L}/u.test(plain) ||
      (!plain.includes(' ') && !(of !== null && SHOWN.test(of)) && !ts.isJsxText(node))
    )
      return;
    const { line } = tree.getLineAndCharacterOfPosition(node.getStart(tree));
    found.push({ at: `${file}:${line + 1}`, text: plain, of });
  };
  const walk = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node) || ts.isTypeNode(node)) return;
    if (ts.isJsxText(node)) take(node, node.text);
    else if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) {
      if (!isCompared(node)) take(node, node.text);
    } else if (ts.isTemplateExpression(node))
      take(node, [node.head.text, ...node.templateSpans.map(({ literal }) => literal.text)].join(' … '));
    ts.forEachChild(node, walk);
  };
  walk(tree);
  return found;
}

/** Whether a text is only held against another, or the name of a property. */
function isCompared(node: ts.StringLiteralLike): boolean {
  const { parent } = node;
  return (
    ts.isCaseClause(parent) ||
    ts.isElementAccessExpression(parent) ||
    (ts.isPropertyAssignment(parent) && parent.name === node) ||
    (ts.isBinaryExpression(parent) &&
      /Equals(Equals)?(Equals)?Token$/.test(ts.SyntaxKind[parent.operatorToken.kind]))
  );
}

/** The attribute or property whose value a text is, also by way of a choice between two. */
function valueOf(node: ts.Node): string | null {
  for (let at = node.parent; ; at = at.parent) {
    if (ts.isJsxAttribute(at)) return at.name.getText();
    if (ts.isPropertyAssignment(at)) return at.name.getText();
    if (!ts.isConditionalExpression(at) && !ts.isJsxExpression(at) && !ts.isParenthesizedExpression(at))
      return null;
  }
}
