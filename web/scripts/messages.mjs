// Finds every message of the interface: say('…') and msg('…'). As a command it brings
// src/words/en-US.json and en-CA.json up to the code: what is said and is in none gets its
// British text there, to be written; what nobody says goes.
//
//   node scripts/messages.mjs
import fs from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';

const web = path.join(path.dirname(fileURLToPath(import.meta.url)), '..');

/** The files of the interface that say something: no tests, no generated ones. */
export function files() {
  return fs
    .readdirSync(path.join(web, 'src'), { recursive: true })
    .map(String)
    .filter((f) => /\.tsx?$/.test(f) && !/\.test\.|\.d\.ts$|^testing/.test(f) && !f.startsWith('words'))
    .map((f) => path.join(web, 'src', f));
}

export const parse = (file) => ts.createSourceFile(file, fs.readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);

/** A text that is written in the code, in one piece or several. */
function text(n) {
  if (n && ts.isStringLiteralLike(n)) return n.text;
  if (n && ts.isBinaryExpression(n) && n.operatorToken.kind === ts.SyntaxKind.PlusToken) {
    const [a, b] = [text(n.left), text(n.right)];
    if (a !== undefined && b !== undefined) return a + b;
  }
}

/** The messages with where each is said first. */
export function messages() {
  const found = new Map();
  for (const file of files()) {
    const source = parse(file);
    const look = (n) => {
      if (ts.isCallExpression(n) && ts.isIdentifier(n.expression) && ['say', 'msg'].includes(n.expression.text)) {
        const [first] = n.arguments;
        const texts = ts.isConditionalExpression(first) ? [first.whenTrue, first.whenFalse] : [first];
        for (const t of texts.map(text)) if (t !== undefined && !found.has(t)) found.set(t, path.relative(web, file));
      }
      ts.forEachChild(n, look);
    };
    look(source);
  }
  return found;
}

export const locales = ['en-US', 'en-CA'];
const at = (locale) => path.join(web, 'src/words', `${locale}.json`);
export const catalogue = (locale) => JSON.parse(fs.readFileSync(at(locale), 'utf8'));

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const said = [...messages().keys()].sort();
  for (const locale of locales) {
    const had = catalogue(locale);
    fs.writeFileSync(at(locale), JSON.stringify(Object.fromEntries(said.map((m) => [m, had[m] ?? m])), null, 2) + '\n');
  }
  console.log(`${said.length} messages`);
}
